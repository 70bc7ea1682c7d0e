import type { Gesture, GestureHost, Pointer } from '../gesture';

/** The plane is dragged along. */
export function pan(host: GestureHost, from: Pointer): Gesture {
  let { x, y } = from;
  return {
    cursor: 'grabbing',
    move(at) {
      const { camera } = host;
      host.look({ ...camera, x: camera.x - (at.x - x) / camera.scale, y: camera.y - (at.y - y) / camera.scale });
      x = at.x;
      y = at.y;
      return undefined;
    },
    finish() {},
  };
}
