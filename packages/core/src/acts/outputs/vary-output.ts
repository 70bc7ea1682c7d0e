import * as z from 'zod';
import { same } from '../../basics/same';
import { count } from '../../basics/words';
import { newId } from '../../document/ids';
import { ordersBetween } from '../../document/order';
import { type Output, recordId } from '../../document/records';
import { FORMAT_LIST, type Format } from '../../formats';
import { sizeRule } from '../../geometry/sizes';
import { atSizes, inFormat, MOST_SIZES, unlikeOthers } from '../../specs/vary-output';
import { defineAct } from '../act';
import { mayHold, outputOf } from './output-of';

export const varyOutput = defineAct({
  name: 'vary-output',
  title: 'Other sizes and formats of an output',
  group: 'Files',
  needs: 'nothing',
  /** `sizes`: the output has the first, copies the others. `formats`: a copy in each, of every size. Names are told apart. */
  settings: z.object({
    outputId: recordId,
    sizes: z.array(sizeRule).min(1).max(MOST_SIZES).optional(),
    formats: z
      .array(z.enum(FORMAT_LIST as [Format, ...Format[]]))
      .max(FORMAT_LIST.length)
      .optional(),
  }),
  nothing: 'It is so already',
  run: (doc, _intent, { outputId, sizes = [], formats = [] }) => {
    const { output, siblings, at } = outputOf(doc, outputId);
    const own = sizes.length > 0 ? atSizes(output, sizes) : [output];
    const others = formats.filter((format) => format !== output.settings.format);
    const [first, ...rest] = own;
    const copies = [...rest, ...others.flatMap((format) => distinct(own.map((each) => inFormat(each, format))))];
    mayHold(siblings.length + copies.length);
    const beside = siblings.filter(({ id }) => id !== outputId);
    const taken = [...beside, first];
    const orders = ordersBetween(output.order, siblings[at + 1]?.order ?? null, copies.length);
    const made = copies.map((copy, i) => {
      const named = unlikeOthers({ ...copy, id: newId(), order: orders[i] }, taken);
      taken.push(named);
      return named;
    });
    const changed = same(first, output) ? [] : [first];
    return {
      label: made.length > 0 ? `add ${count(made.length, 'output')}` : 'change an output',
      puts: [...changed, ...made],
      removes: [],
    };
  },
});

/** Of copies that came out alike, such as vectors of every factor, one. */
function distinct(outputs: readonly Output[]): Output[] {
  const seen = new Map<string, Output>();
  for (const output of outputs) seen.set(JSON.stringify([output.size, output.suffix, output.folder]), output);
  return [...seen.values()];
}
