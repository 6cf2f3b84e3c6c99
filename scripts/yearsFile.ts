/** A shop's file after five busy years, made of the demo's own jobs: ended ones going back in time, open ones on the bench. */
import type { JobSummary } from '@cork-ember/core/contract/answers.ts';
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { pino } from 'pino';
import { sealed, textOf, type SealContent } from '../server/src/record/seal.ts';
import { openShop } from '../server/src/shopServer.ts';

/** Well-formed, and the same each time the file is made. */
const idOf = (index: number): string => `5ce77e01-0000-4000-8000-${String(index).padStart(12, '0')}`;
/** Whole weeks, so that every job finds the opening hours it was planned by. */
const WEEK_MS = 7 * 86_400_000;
const WEEKS = 260;
const DEMO_START = Date.parse('2026-03-10T11:06:00Z');

interface Template {
  readonly summary: JobSummary;
  readonly events: readonly JobEvent[];
  readonly seal?: SealContent;
}

/** The same job of another battery at another time. */
function retold(events: readonly JobEvent[], id: string, tag: string, later: number): JobEvent[] {
  return events.map((event): JobEvent => {
    const moved = { ...event, job: id, at: event.at + later };
    if (moved.kind !== 'opened') return moved;
    const { payload } = moved;
    return {
      ...moved,
      payload: { ...payload, battery: { ...payload.battery, tag }, promisedAt: payload.promisedAt + later },
    };
  });
}

/**
 * Writes the file.
 * @param ended how many jobs have ended, @param open how many are at work
 * @returns how many entries stand in it
 */
export async function writeYears(file: string, ended: number, open: number): Promise<number> {
  const shop = await openShop({
    file,
    timeZone: 'Etc/UTC',
    isDemo: true,
    demoStart: DEMO_START,
    log: pino({ level: 'error' }),
  });
  const { store, seals, jobs } = shop.services;
  const templates = await Promise.all(
    (await store.jobs()).map(async (summary): Promise<Template> => {
      const [seal] = await seals.seals(summary.id);
      const { log } = await jobs.job(summary.id);
      return { summary, events: log, ...(seal ? { seal: JSON.parse(textOf(seal)) as SealContent } : {}) };
    }),
  );
  const over = templates.filter(({ seal }) => seal !== undefined);
  const atWork = templates.filter(({ seal }) => seal === undefined);
  let entries = 0;
  const put = async (template: Template | undefined, index: number, later: number): Promise<void> => {
    if (!template) throw new Error('the demo has jobs of every kind');
    const id = idOf(index);
    const tag = `YR-${String(index).padStart(5, '0')}`;
    const events = retold(template.events, id, tag, later);
    const { state } = foldJob(events);
    const kept = await store.keeping(events);
    const { serial, dateCode, owner } = state.opened.battery;
    const chain = kept.entries.at(-1)?.hash ?? '';
    const finding = findingOf(state);
    entries += events.length;
    await store.takeJob(
      { tag, typeId: state.opened.type.id, serial, dateCode, owner: `${owner} ${index % 900}` },
      {
        ...template.summary,
        id,
        tag,
        openedAt: state.openedAt,
        endedAt: state.endedAt ?? null,
      },
      {
        ...kept,
        seals: template.seal ? [sealed({ ...template.seal, job: id, chain })] : [],
        finding,
        photos: [],
      },
      true,
    );
  };
  for (let index = 0; index < ended; index++) {
    const later = -WEEK_MS * (1 + Math.floor((WEEKS * index) / ended));
    await put(over[index % over.length], index, later);
  }
  for (let index = 0; index < open; index++) await put(atWork[index % atWork.length], ended + index, 0);
  await shop.close();
  return entries;
}
