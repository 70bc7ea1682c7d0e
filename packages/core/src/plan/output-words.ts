import type { Output } from '../document/records';
import { contactSheetOf, FORMATS } from '../formats';
import { sizeWords } from '../geometry/sizes';

type Named = Pick<Output, 'settings' | 'size'>;

/** How large the files of an output are, as it is said: "2×", "64 wide"; of a contact sheet that it is one. */
export const outputSizeWords = ({ settings, size }: Named): string =>
  contactSheetOf(settings) ? 'sheet' : sizeWords(size);

/** "PNG 2×", "PDF sheet". */
export const outputTitle = (output: Named): string =>
  `${FORMATS[output.settings.format].title} ${outputSizeWords(output)}`;
