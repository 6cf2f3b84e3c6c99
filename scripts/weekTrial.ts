/**
 * From Friday to Wednesday in the demo: a deep AGM that is woken by its bay's supply, charged, rested, proved by its load, charged again and held, with hands only where
 * hands are asked for; one with a shorted cell that its bay stops by itself in the night; and the first one's twin done by hand. Over real sockets, the clock jumped
 * where nothing flows. `npm run soak:week` writes docs/soak/week.md; a quarter of an hour.
 */
import { randomUUID } from 'node:crypto';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { setTimeout as pass } from 'node:timers/promises';
import { batteryAt } from '@cork-ember/core/adapters/benchBattery.ts';
import { nextOpenMoment } from '@cork-ember/core/clock/shopHours.ts';
import { clockText, weekdayText } from '@cork-ember/core/clock/clockText.ts';
import type { Pace } from '@cork-ember/core/clock/clock.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import type { ClockAnswer, JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import { analyse } from '@cork-ember/core/observation/modelView.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import type { Entry, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { BenchPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import { atHand, treatmentOf, type AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { gradedFrom } from '@cork-ember/core/runsheet/verdict/proof.ts';
import type { StepValues } from '@cork-ember/core/units/values.ts';
import { elapsedNow } from '../server/src/clock/realTime.ts';
import { hiddenIn } from '../server/src/demo/hidden.ts';
import { askerOf } from './asking.ts';
import { buildAll, isBuilt } from './building.ts';
import { startServer } from './startedServer.ts';

const FOLDER = 'data/week';
const RESULTS = 'docs/soak/week.md';
const FRIDAY = '2026-03-13T09:00:00Z';
const ZONE = 'Etc/UTC';
const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const BY = 'Tarek';
const TYPE = CATALOGUE.find(({ id }) => id === 'TQ-A12/30') as (typeof CATALOGUE)[number];
/** A charge may go by faster than a discharge, whose knee is steep. */
const CHARGING: Pace = 600;
const DRAWING: Pace = 60;
const LONGEST_MS = 25 * 60_000;
const EACH_MS = 250;
const source = 'Bench meter';

if (!isBuilt()) await buildAll();
rmSync(FOLDER, { recursive: true, force: true });
mkdirSync(FOLDER, { recursive: true });
const { server, url } = await startServer({
  CORK_EMBER_FILE: `${FOLDER}/shop.sqlite`,
  CORK_EMBER_LOG: 'silent',
  CORK_EMBER_DEMO: 'true',
  CORK_EMBER_DEMO_START: FRIDAY,
  CORK_EMBER_TIME_ZONE: ZONE,
});

const ask = askerOf(() => url);

const now = async (): Promise<number> => (await ask<ClockAnswer>('/api/clock')).shopMs;
const pace = (to: Pace): Promise<unknown> => ask('/api/clock', { pace: to });
const jumpTo = async (to: number): Promise<void> => {
  if (to > (await now())) await ask('/api/clock', { to: Math.ceil(to) });
};
const when = (at: number): string => `${weekdayText(at, ZONE)} ${clockText(at, ZONE)}`;

interface Line {
  readonly at: number;
  readonly minutes: number;
  readonly what: string;
}

/** A battery of the shop, and what hands did for it. */
class Battery {
  readonly hands: Line[] = [];
  private readonly id: string;

  private constructor(id: string) {
    this.id = id;
  }

  static async brought(tag: string, bay: number): Promise<Battery> {
    const { bays } = await ask<BenchPicture>('/api/bench');
    const there = bays.find((one) => one.bay === bay)?.job;
    if (there !== undefined) await new Battery(there).makesRoom();
    const { id } = await ask<JobAnswer>('/api/jobs', {
      battery: { tag, typeId: TYPE.id, serial: '', dateCode: '2023-05', owner: 'stock' },
      procedure: 'recover-agm',
      bay,
      promisedAt: Math.round(await now()) + 12 * 24 * HOUR,
      by: BY,
      requestKey: randomUUID(),
    });
    return new Battery(id);
  }

  private async makesRoom(): Promise<void> {
    const { step } = await this.hand();
    if (step.charge && step.charge.pausedFor === undefined)
      await this.put({ kind: 'chargePaused', payload: { step: step.key, reason: 'stopped' } });
    await this.put({ kind: 'placed', payload: { bay: 0 } });
  }

  async events(): Promise<readonly JobEvent[]> {
    return (await ask<JobAnswer>(`/api/jobs/${this.id}`)).events;
  }

  async hand(): Promise<AtHand> {
    const hand = atHand(foldJob(await this.events()).state, await now());
    if (!hand) throw new Error('the run sheet has ended');
    return hand;
  }

  async put(entry: Entry): Promise<void> {
    const expectedSeq = (await this.events()).at(-1)?.seq ?? 0;
    await ask(`/api/jobs/${this.id}/events`, { expectedSeq, requestKey: randomUUID(), by: BY, entry });
  }

  private async does(entry: Entry, what: string, minutes: number): Promise<void> {
    this.hands.push({ at: await now(), minutes, what });
    await this.put(entry);
  }

  private async read(quantity: InstrumentQuantity): Promise<number> {
    const [instrument] = (await ask<{ id: string; quantities: string[] }[]>('/api/instruments')).filter(
      ({ quantities }) => quantities.includes(quantity),
    );
    const path = `/api/instruments/${instrument?.id ?? ''}/read`;
    const { value } = await ask<{ value: number }>(path, { job: this.id, quantity });
    return Number(value.toFixed(quantity === 'temperature' ? 1 : quantity === 'cranking' ? 0 : 2));
  }

  /** What somebody with the instruments writes down at a step. */
  private async values({ step, state }: AtHand): Promise<StepValues> {
    switch (step.stepId) {
      case 'label':
        return {};
      case 'history':
        return { complaint: 'parked', flatMonths: 5 };
      case 'first-ocv':
        return { ocvV: await this.read('voltage'), tempC: await this.read('temperature'), rested: 'yes' };
      case 'supply-read':
      case 'supply-read-late':
        return { ocvV: await this.read('voltage') };
      case 'prove-load':
        return { method: 'tester', testerA: await this.read('cranking') };
      case 'prove-capacity': {
        const cells = batteryAt(state, await now(), hiddenIn(state));
        const amps = TYPE.capacityAh / 10;
        const seconds = cells ? analyse(cells, amps, 1.75 * TYPE.cells).seconds : 0;
        await jumpTo((await now()) + seconds * 1000);
        return { method: 'tenth', drawnAh: Number(((seconds * amps) / 3600).toFixed(2)) };
      }
      default:
        return { ocvV: await this.read('voltage'), tempC: await this.read('temperature') };
    }
  }

  /** Whatever is at hand, by hand; a charge with its looks to its end. @param way where one is chosen */
  async byHand(way = 'slow-charge'): Promise<void> {
    const hand = await this.hand();
    const { definition, step, title } = hand;
    const { handsMin } = definition;
    const at = { step: step.key };
    await jumpTo(hand.dueAt);
    switch (definition.kind) {
      case 'gate':
      case 'act':
        return this.does({ kind: 'affirmed', payload: at }, title, handsMin);
      case 'dwell':
        return jumpTo(hand.until ?? 0);
      case 'measure':
        return step.stepId === 'first-tester'
          ? this.does({ kind: 'skipped', payload: at }, title, 0)
          : this.does(
              { kind: 'measured', payload: { ...at, values: await this.values(hand), source } },
              title,
              handsMin,
            );
      case 'route':
        return this.does({ kind: 'routed', payload: { ...at, route: way } }, `${title}: ${way}`, handsMin);
      case 'charge':
        return this.chargeByHand(hand);
      case 'decide':
        throw new Error('it is to be graded');
    }
  }

  private async chargeByHand(hand: AtHand): Promise<void> {
    const { step, title, definition, phase } = hand;
    const treatment = treatmentOf(hand.state, step);
    const setA = treatment?.setA ?? 1;
    const last = lastReadingOf(hand.state, step.key);
    const { charge } = step;
    // Whoever stands beside it raises it once it takes what is set.
    if (
      charge &&
      treatment?.isAttended &&
      last &&
      charge.currentA < treatment.mostA &&
      last.currentA >= 0.95 * charge.currentA
    )
      return this.does(
        { kind: 'chargeSet', payload: { step: step.key, currentA: Number(treatment.mostA.toFixed(2)) } },
        'raised',
        1,
      );
    if (phase === 'ready')
      return this.does(
        { kind: 'chargeStarted', payload: { step: step.key, currentA: setA } },
        title,
        definition.handsMin,
      );
    // By night nothing charges whose charger does not cut off by itself.
    if (title === 'Charger off before closing') {
      await this.does(
        { kind: 'chargePaused', payload: { step: step.key, reason: 'stopped' } },
        title,
        definition.handsMin,
      );
      return jumpTo(nextOpenMoment(hand.state.opened.hours, (await now()) + 2 * HOUR));
    }
    if (phase === 'stopped') {
      const tempC = await this.read('temperature');
      return this.does(
        { kind: 'chargeResumed', payload: { step: step.key, tempC } },
        title,
        definition.handsMin,
      );
    }
    if (title === 'Charger off at the mains')
      return this.does(
        { kind: 'chargeEnded', payload: { step: step.key, fullSignal: false } },
        title,
        definition.handsMin,
      );
    const values = {
      voltageV: await this.read('voltage'),
      currentA: await this.read('current'),
      tempC: await this.read('temperature'),
    };
    return this.does(
      { kind: 'chargeRead', payload: { step: step.key, values, source } },
      title,
      definition.handsMin,
    );
  }

  /** By hand until a step is at hand. */
  async byHandTo(isThere: (stepId: string) => boolean, way?: string): Promise<void> {
    for (let done = 0; done < 400; done++) {
      if (isThere((await this.hand()).step.stepId)) return;
      await this.byHand(way);
    }
    throw new Error('it never came there by hand');
  }

  /** Clips on, looked at, and switched on by a person: as far as it goes by itself. */
  async goesOn(bay: number, leavesTester: boolean): Promise<void> {
    const checked = await ask<LiveBay>(`/api/bays/${bay}/check`, { job: this.id, method: 'tenth' });
    if (checked.phase !== 'ready') throw new Error(checked.says);
    this.hands.push({ at: await now(), minutes: 3, what: `clips on, bay ${bay} checked and switched on` });
    await ask(`/api/bays/${bay}/confirm`, { by: BY, goesOn: { leavesTester, method: 'tenth' } });
  }

  async grade(): Promise<string> {
    const { state } = foldJob(await this.events());
    const round = state.steps[state.cursor]?.round ?? 1;
    const { grade, because } = gradedFrom(contextOf(state, round));
    return `${grade}: ${because}`;
  }

  minutes(): number {
    return this.hands.reduce((sum, { minutes }) => sum + minutes, 0);
  }
}

const bayIs = async (bay: number): Promise<LiveBay | undefined> =>
  (await ask<LiveBay[]>('/api/bays')).find((live) => live.bay === bay);

/** Lets the bays live: at a pace while current flows, jumped while nothing does. @returns once hands are asked for at one of them */
async function live(battery: Battery, bay: number, also: number[] = []): Promise<void> {
  let drawn: Pace | undefined;
  for (const since = elapsedNow(); elapsedNow() - since < LONGEST_MS; await pass(EACH_MS)) {
    const bays = await Promise.all([bay, ...also].map(bayIs));
    const isBusy = bays.some(
      (one) => one?.phase === 'running' || one?.phase === 'checking' || one?.phase === 'ready',
    );
    const isDrawn = bays.some((one) => one?.phase === 'running' && (one.sample?.amps ?? 0) < 0);
    const wanted: Pace = !isBusy ? 1 : isDrawn ? DRAWING : CHARGING;
    if (wanted !== drawn) await pace((drawn = wanted));
    if (isBusy) continue;
    const first = bays[0];
    if (first?.goesOn?.untilMs !== undefined) await jumpTo(first.goesOn.untilMs);
    else if (!first?.goesOn) return;
  }
  throw new Error(
    `bay ${bay} never came to an end: ${JSON.stringify(await bayIs(bay))} ${(await battery.hand()).title}`,
  );
}

const told: string[] = [];
const say = (line: string): void => {
  told.push(line);
  console.log(line);
};

/** What was told so far: whoever breaks it off has that. */
function write(): void {
  mkdirSync('docs/soak', { recursive: true });
  writeFileSync(
    RESULTS,
    [
      '# Friday to Wednesday',
      '',
      'Written by `npm run soak:week`.',
      '',
      ...told.map((line) => `- ${line}`),
      '',
    ].join('\n'),
  );
}

const deep = await Battery.brought('SK-0161', 1);
await deep.byHandTo((step) => step === 'supply-charge', 'supply-wake');
const wakesFrom = await now();
await ask('/api/bays/1/check', { job: (await deep.hand()).state.job });
await ask('/api/bays/1/confirm', { by: BY });
await live(deep, 1);
say(
  `${when(wakesFrom)}: woken by the supply of bay 1, somebody beside it for ${Math.round(((await now()) - wakesFrom) / MINUTE)} min.`,
);
await deep.byHandTo((step) => step === 'slow');
const alone = deep.hands.length;
const shorted = await Battery.brought('SK-0163', 2);
await shorted.byHandTo((step) => step === 'slow');
const clipped = when(await now());
await shorted.goesOn(2, true);
await deep.goesOn(1, false);
say(`${clipped}: both on, to go on by themselves.`);
await live(deep, 1, [2]);
const stopped = (await shorted.events())
  .filter(({ kind }) => kind === 'chargePaused' || kind === 'noted')
  .slice(-3);
for (const event of stopped)
  say(`The shorted one, ${when(event.at)}: ${event.kind === 'noted' ? event.payload.text : event.kind}`);
say(`${when(await now())}: bay 1 asks for hands: ${(await deep.hand()).title}.`);
const monday = Date.parse('2026-03-16T08:00:00Z');
await jumpTo(monday);
await deep.byHand();
await deep.goesOn(1, true);
await live(deep, 1);
say(`${when(await now())}: bay 1 asks for hands: ${(await deep.hand()).title}.`);
const wednesday = (await deep.events()).findLast(
  ({ kind, payload }) => kind === 'measured' && 'step' in payload && payload.step.startsWith('hold-read'),
);
say(
  `Read after a day: ${wednesday ? when(wednesday.at) : 'not'}; ${when(await now())} the grade is ${await deep.grade()}`,
);
const minutes = deep.hands.slice(alone).reduce((sum, line) => sum + line.minutes, 0);
say(
  `Hands from when it was awake: ${minutes} min, ${deep.hands
    .slice(alone)
    .map(({ at, minutes: took, what }) => `${when(at)} ${what} (${took})`)
    .join('; ')}.`,
);

write();
const twin = await Battery.brought('SK-0162', 3);
await twin.byHandTo((step) => step === 'supply-charge', 'supply-wake');
await twin.byHandTo((step) => step === 'slow');
const before = twin.hands.length;
await twin.byHandTo((step) => step === 'choose-route');
// A day did not prove it full: charged on, as the bay does.
await twin.byHand();
await twin.byHandTo((step) => step === 'choose-route');
await twin.byHandTo((step) => step === 'grade', 'prove');
say(
  `Its twin by hand: the grade is ${await twin.grade()} Hands: ${twin.hands.slice(before).reduce((sum, line) => sum + line.minutes, 0)} min.`,
);

const capacityOf = async (battery: Battery): Promise<string> => {
  for (const event of await battery.events())
    if (event.kind === 'measured' && 'drawnAh' in event.payload.values)
      return `${String(event.payload.values['drawnAh'])} Ah`;
  return 'not measured';
};
say(`Capacity: ${await capacityOf(deep)} by the bay, ${await capacityOf(twin)} by hand.`);
write();
server.kill('SIGTERM');
