/** "I need a 12 V 9 Ah": the oldest good one first; another one wants a reason. */
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { isTaken, nominalV, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { picksFor, shelvedSets, type Pick } from '@cork-ember/core/shelf/picking.ts';
import { PLACES, type Place, type PlaceKind } from '@cork-ember/core/shelf/places.ts';
import { whereOf } from '@cork-ember/core/shelf/words.ts';
import { sentenceOf } from '../api/client.ts';
import { shopNow } from '../api/clock.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';

interface TakeDialogProps {
  readonly shelved: readonly Shelved[];
  readonly types: readonly ListedType[];
  readonly onClose: () => void;
}

const GOES_TO = ['sold', 'customer', 'lent'] as const satisfies readonly PlaceKind[];
type GoesTo = (typeof GOES_TO)[number];

/** As many as one looks at. */
const SHOWN = 5;

/** Volts and ampere-hours of what stands there, each once: that is how one is asked for. */
function wishesOf(shelved: readonly Shelved[], types: ReadonlyMap<string, ListedType>) {
  const wishes = new Map<
    string,
    { readonly cells: number; readonly capacityAh: number; readonly label: string }
  >();
  for (const { typeId, place } of shelved) {
    const type = types.get(typeId);
    if (!type || !isTaken(type) || !place || !PLACES[place.kind].isForTaking) continue;
    const { cells, capacityAh } = type;
    const label = `${nominalV(type)} V ${capacityAh} Ah`;
    wishes.set(label, { cells, capacityAh, label });
  }
  return [...wishes.values()].sort((a, b) => a.cells - b.cells || a.capacityAh - b.capacityAh);
}

function Line({ pick, isFirst, onTake }: { pick: Pick; isFirst: boolean; onTake: () => void }) {
  const { one, chargeFirstH, fillFirstH } = pick;
  return (
    <li className="flex items-center gap-3 border-b border-line py-2 last:border-0">
      <div className="min-w-0 flex-1">
        <p>
          <span className="font-bold">{one.tag}</span>{' '}
          <span className="reading">
            {one.prediction ? `${one.prediction.volts.likely.toFixed(2)} V` : ''}
          </span>
        </p>
        <p className="text-sm text-soft">
          {whereOf(one)}, made {one.dateCode}
          {one.grade === null ? '' : `, grade ${one.grade}`}
        </p>
        {fillFirstH !== undefined && (
          <p className="text-sm font-semibold text-brass-ink">
            Filled and charged to order: about {Math.ceil(fillFirstH)} h.{' '}
            <Link to={`/intake?tag=${one.tag}`} className="underline underline-offset-4">
              To intake
            </Link>
          </p>
        )}
        {chargeFirstH !== undefined && (
          <p className="text-sm font-semibold text-brass-ink">
            Charged first: about {Math.ceil(chargeFirstH)} h.{' '}
            <Link to={`/shelf/charge?tags=${one.tag}`} className="underline underline-offset-4">
              To the bench
            </Link>
          </p>
        )}
      </div>
      <Button tone={isFirst ? 'go' : 'plain'} onClick={onTake}>
        Take {one.tag}
      </Button>
    </li>
  );
}

export function TakeDialog({ shelved, types, onClose }: TakeDialogProps) {
  const enter = useEnterOnShelf();
  const byId = useMemo(() => new Map(types.map((type) => [type.id, type])), [types]);
  const wishes = useMemo(() => wishesOf(shelved, byId), [shelved, byId]);
  const [asked, setAsked] = useState('');
  const [goesTo, setGoesTo] = useState<GoesTo>('sold');
  const [to, setTo] = useState('');
  const [chosen, setChosen] = useState<string>();
  const [why, setWhy] = useState('');
  const [problem, setProblem] = useState('');
  const [taken, setTaken] = useState<readonly string[]>([]);
  const wish = wishes.find(({ label }) => label === asked);
  const picks = useMemo(() => (wish ? picksFor(shelved, byId, wish, shopNow()) : []), [wish, shelved, byId]);
  const first = picks[0]?.one.tag;
  const sets = useMemo(() => shelvedSets(shelved), [shelved]);
  const place: Place = { kind: goesTo, name: '', ...(to.trim() === '' ? {} : { to: to.trim() }) };
  const takeSet = async (tags: readonly string[]): Promise<void> => {
    try {
      for (const tag of tags) await enter(tag, { kind: 'placed', payload: { place } });
      setTaken(tags);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  const take = async (tag: string): Promise<void> => {
    try {
      await enter(tag, {
        kind: 'placed',
        payload: {
          place,
          ...(why.trim() === '' ? {} : { why: why.trim() }),
        },
      });
      setTaken([tag]);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  if (taken.length > 0)
    return (
      <Dialog
        title={taken.length === 1 ? `${taken[0] ?? ''} is taken` : `${taken.length} are taken`}
        said={`From now on ${PLACES[goesTo].where}.`}
        onClose={onClose}
      >
        <div className="mt-4 flex flex-wrap gap-3">
          {taken.map((tag) => (
            <a
              key={tag}
              href={`/api/batteries/${tag}/hand-over.pdf`}
              download
              className={buttonClass({ tone: 'go', className: 'min-h-16 flex-1 text-lg' })}
            >
              {taken.length > 1 && `${tag}: `}
              {goesTo === 'lent' ? 'Loan slip (PDF)' : 'Hand-over sheet (PDF)'}
            </a>
          ))}
          <Button className="min-h-16" onClick={onClose}>
            Done
          </Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog
      title="Take one"
      said="The oldest good one goes first."
      onClose={onClose}
      className="w-[min(40rem,94vw)]"
    >
      <div className="mt-4 space-y-4">
        <Combobox
          label="What is needed"
          value={asked}
          choices={wishes.map(({ label }) => ({ value: label, label }))}
          onChoose={(next) => {
            setAsked(next);
            setChosen(undefined);
          }}
          placeholder="Volts and ampere-hours"
          className="w-full"
        />
        <Choice
          legend="Where does it go?"
          kind="pill"
          options={GOES_TO.map((id) => ({ id, label: PLACES[id].name }))}
          chosen={goesTo}
          onChoose={setGoesTo}
        />
        {goesTo !== 'sold' && <TextBox label="Who has it" value={to} onChange={setTo} most={80} />}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        {wish && picks.length === 0 && <p className="text-soft">None that serves is good enough to go.</p>}
        {!wish && sets.length > 0 && (
          <section aria-label="Sets">
            <p className="font-semibold">Or a whole set:</p>
            <ul>
              {sets.map(({ name, members, isReady }) => (
                <li key={name} className="flex items-center gap-3 border-b border-line py-2 last:border-0">
                  <div className="min-w-0 flex-1">
                    <p className="font-bold">{name}</p>
                    <p className="text-sm text-soft">
                      {members.map(({ tag }) => tag).join(', ')}
                      {isReady ? '' : '; not all of them are charged and at hand'}
                    </p>
                  </div>
                  <Button
                    aria-label={`Take the set ${name}`}
                    disabled={!isReady}
                    onClick={() => void takeSet(members.map(({ tag }) => tag))}
                  >
                    Take the set
                  </Button>
                </li>
              ))}
            </ul>
          </section>
        )}
        <ul>
          {picks.slice(0, SHOWN).map((pick) => (
            <Line
              key={pick.one.tag}
              pick={pick}
              isFirst={pick.one.tag === first}
              onTake={() => (pick.one.tag === first ? void take(pick.one.tag) : setChosen(pick.one.tag))}
            />
          ))}
        </ul>
        {chosen !== undefined && (
          <form
            className="space-y-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (why.trim() === '') setProblem(`Say why ${chosen} goes before ${first ?? 'the oldest'}.`);
              else void take(chosen);
            }}
          >
            <TextBox
              label={`Why ${chosen}, and not ${first ?? 'the oldest'}?`}
              value={why}
              onChange={setWhy}
              most={200}
            />
            <Button type="submit" tone="go" className="min-h-16 w-full text-lg">
              Take {chosen} all the same
            </Button>
          </form>
        )}
        <Button tone="quiet" onClick={onClose}>
          Close
        </Button>
      </div>
    </Dialog>
  );
}
