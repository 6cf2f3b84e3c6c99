/** The round: along the shelf with a meter. A battery by its place or by a scan, its volts, Enter, the answer, the next. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';
import { byPlace, isOnRound, isWantedBy, saidOf, whereOf } from '@cork-ember/core/shelf/words.ts';
import { sentenceOf } from '../api/client.ts';
import { useMinute } from '../api/clock.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { useShelf } from '../api/shelf.ts';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings, type TakenReadings } from '../readings/useReadings.ts';
import { Announced } from '../ui/Announced.tsx';
import { Button, buttonClass } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { TONES } from '../ui/tones.ts';
import { readFields, readOf } from './fields.ts';

interface AtProps {
  readonly one: Shelved;
  /** Of the store, read once for all. */
  readonly storeC: number | undefined;
  readonly onRead: () => void;
}

/** The battery in front of whoever walks. */
function At({ one, storeC, onRead }: AtProps) {
  const enter = useEnterOnShelf();
  const [problem, setProblem] = useState('');
  const [volts] = useMemo(() => readFields(one.cells, one.prediction?.volts.likely), [one]);
  const fields = useMemo(() => (volts ? [volts] : []), [volts]);
  const readings = useReadings(`${one.tag} round`, fields);
  const form = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const field = form.current?.querySelector('input');
    if (field) focusQuietly(field);
  }, [one.tag]);
  const take = async (taken: TakenReadings): Promise<boolean> => {
    if (Number.isNaN(storeC)) {
      setProblem('Warmth here: a number from −40 to 60 °C, or nothing.');
      return false;
    }
    try {
      const read = readOf(taken);
      await enter(one.tag, {
        kind: 'read',
        payload: storeC === undefined ? read : { ...read, tempC: storeC },
      });
      onRead();
      return true;
    } catch (error) {
      setProblem(sentenceOf(error));
      return false;
    }
  };
  return (
    <section aria-labelledby="at-title" className={card({ edge: 'first', pad: 'wide' })} ref={form}>
      <h2 id="at-title" className="text-3xl font-bold">
        {one.tag}
      </h2>
      <p className="text-soft">{whereOf(one)}</p>
      {one.prediction && (
        <p className="mt-1">
          About <span className="reading">{one.prediction.volts.likely.toFixed(2)} V</span> is expected.
        </p>
      )}
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <div className="mt-3">
        <ReadingForm
          readings={readings}
          fields={fields}
          job={one.tag}
          answer="Record, and the next"
          onTake={take}
        />
      </div>
    </section>
  );
}

function Round({ shelved, timeZone }: { shelved: readonly Shelved[]; timeZone: string }) {
  const now = useMinute();
  const [params, setParams] = useSearchParams();
  const [storeC, setStoreC] = useState<number>();
  // Who is to be read stands when the round begins: an answer does not make the row shorter under one's feet.
  const [begun] = useState(() =>
    shelved
      .filter((one) => isOnRound(one, now))
      .sort(byPlace)
      .map(({ tag }) => tag),
  );
  const [read, setRead] = useState<readonly string[]>([]);
  const [passed, setPassed] = useState<readonly string[]>([]);
  const byTag = useMemo(() => new Map(shelved.map((battery) => [battery.tag, battery])), [shelved]);
  const scanned = params.get('tag') ?? undefined;
  // What a colleague took away meanwhile is not waited for; what is scanned is read, read before or not.
  const left = begun.filter((tag) => byTag.has(tag) && !read.includes(tag) && !passed.includes(tag));
  const isScanned = scanned !== undefined && byTag.has(scanned);
  const one = byTag.get(isScanned ? scanned : (left[0] ?? ''));
  const answered = byTag.get(read[0] ?? '');
  const answer = answered && saidOf(answered, now, timeZone);
  const toCharge = shelved.filter((battery) => isWantedBy(battery, 'recharge', now + DAY_MS));
  const goOn = (seen: (change: (before: readonly string[]) => readonly string[]) => void): void => {
    if (!one) return;
    seen((before) => [one.tag, ...before.filter((tag) => tag !== one.tag)]);
    if (scanned !== undefined) setParams({}, { replace: true });
  };
  return (
    <div className="mx-auto max-w-3xl space-y-4 p-4">
      <div className="flex flex-wrap items-end gap-4">
        <div className="mr-auto">
          <Title>Round</Title>
          <p className="text-soft">
            {read.length} read, {left.length} to go. A scan goes to its battery.
          </p>
        </div>
        <div className="w-36">
          <NumberField label="Warmth here" unit="°C" value={storeC} onChange={setStoreC} />
        </div>
      </div>
      {answered && answer && (
        <div className={card({ pad: 'snug', className: 'flex flex-wrap items-baseline gap-x-3' })}>
          <Announced text={`${answered.tag}: ${answer.words}`} />
          <span className="font-bold">{answered.tag}</span>
          <span className="reading">{answered.lastRead?.volts.toFixed(2)} V</span>
          <span className={`font-semibold ${TONES[answer.tone]}`}>{answer.words}</span>
        </div>
      )}
      {scanned !== undefined && !isScanned && (
        <Notice tone="caution">{scanned} does not stand on the shelf.</Notice>
      )}
      {one ? (
        <>
          <At key={one.tag} one={one} storeC={storeC} onRead={() => goOn(setRead)} />
          <Button tone="quiet" onClick={() => goOn(setPassed)}>
            Not here: the next
          </Button>
        </>
      ) : (
        <section className={card({ pad: 'wide' })}>
          <h2 className="text-xl font-bold">
            {begun.length === 0 && read.length === 0 ? 'Nothing is to be read' : 'The round is done'}
          </h2>
          {toCharge.length > 0 && (
            <>
              <p className="mt-2">To be charged: {toCharge.map((battery) => battery.tag).join(', ')}.</p>
              <p className="mt-3">
                <Link
                  to="/shelf/charge"
                  className={buttonClass({ tone: 'go', className: 'min-h-14 text-lg' })}
                >
                  Charge {toCharge.length === 1 ? 'it' : `these ${toCharge.length}`}
                </Link>
              </p>
            </>
          )}
          <p className="mt-4">
            <Link to="/shelf" className={buttonClass({ tone: toCharge.length > 0 ? 'plain' : 'go' })}>
              To the shelf
            </Link>
          </p>
        </section>
      )}
    </div>
  );
}

export function RoundPage() {
  const { shelved, shop, asked } = useShelf();
  if (!shelved || !shop) return <Waiting on={asked} />;
  return <Round shelved={shelved} timeZone={shop.hours.timeZone} />;
}
