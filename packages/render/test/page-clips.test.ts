import { printTree, readTree } from '@tolvik/core';
import { rasterise } from '../src/rasterise';
import { withoutPageClips } from '../src/svg/page-clips';

const page = (inner: string, clip = '<path d="M0 0h40v30H0z"/>', attrs = '') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="30" viewBox="0 0 40 30"><defs><clipPath id="c"${attrs}>${clip}</clipPath></defs>${inner}</svg>`;
const ART = '<path fill="#d2452f" d="M-9-9H25V20Z"/><circle cx="38" cy="28" r="9" fill="#1d5fa8"/>';
const on = (attrs = '', inner = ART) => `<g clip-path="url(#c)"${attrs}>${inner}</g>`;

/** How often clips are left, after it was seen that nothing looks different. */
function left(svg: string): number {
  const made = printTree(withoutPageClips(readTree(svg).root));
  const [before, after] = [svg, made].map((each) => rasterise(each, 40, 30).data);
  // On what is clipped the rasteriser smooths edges by another rule.
  expect(Math.max(...before.map((value, i) => Math.abs(value - after[i])))).toBeLessThanOrEqual(24);
  return made.match(/clip-path=|<clipPath/g)?.length ?? 0;
}

test.each([
  ['as large as the page', page(on())],
  ['larger than the page', page(on(), '<rect x="-5" y="-1" width="80" height="90"/>')],
  ['closed twice', page(on(), '<path d="M40 0V30H0V0H40Z"/>')],
  ['in a group that nothing is done to', page(`<g opacity=".5">${on()}</g>`)],
  ['after a filter', page(on(' filter="url(#f)"', ART).replace('<g', '<filter id="f"><feFlood/></filter><g'))],
])('a clip %s cuts nothing off and goes', (_, svg) => expect(left(svg)).toBe(0));

test.each([
  ['smaller than the page', page(on(), '<path d="M0 0h40v29H0z"/>')],
  ['on what is moved', page(on(' transform="translate(5 5)"'))],
  ['in what is moved', page(`<g transform="scale(.5)">${on()}</g>`)],
  ['in what has a filter', page(`<filter id="f"><feOffset dx="4"/></filter><g filter="url(#f)">${on()}</g>`)],
  ['round at its corners', page(on(), '<rect width="40" height="30" rx="8"/>')],
  ['that is no rectangle', page(on(), '<path d="M0 0H40V30H20L0 5Z"/>')],
  ['in the box of what it clips', page(on(), '<rect width="1" height="1"/>', ' clipPathUnits="objectBoundingBox"')],
  ['that is moved itself', page(on(), '<path d="M0 0h40v30H0z"/>', ' transform="translate(3)"')],
  ['of two shapes', page(on(), '<path d="M0 0h40v30H0z"/><path d="M0 0h4v3H0z"/>')],
])('a clip %s stays', (_, svg) => expect(left(svg)).toBe(2));

test('a clip that something else needs stays for it', () =>
  expect(left(page(`${on()}${on(' transform="translate(5 5)"')}`))).toBe(2));
