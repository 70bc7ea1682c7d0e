/// <reference lib="webworker" />
import { pauseAfter } from './pause-after';

/** What a window says: which project it listens to, under a lock that it holds as long as it lives. */
export type ToSharedEvents = { listen: string; lock: string } | 'leave';
/** What it is told: an event as the server sent it, or that some may have been missed. */
export type FromSharedEvents = { event: unknown } | 'missed';

const scope = self as unknown as SharedWorkerGlobalScope;
/** Windows, with the projects that they listen to. */
const windows = new Map<MessagePort, string>();
/** Those of them that a stream has been open for. */
const known = new Set<MessagePort>();
let events: EventSource | null = null;
let followed = '';
let lost = 0;
let again: ReturnType<typeof setTimeout> | undefined;

const tell = (port: MessagePort, message: FromSharedEvents) => port.postMessage(message);

/** One stream for all windows of a browser, which opens no more than six connections to a server. */
function follow(): void {
  const wanted = [...new Set(windows.values())].sort().join(',');
  if (wanted === followed && events) return;
  clearTimeout(again);
  const before = events;
  followed = wanted;
  events = null;
  before?.close();
  if (wanted === '') return;
  const stream = new EventSource(`/api/events?of=${encodeURIComponent(wanted)}`);
  events = stream;
  stream.onopen = () => {
    lost = 0;
    // Between two streams something may have been told to nobody. Who is new is told the version that there is.
    for (const port of windows.keys()) {
      if (known.has(port)) tell(port, 'missed');
      known.add(port);
    }
  };
  stream.onmessage = ({ data }) => {
    const { projectId, event } = JSON.parse(data) as { projectId: string; event: unknown };
    for (const [port, project] of windows) if (project === projectId) tell(port, { event });
  };
  stream.onerror = () => {
    // A browser tries again by itself, except after an answer that is no stream.
    if (stream.readyState !== EventSource.CLOSED || events !== stream) return;
    events = null;
    lost++;
    again = setTimeout(follow, pauseAfter(lost));
  };
}

function leave(port: MessagePort): void {
  known.delete(port);
  if (windows.delete(port)) follow();
}

scope.onconnect = ({ ports: [port] }) => {
  port.onmessage = ({ data }: MessageEvent<ToSharedEvents>) => {
    if (data === 'leave') return leave(port);
    const isFollowed = events?.readyState === EventSource.OPEN && [...windows.values()].includes(data.listen);
    windows.set(port, data.listen);
    if (isFollowed) {
      known.add(port);
      tell(port, 'missed');
    } else follow();
    // The lock of a window is granted here once the window is gone.
    void navigator.locks?.request(data.lock, () => leave(port));
  };
  port.start();
};
