/** One battery off the bench: what is foretold of it and why, a reading of it, and where it goes. */
import { Link } from 'react-router';
import { useState } from 'react';
import { dayText } from '@cork-ember/core/clock/clockText.ts';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import type { Place } from '@cork-ember/core/shelf/places.ts';
import type { DateRange } from '@cork-ember/core/shelf/prediction.ts';
import { saidOf, whereOf } from '@cork-ember/core/shelf/words.ts';
import { sentenceOf } from '../api/client.ts';
import { useEnterOnShelf } from '../api/shelf.ts';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings } from '../readings/useReadings.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { readFields, readOf } from './fields.ts';
import { PlaceForm } from './PlaceForm.tsx';

interface ShelfDrawerProps {
  readonly one: Shelved;
  readonly known: readonly Place[];
  readonly now: number;
  readonly timeZone: string;
  readonly onClose: () => void;
}

function rangeWords({ early, likely, late }: DateRange, now: number, timeZone: string): string {
  const day = (at: number | undefined): string =>
    at === undefined ? 'years away' : dayText(at, now, timeZone);
  if (likely !== undefined && likely <= now) return `since ${day(likely)}, likely`;
  return early === undefined ? 'years away' : `${day(likely)}, likely (${day(early)} to ${day(late)})`;
}

function Foretold({ one, now, timeZone }: Pick<ShelfDrawerProps, 'one' | 'now' | 'timeZone'>) {
  const { prediction, chargedAt, lastRead, rechargeV, harmV } = one;
  if (!prediction)
    return (
      <p className="text-soft">
        {one.place?.kind === 'maintainer'
          ? 'Its maintainer holds it full.'
          : 'Nothing is known of its charge: read it.'}
      </p>
    );
  const { volts, rate, recharge, harm, readings } = prediction;
  const rows: readonly (readonly [string, string])[] = [
    ['Rests at now', `${volts.likely.toFixed(2)} V (${volts.low.toFixed(2)} to ${volts.high.toFixed(2)})`],
    ...(chargedAt === undefined ? [] : ([['Charged', dayText(chargedAt, now, timeZone)]] as const)),
    ...(lastRead
      ? ([['Read', `${lastRead.volts.toFixed(2)} V, ${dayText(lastRead.at, now, timeZone)}`]] as const)
      : []),
    [`Recharge line, ${rechargeV.toFixed(2)} V`, rangeWords(recharge, now, timeZone)],
    [`Harm line, ${harmV.toFixed(2)} V`, rangeWords(harm, now, timeZone)],
    [
      'Loses, against its kind',
      `${rate.likely.toFixed(1)} times (${rate.low.toFixed(1)} to ${rate.high.toFixed(1)})${readings === 0 ? ', not read yet' : ''}`,
    ],
  ];
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd className="reading text-right">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

export function ShelfDrawer({ one, known, now, timeZone, onClose }: ShelfDrawerProps) {
  const enter = useEnterOnShelf();
  const [problem, setProblem] = useState('');
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
        <Foretold one={one} now={now} timeZone={timeZone} />
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        {isMoving ? (
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
              <Button
                tone="go"
                className="min-h-16 w-full text-lg"
                onClick={() => void take({ kind: 'tended', payload: {} })}
              >
                Maintainer looked at
              </Button>
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
              <Link to={`/intake?tag=${one.tag}`} className={buttonClass()}>
                Charge it
              </Link>
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
