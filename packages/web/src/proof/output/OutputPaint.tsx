import { FORMATS, type Output } from '@tolvik/core';
import { ColourField } from '../../project/colours/ColourField';
import { Row } from './Row';

const RULES: Partial<Record<Output['recolour']['kind'], string>> = {
  asDrawn: 'As drawn',
  white: 'All white',
  black: 'All black',
  grey: 'Grey',
  tint: 'One colour',
};
/** What stands behind the artwork, and in which colours the artwork is. */
export function OutputPaint({ output, onChange: set }: { output: Output; onChange(fields: Partial<Output>): void }) {
  const { background, recolour } = output;
  const format = FORMATS[output.settings.format];
  return (
    <>
      <Row title="Room">
        <select
          className="field min-w-0 flex-1"
          aria-label="Room around the artwork"
          value={`${output.room ?? 'piece'} ${output.square ?? false}`}
          onChange={({ target }) => {
            const [room, square] = target.value.split(' ');
            set({ room: room as Output['room'], square: square === 'true' });
          }}
        >
          <option value="piece false">As the piece</option>
          <option value="piece true">Square</option>
          <option value="none false">Without clear space</option>
          <option value="none true">Square, without clear space</option>
        </select>
      </Row>
      <Row title="Background">
        <select
          className="field min-w-0 flex-1"
          aria-label="Background"
          value={background.startsWith('#') ? 'colour' : background}
          onChange={(event) =>
            set({
              background:
                event.target.value === 'colour' ? '#ffffff' : (event.target.value as 'piece' | 'ground' | 'none'),
            })
          }
        >
          <option value="piece">{format.transparent ? 'As the piece' : 'As the piece, else white'}</option>
          <option value="ground">Its ground, even if only to look at</option>
          {format.transparent && <option value="none">Transparent</option>}
          <option value="colour">Colour</option>
        </select>
        {background.startsWith('#') && (
          <ColourField
            label="Background colour"
            value={background}
            onChange={(colour) =>
              set({
                background: colour === 'none' && !format.transparent ? '#ffffff' : (colour as Output['background']),
              })
            }
          />
        )}
      </Row>
      <Row title="Artwork">
        <select
          className="field min-w-0 flex-1"
          aria-label="Artwork colour"
          value={recolour.kind}
          onChange={(event) =>
            set({
              recolour:
                event.target.value === 'tint'
                  ? { kind: 'tint', colour: '#0c6a53' }
                  : ({ kind: event.target.value } as Output['recolour']),
            })
          }
        >
          {Object.entries(RULES).map(([kind, title]) => (
            <option key={kind} value={kind}>
              {title}
            </option>
          ))}
        </select>
        {recolour.kind === 'tint' && (
          <ColourField
            label="Colour of the artwork"
            value={recolour.colour}
            onChange={(colour) => set({ recolour: colour === 'none' ? { kind: 'asDrawn' } : { kind: 'tint', colour } })}
          />
        )}
      </Row>
    </>
  );
}
