import * as z from 'zod';
import { plainColour } from '../../arrange/project-colours';
import { refuse } from '../../basics/problem';
import { type BrandColour, brandColour, hexColour, MAX_BRAND_COLOURS, settingsRecord } from '../../document/records';
import { defineAct } from '../act';
import { differing } from '../editions/differing';

const { name, cmyk, spot } = brandColour.shape;

export const setColour = defineAct({
  name: 'set-colour',
  title: 'What is known of a colour',
  group: 'Files',
  needs: 'nothing',
  /** Its name, its CMYK in percent, its spot colour; null for none, what is not said stays. */
  settings: z.object({ colour: hexColour, name: name.nullable(), cmyk: cmyk.nullable(), spot: spot.nullable() }),
  nothing: 'That is known of it already',
  run: (doc, _intent, { colour: said, ...facts }) => {
    const colour = plainColour(said) ?? said;
    const all = doc.settings.colours ?? [];
    const next: BrandColour = { ...all.find((each) => each.colour === colour), colour };
    for (const field of ['name', 'cmyk', 'spot'] as const) if (facts[field] === null) delete next[field];
    if (facts.name) next.name = facts.name;
    if (facts.cmyk) next.cmyk = facts.cmyk;
    if (facts.spot) next.spot = facts.spot;
    const says = Object.keys(next).length > 1;
    const isKnown = all.some((each) => each.colour === colour);
    if (says && !isKnown && all.length >= MAX_BRAND_COLOURS)
      refuse('colours.many', `a project knows ${MAX_BRAND_COLOURS} colours at most`);
    const colours = says
      ? isKnown
        ? all.map((each) => (each.colour === colour ? next : each))
        : [...all, next]
      : all.filter((each) => each.colour !== colour);
    const puts = says || isKnown ? differing(doc, [settingsRecord.parse({ ...doc.settings, colours })]) : [];
    return { label: `what is known of ${colour}`, puts, removes: [] };
  },
});
