/** What has been recorded, by whom and when; anything that still stands can be corrected or taken back. */
import { Pencil, Undo2 } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { sayTrouble } from '../ui/say.ts';
import { historyOf, type HistoryEntry } from '@cork-ember/core/runsheet/log/history.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { outlineOf } from '@cork-ember/core/runsheet/log/outline.ts';
import type { Forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import type { EventKind, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import {
  clockText,
  dateText,
  durationText,
  weekdayText,
  whenText,
} from '@cork-ember/core/clock/clockText.ts';
import { shopRegion } from '../region/shopRegion.ts';
import { again, drop, flush } from '../store/outbox.ts';
import type { JobParcel } from '../store/parcel.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { useClaims } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Photos } from './Photos.tsx';
import { RulesOfJob } from './RulesOfJob.tsx';
import { parcelWords } from './parcelWords.ts';
import { later } from '../ui/later.tsx';
import { box } from '../ui/box.ts';

const Correction = later(async () => (await import('./Correction.tsx')).Correction);

/** Readings are corrected; claims are only taken back. */
function canCorrect(event: JobEvent): boolean {
  return event.kind === 'measured' || event.kind === 'chargeRead';
}

const StrikeOut = later(async () => (await import('./Amend.tsx')).StrikeOut);

interface LogPanelProps {
  readonly job: Job;
  readonly parcels: readonly JobParcel[];
  readonly now: number;
  readonly drawn: Forecast;
}

function Refused({ parcel, job }: { parcel: JobParcel; job: Job }) {
  return (
    <Notice tone="stop">
      <p>
        Not recorded: {parcelWords(parcel, job.state)}. {parcel.refused}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => void again(parcel.requestKey, outlineOf(job).seq)}>Enter it again</Button>
        <Button onClick={() => void drop(parcel.requestKey)}>Let go of it</Button>
      </div>
    </Notice>
  );
}

function Note({ job }: { job: Job }) {
  const record = useRecord(job);
  const [text, setText] = useState('');
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (text.trim() === '') return;
    try {
      await record({ kind: 'noted', payload: { text: text.trim() } });
      setText('');
    } catch (error) {
      sayTrouble(sentenceOf(error));
    }
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="mt-2 flex gap-2">
      <input
        aria-label="Note for the log"
        placeholder="Note"
        value={text}
        maxLength={1000}
        onChange={(event) => setText(event.target.value)}
        className={box({ fit: 'inline', className: 'flex-1' })}
      />
      <Button type="submit">Add</Button>
    </form>
  );
}

/** Later than a queue of a few entries explains: it is said. */
const LATE_MS = 120_000;
const isLate = ({ at, recordedAt = at }: HistoryEntry): boolean => recordedAt - at > LATE_MS;

/** What is no reading and no claim: it is not put right. */
const STAYS: readonly EventKind[] = ['opened', 'amended', 'reopened'];

const LOG_BUTTON =
  'flex size-12 shrink-0 items-center justify-center rounded-lg text-soft hover:bg-paper hover:text-char';

/** What an entry said before, and who mended it, why. */
function Before({ was }: Pick<HistoryEntry, 'was'>) {
  return was.map(({ words, by, why, at }) => (
    <span key={at} className="block text-sm text-soft">
      <span className="line-through">{words}</span> · mended by {by}
      {why !== '' && `: ${why}`}
    </span>
  ));
}

function LogRow({
  job,
  entry,
  isClaim,
  onCorrect,
  onUndo,
}: {
  job: Job;
  entry: HistoryEntry;
  /** Under a name that was not proven. */
  isClaim: boolean;
  onCorrect: () => void;
  onUndo: () => void;
}) {
  const { timeZone } = job.state.opened.hours;
  const { at, recordedAt, by, place, event, words, was, takenBack } = entry;
  const isOut = job.state.outcome !== undefined;
  const mayMend = !takenBack && !STAYS.includes(event.kind);
  return (
    <li className="flex min-h-12 items-center gap-1 border-b border-line py-1 last:border-0">
      <span
        className={`reading shrink-0 self-start pt-1 text-sm text-soft ${shopRegion().clock === '12 h' ? 'w-18' : 'w-12'}`}
        title={dateText(at, timeZone)}
      >
        {clockText(at, timeZone)}
      </span>
      <span className="min-w-0 flex-1 leading-snug break-words">
        <span className={`text-[15px] ${takenBack ? 'text-soft line-through' : ''}`}>{words}</span>
        <Before was={was} />
        <span className="block text-sm text-soft">
          {place} · {by}, {weekdayText(at, timeZone)}
          {isClaim && <span className="text-brass-ink"> · as the browser knew it, not confirmed</span>}
          {isLate(entry) && ` · entered ${whenText(recordedAt ?? at, at, timeZone)}`}
          {takenBack && ` · taken back by ${takenBack.by}`}
          {takenBack?.why !== undefined && `: ${takenBack.why}`}
        </span>
      </span>
      {mayMend && canCorrect(event) && (
        <button
          type="button"
          className={LOG_BUTTON}
          onClick={onCorrect}
          aria-label={`${isOut ? 'Amend' : 'Correct'}: ${words}`}
        >
          <Pencil aria-hidden className="size-5" />
        </button>
      )}
      {mayMend && (
        <button
          type="button"
          className={LOG_BUTTON}
          onClick={onUndo}
          aria-label={`${isOut ? 'Strike out' : 'Undo'}: ${words}`}
        >
          <Undo2 aria-hidden className="size-5" />
        </button>
      )}
    </li>
  );
}

export function LogPanel({ job, parcels, now, drawn }: LogPanelProps) {
  const record = useRecord(job);
  const claimed = new Set(useClaims().map(({ key }) => key));
  const [correcting, setCorrecting] = useState<HistoryEntry>();
  const refused = parcels.filter((parcel) => parcel.refused !== undefined);
  const waiting = parcels.length - refused.length;
  const [striking, setStriking] = useState<HistoryEntry>();
  const undo = async (entry: HistoryEntry): Promise<void> => {
    // Papers that are out are not changed by a slip of the thumb.
    if (job.state.outcome !== undefined) return setStriking(entry);
    try {
      await record({ kind: 'undone', payload: { replaces: entry.event.key } });
    } catch (error) {
      sayTrouble(sentenceOf(error));
    }
  };
  return (
    <section aria-labelledby="log-title">
      {!job.state.outcome && (
        <dl className="mb-3 grid grid-cols-2 gap-2 border-b border-line pb-3">
          <div>
            <dt className="text-sm text-soft">Hands still needed</dt>
            <dd className="reading text-lg font-semibold">{Math.round(drawn.handsLeftMin)} min</dd>
          </div>
          <div>
            <dt className="text-sm text-soft">
              {drawn.isOpenEnded ? 'Until the next choice' : 'Until ready'}
            </dt>
            <dd className="reading text-lg font-semibold">{durationText(drawn.readyAt - now)}</dd>
          </div>
        </dl>
      )}
      <h2 id="log-title" className="text-sm font-semibold text-soft">
        Log
      </h2>
      {waiting > 0 && (
        <p role="status" className="mt-2 flex items-center justify-between text-brass-ink">
          {waiting === 1 ? 'One entry is' : `${waiting} entries are`} on the way
          <Button onClick={() => void flush()}>Send now</Button>
        </p>
      )}
      {refused.map((parcel) => (
        <Refused key={parcel.requestKey} parcel={parcel} job={job} />
      ))}
      <Note job={job} />
      <Photos state={job.state} />
      <ol className="mt-1" reversed>
        {historyOf(job)
          .reverse()
          .map((entry) => (
            <LogRow
              key={entry.seq}
              job={job}
              entry={entry}
              isClaim={claimed.has(entry.event.key)}
              onCorrect={() => setCorrecting(entry)}
              onUndo={() => void undo(entry)}
            />
          ))}
      </ol>
      <RulesOfJob state={job.state} />
      {striking && <StrikeOut job={job} entry={striking} onClose={() => setStriking(undefined)} />}
      {correcting && <Correction job={job} entry={correcting} onClose={() => setCorrecting(undefined)} />}
    </section>
  );
}
