import {
  type Artboard,
  acts,
  colourFacts,
  coloursUsed,
  handoverVariants,
  inkOf,
  isPlainLockup,
  type ProjectDocument,
  type RecolourRule,
  sourcesOf,
} from '@tolvik/core';
import { usePainter } from '../../painter/use-painter';
import { ColourField } from '../../project/colours/ColourField';
import { useSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { PickOne } from '../../ui/PickOne';
import { act } from '../act';
import { ColourMap } from './ColourMap';
import { InkParts } from './InkParts';
import { LockupFields } from './LockupFields';

const RULES: Record<RecolourRule['kind'], string> = {
  asDrawn: 'as drawn',
  white: 'all white',
  black: 'all black',
  grey: 'grey',
  tint: 'one colour',
  ink: 'one ink, parts kept apart',
  map: 'colour by colour',
};

/** What a gap is wide where nothing else is said, in px of the source. */
const gapOf = (doc: ProjectDocument, artboard: Artboard) => colourFacts(doc, artboard, []).gapPx;

/** What an artboard follows and by which rule; how to stop that, or begin it. */
export function FollowFields({ artboard }: { artboard: Artboard }) {
  const session = useSession();
  const { doc } = session;
  const painter = usePainter();
  const { follows } = artboard;
  const followOther = (sourceId: string) => act(session, acts.follow, { sourceId }, [artboard.id]);
  const sources = doc
    .list('artboard')
    .filter((other) => other.id !== artboard.id && !other.follows)
    .map(({ id, name }) => ({ value: id, title: name }));
  if (!follows) {
    if (sources.length === 0) return null;
    return (
      <label className="mt-2.5 flex items-center gap-2 text-ink-2">
        Follow
        <PickOne
          className="min-w-0 flex-1"
          label="Follow another artboard"
          value=""
          empty={{ value: '', title: 'nothing: it has its own artwork' }}
          options={sources}
          onChange={followOther}
        />
      </label>
    );
  }
  const setRule = (rule: RecolourRule) => act(session, acts.setRule, { rule }, [artboard.id]);
  const { rule, lockup } = follows;
  const colours = coloursUsed(doc, sourcesOf(doc, artboard));
  const chooseRule = async (kind: RecolourRule['kind']) => {
    if (kind === 'tint') return setRule({ kind, colour: colours[0]?.colour ?? '#171b1c' });
    if (kind !== 'map' && kind !== 'ink') return setRule({ kind });
    const measured = await Promise.all(sourcesOf(doc, artboard).map(({ id }) => painter.meetings(id)));
    const facts = colourFacts(
      doc,
      artboard,
      measured.flatMap((each) => each ?? []),
    );
    const proposed = handoverVariants(facts).find(
      ({ key }) => key === (kind === 'map' ? 'reversed' : 'mono-dark'),
    )?.rule;
    if (kind === 'map') return setRule(proposed ?? { kind, colours: [] });
    const plain = { kind: 'ink' as const, colour: inkOf(rule)?.colour ?? '#171b1c', out: [], apart: [], gap: 0 };
    setRule(proposed?.kind === 'ink' ? { ...proposed, colour: plain.colour } : plain);
  };
  return (
    <section aria-label="What it follows" className="mt-3 border-line border-t pt-2.5">
      <h3 className="heading mb-1.5">{lockup ? 'Lockup of' : 'Follows'}</h3>
      {lockup ? (
        <p className="mb-2">
          {doc.find('artboard', follows.artboardId)?.name ?? 'a deleted artboard'} and{' '}
          {doc.find('artboard', lockup.wordmarkId)?.name ?? 'a deleted artboard'}
        </p>
      ) : (
        <PickOne
          className="mb-2 w-full"
          label="Source"
          value={follows.artboardId}
          empty={
            doc.find('artboard', follows.artboardId)
              ? undefined
              : { value: follows.artboardId, title: 'a deleted artboard' }
          }
          options={sources}
          onChange={followOther}
        />
      )}
      {lockup && <LockupFields artboard={artboard} />}
      <label className="flex items-center gap-2 text-ink-2">
        Colours
        <select
          className="field min-w-0 flex-1"
          value={rule.kind}
          onChange={(event) => void chooseRule(event.target.value as RecolourRule['kind'])}
        >
          {Object.entries(RULES).map(([kind, title]) => (
            <option key={kind} value={kind}>
              {title}
            </option>
          ))}
        </select>
      </label>
      {rule.kind === 'tint' && (
        <div className="mt-1.5 flex">
          <ColourField
            label="The one colour"
            value={rule.colour}
            onChange={(colour) => colour !== 'none' && setRule({ kind: 'tint', colour })}
          />
        </div>
      )}
      {rule.kind === 'ink' && <InkParts colours={colours} rule={rule} gap={gapOf(doc, artboard)} onChange={setRule} />}
      {rule.kind === 'map' && (
        <ColourMap colours={colours} rule={rule} ground={artboard.background ?? '#ffffff'} onChange={setRule} />
      )}
      <div className="mt-2.5 flex flex-wrap gap-2">
        <Button small onClick={() => act(session, acts.stopFollowing, {}, [artboard.id])}>
          Stop following
        </Button>
        {isPlainLockup(artboard) && (
          <Button small onClick={() => act(session, acts.makeGuide, {}, [artboard.id])}>
            Guide sheet
          </Button>
        )}
      </div>
    </section>
  );
}
