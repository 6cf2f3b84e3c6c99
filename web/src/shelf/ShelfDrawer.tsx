/** One battery off the bench: what is foretold of it and why, a reading of it, and where it goes. */
import { Link } from 'react-router';
import { useState } from 'react';
import { dayText } from '@cork-ember/core/clock/clockText.ts';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import type { Place, PlaceKind } from '@cork-ember/core/shelf/places.ts';
import type { DateRange, Prediction } from '@cork-ember/core/shelf/prediction.ts';
import { saidOf, whereOf } from '@cork-ember/core/shelf/words.ts';
import { sentenceOf } from '../api/client.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings } from '../readings/useReadings.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { readFields, readOf } from './fields.ts';
import { Refit } from './Refit.tsx';
import { Tend } from './Tend.tsx';
import { PlaceForm } from './PlaceForm.tsx';

interface ShelfDrawerProps {
  readonly one: Shelved;
  readonly known: readonly Place[];
  readonly now: number;
  readonly timeZone: string;
  readonly onClose: () => void;
}

interface Fact {
  readonly name: string;
  readonly value: string;
  /** What it may be as well. */
  readonly range?: string;
}

function dateFact(name: string, { early, likely, late }: DateRange, now: number, timeZone: string): Fact {
  const day = (at: number | undefined): string =>
    at === undefined ? 'years away' : dayText(at, now, timeZone);
  if (likely !== undefined && likely <= now) return { name, value: `since ${day(likely)}` };
  return early === undefined
    ? { name, value: day(early) }
    : { name, value: day(likely), range: `${day(early)} to ${day(late)}` };
}

/** Where it has a machine to start. */
const STARTS: readonly (PlaceKind | undefined)[] = ['laidUp', 'lent', 'display'];

function factsOf(one: Shelved, prediction: Prediction, now: number, timeZone: string): readonly Fact[] {
  const { chargedAt, lastRead, rechargeV, harmV } = one;
  const { volts, rate, recharge, harm, start, readings } = prediction;
  const day = (at: number): string => dayText(at, now, timeZone);
  return [
    {
      name: 'Rests at now',
      value: `${volts.likely.toFixed(2)} V`,
      range: `${volts.low.toFixed(2)} to ${volts.high.toFixed(2)} V`,
    },
    ...(chargedAt === undefined ? [] : [{ name: 'Charged', value: day(chargedAt) }]),
    ...(lastRead ? [{ name: 'Read', value: `${lastRead.volts.toFixed(2)} V`, range: day(lastRead.at) }] : []),
    dateFact(`Recharge line, ${rechargeV.toFixed(2)} V`, recharge, now, timeZone),
    dateFact(`Harm line, ${harmV.toFixed(2)} V`, harm, now, timeZone),
    ...(STARTS.includes(one.place?.kind) ? [dateFact('Starts no more', start, now, timeZone)] : []),
    {
      name: 'Loses, against its kind',
      value: `${rate.likely.toFixed(1)} times`,
      range: `${rate.low.toFixed(1)} to ${rate.high.toFixed(1)}${readings === 0 ? ', not read yet' : ''}`,
    },
  ];
}

function Foretold({ one, now, timeZone }: Pick<ShelfDrawerProps, 'one' | 'now' | 'timeZone'>) {
  const { prediction, place } = one;
  if (!prediction)
    return (
      <p className="text-soft">
        {place?.kind === 'maintainer'
          ? 'Its maintainer holds it full.'
          : 'Nothing is known of its charge: read it.'}
      </p>
    );
  return (
    <dl className="grid grid-cols-[1fr_auto] gap-x-4 gap-y-1">
      {factsOf(one, prediction, now, timeZone).map(({ name, value, range }) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd className="reading text-right">
            {value}
            {range !== undefined && <span className="block text-sm text-soft">{range}</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}

export function ShelfDrawer({ one, known, now, timeZone, onClose }: ShelfDrawerProps) {
  const enter = useEnterOnShelf();
  const [problem, setProblem] = useState('');
  const [isRefitting, setRefitting] = useState(false);
  const [isMoving, setMoving] = useState(one.place === undefined);
  const fields = readFields(one.cells, one.prediction?.volts.likely);
  const readings = useReadings(`${one.tag} shelf`, fields);
  const said = saidOf(one, now, timeZone);
  const take = async (entry: ShelfEntry): Promise<boolean> => {
    try {
      await enter(one.tag, entry);
      setProblem('');
      return true;
    } catch (error) {
      setProblem(sentenceOf(error));
      return false;
    }
  };
  return (
    <Dialog isDrawer title={one.tag} said={whereOf(one)} onClose={onClose}>
      <div className="mt-3 space-y-5">
        <p className="text-lg font-semibold">{said.words}</p>
        {!isMoving && !isRefitting && <Foretold one={one} now={now} timeZone={timeZone} />}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        {isRefitting ? (
          <Refit one={one} onPlace={(entry) => void take(entry).then((isTaken) => isTaken && onClose())} />
        ) : isMoving ? (
          <PlaceForm
            known={known}
            was={one.place}
            onPlace={(place) =>
              void take({ kind: 'placed', payload: { place } }).then((isTaken) => isTaken && onClose())
            }
          />
        ) : (
          <>
            {one.place?.kind === 'maintainer' ? (
              <Tend one={one} onTend={(entry) => take(entry)} />
            ) : (
              <ReadingForm
                readings={readings}
                fields={fields}
                job={one.tag}
                answer="Record the reading"
                onTake={(taken) => take({ kind: 'read', payload: readOf(taken) })}
              />
            )}
            <div className="flex flex-wrap gap-2">
              <Button onClick={() => setMoving(true)}>Move it</Button>
              <Link to={`/shelf/charge?tags=${one.tag}`} className={buttonClass()}>
                Charge it
              </Link>
              {one.prediction?.isSuspect && (
                <Link to={`/intake?tag=${one.tag}`} className={buttonClass({ tone: 'go' })}>
                  Find out why
                </Link>
              )}
              {one.place?.kind === 'display' && (
                <Button onClick={() => setRefitting(true)}>Its machine is sold</Button>
              )}
              {one.place?.machine !== undefined && (
                <Link to={`/shelf/machines/${one.place.machine}`} className={buttonClass()}>
                  Its machine
                </Link>
              )}
              {one.set !== undefined && (
                <Button tone="quiet" onClick={() => void take({ kind: 'joined', payload: { set: '' } })}>
                  Out of its set
                </Button>
              )}
              <Link to={`/batteries/${one.tag}`} className={buttonClass({ tone: 'quiet' })}>
                Its whole life
              </Link>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
