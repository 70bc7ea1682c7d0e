import { changeColour, projectColours } from '../arrange/project-colours';
import { colourDistance, parseColour } from '../artwork/colour/colours';
import type { Check } from './check';

/** Distance in OKLab below which two colours were probably meant to be one; about half of what the eye can tell side by side. */
const SAME = 0.012;
const MOST_TOLD = 12;
/** A photograph's worth of colours is no palette. */
const LARGEST_PALETTE = 200;

export const coloursAlike: Check = {
  name: 'colours-alike',
  plural: 'colours are nearly the same',
  about: 'Two colours of the project are so near to each other that they were probably meant to be one.',
  example: 'A brand green of #0c6a53 here and #0c6a54 there.',
  survey(_, { doc }) {
    const colours = projectColours(doc);
    if (colours.length > LARGEST_PALETTE) return [];
    const found: ReturnType<NonNullable<Check['survey']>> = [];
    colours.forEach(({ colour, uses }, i) => {
      const here = parseColour(colour);
      const near =
        here && colours.slice(0, i).find((other) => colourDistance(here, parseColour(other.colour) ?? here) < SAME);
      if (near)
        found.push({
          severity: 'warning',
          pieceId: '',
          message: `${colour} (${uses}) is nearly ${near.colour} (${near.uses})`,
          mend: `Make it ${near.colour}`,
          about: `${colour} ${near.colour}`,
        });
    });
    return found.slice(0, MOST_TOLD);
  },
  mend({ about = '' }, { doc }) {
    const [from, to] = about.split(' ');
    const change = from && to ? changeColour(doc, from, to) : null;
    return change && change.puts.length > 0 ? change : null;
  },
};
