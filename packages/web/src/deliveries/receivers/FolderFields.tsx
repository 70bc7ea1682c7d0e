import { Field } from '../../ui/Field';

/** Which folder of the server, and where within it. */
export function FolderFields({
  roots,
  root,
  folder,
  onChange,
}: {
  roots: readonly string[];
  root: string;
  folder: string;
  onChange(fields: { root?: string; folder?: string }): void;
}) {
  return (
    <>
      <Field title="Folder of the server">
        {(id) => (
          <select
            id={id}
            className="field min-w-0 font-mono text-[11.5px]"
            value={root}
            onChange={(event) => onChange({ root: event.target.value })}
          >
            {roots.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        )}
      </Field>
      <Field title="Within it">
        {(id) => (
          <input
            id={id}
            className="field font-mono text-[11.5px]"
            placeholder="the folder itself"
            maxLength={1000}
            value={folder}
            onChange={(event) => onChange({ folder: event.target.value })}
          />
        )}
      </Field>
    </>
  );
}
