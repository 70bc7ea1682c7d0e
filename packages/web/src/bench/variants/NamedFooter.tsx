import { Button } from '../../ui/controls';

type Props = {
  naming: string;
  onNaming(naming: string): void;
  go: string;
  disabled: boolean;
  onGo(): void;
  onClose(): void;
};

/** The foot of a sheet that makes pieces: how they are named, and the act. */
export function NamedFooter({ naming, onNaming, go, disabled, onGo, onClose }: Props) {
  return (
    <>
      <label className="mr-auto flex items-center gap-2 text-ink-2">
        Names
        <input
          className="field w-56 font-mono text-[11.5px]"
          value={naming}
          maxLength={200}
          onChange={(event) => onNaming(event.target.value)}
        />
      </label>
      <Button onClick={onClose}>Not now</Button>
      <Button kind="go" disabled={disabled} onClick={onGo}>
        {go}
      </Button>
    </>
  );
}
