import type { CanvasPaint, CanvasStep } from '@tolvik/core';

/** Steps written down as SVG again, one element each, so that the rasteriser can judge them. */
export function written(steps: readonly CanvasStep[]): string {
  let defs = '';
  let count = 0;
  const paint = (name: string, painted: CanvasPaint | null): string => {
    if (!painted) return ` ${name}="none"`;
    const alpha = ` ${name}-opacity="${painted.alpha}"`;
    if (typeof painted.paint === 'string') return ` ${name}="${painted.paint}"${alpha}`;
    const { stops, kind, ...place } = painted.paint;
    const id = `p${count++}`;
    const inner = stops
      .map((stop) => `<stop offset="${stop.offset}" stop-color="${stop.colour}" stop-opacity="${stop.alpha}"/>`)
      .join('');
    const at = Object.entries(place).map(([side, value]) => ` ${side}="${value}"`);
    defs += `<${kind}Gradient id="${id}" gradientUnits="userSpaceOnUse"${at.join('')}>${inner}</${kind}Gradient>`;
    return ` ${name}="url(#${id})"${alpha}`;
  };
  const one = (step: CanvasStep): string => {
    if (step.kind === 'group') return `<g opacity="${step.alpha}">${step.steps.map(one).join('')}</g>`;
    const { stroke } = step;
    const line = stroke
      ? ` stroke-width="${stroke.width}" stroke-linecap="${stroke.cap}" stroke-linejoin="${stroke.join}" stroke-miterlimit="${stroke.miterLimit}" stroke-dasharray="${stroke.dash.join(' ') || 'none'}" stroke-dashoffset="${stroke.dashOffset}"`
      : '';
    const order = step.strokeFirst ? ' paint-order="stroke"' : '';
    const shape = `<path d="${step.d}" transform="matrix(${step.matrix.join(' ')})" fill-rule="${step.rule}"${paint('fill', step.fill)}${paint('stroke', stroke)}${line}${order}/>`;
    return step.clips.reduceRight((inner, clip) => {
      const id = `p${count++}`;
      defs += `<clipPath id="${id}"><path d="${clip.d}" clip-rule="${clip.rule}" transform="matrix(${clip.matrix.join(' ')})"/></clipPath>`;
      return `<g clip-path="url(#${id})">${inner}</g>`;
    }, shape);
  };
  const body = steps.map(one).join('');
  return `<defs>${defs}</defs>${body}`;
}
