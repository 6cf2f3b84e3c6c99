/** The table of every charge × every fault: what fires, after how long; and how many sound batteries get a false word. */
import { mkdirSync, writeFileSync } from 'node:fs';
import type { CellCondition } from '@cork-ember/core/model/battery.ts';
import type { Fault } from '@cork-ember/core/model/faults.ts';
import {
  randomBattery,
  ROOMS_C,
  trial,
  typeOf,
  TYPES,
  type ChargeId,
} from '@cork-ember/core/test/chargeTrial.ts';
import { EVERY_FAULT } from '@cork-ember/core/test/modelBench.ts';

const EACH = Number(process.env['TRIALS'] ?? 500);

type Stands = 'boxed' | 'empty' | 'asleep';

interface Charge {
  readonly id: ChargeId;
  readonly name: string;
  readonly of: (typeId: string) => boolean;
  /** How a battery put on it stands. */
  readonly stands: Stands;
  /** Minutes between looks: at what is never left alone they are close. */
  readonly everyMin: number;
}

const isFlooded = (typeId: string): boolean => typeId.includes('-F');
const every = (): boolean => true;

const CHARGES: readonly Charge[] = [
  {
    id: 'charge',
    name: 'First charge',
    of: (typeId) => !typeId.includes('-S'),
    stands: 'boxed',
    everyMin: 60,
  },
  { id: 'slow', name: 'Slow charge', of: every, stands: 'empty', everyMin: 60 },
  { id: 'soak', name: 'Long soak', of: (typeId) => !isFlooded(typeId), stands: 'empty', everyMin: 60 },
  { id: 'current', name: 'Constant current', of: isFlooded, stands: 'empty', everyMin: 60 },
  { id: 'pulse', name: 'Pulses, a week', of: every, stands: 'empty', everyMin: 60 },
  { id: 'supply-charge', name: 'Wake with a supply', of: every, stands: 'asleep', everyMin: 15 },
  { id: 'forced-charge', name: 'Forced start', of: every, stands: 'asleep', everyMin: 15 },
  { id: 'donor-hour', name: 'An hour beside a donor', of: every, stands: 'asleep', everyMin: 20 },
  { id: 'bite-one', name: 'High, 15 minutes', of: isFlooded, stands: 'empty', everyMin: 5 },
  { id: 'low', name: 'Low after high', of: isFlooded, stands: 'empty', everyMin: 60 },
  { id: 'over-voltage', name: 'Equalise', of: isFlooded, stands: 'empty', everyMin: 60 },
];

const STANDS: Readonly<Record<Stands, Partial<CellCondition>>> = {
  boxed: { charge: 0.8 },
  empty: { charge: 0.3 },
  asleep: { charge: 0, film: 0.5 },
};

/** What the handbook asks, by fault (3.4, 3.5); what is not named ends as a sound one does. */
const ASKED: Readonly<Record<string, string>> = {
  sound: 'no stop',
  'dead short': 'about 2 V less than forecast at every stage, or heat without voltage: stop',
  'dead short, others full': 'the five others gas and hide it: stop by what is missing, or by heat',
  'soft short': 'shows in a day or a week of rest; a charge may stop on its warmth',
  'open cell': 'takes nothing: never full',
  contaminated: 'shows in its week of rest; runs warm once full',
};

const FAULTS: readonly {
  readonly name: string;
  readonly faults: readonly Fault[];
  readonly charge?: number;
}[] = [
  ...EVERY_FAULT.map(([name, faults]) => ({ name, faults })),
  { name: 'dead short, others full', faults: [{ kind: 'short', cell: 3, ohms: 0.02 }], charge: 0.95 },
];

/** "1 to 5 h" */
function spanText(hours: readonly number[]): string {
  const isShort = Math.max(...hours) < 1;
  const of = (value: number): string => String(Math.round(isShort ? value * 60 : value));
  const [least, most] = [of(Math.min(...hours)), of(Math.max(...hours))];
  return `${least === most ? least : `${least} to ${most}`} ${isShort ? 'min' : 'h'}`;
}

/** How each battery of the charge's types with this fault ends, in every room. */
function rowOf(
  { id, of, stands, everyMin }: Charge,
  { name, faults, charge }: (typeof FAULTS)[number],
): string {
  const condition = { ...STANDS[stands], ...(charge !== undefined && stands !== 'asleep' ? { charge } : {}) };
  const fired = new Map<string, number[]>();
  const ended = new Map<string, number[]>();
  let count = 0;
  for (const typeId of TYPES.filter(of))
    for (const roomC of ROOMS_C) {
      const { cells } = typeOf(typeId);
      const here = faults.map((one) =>
        'cell' in one && one.cell !== undefined ? { ...one, cell: Math.min(one.cell, cells) } : one,
      );
      const subject = { typeId, condition, faults: here, batteryC: roomC, roomC };
      const { stopped, end, hours } = trial(id, subject, `${name} ${typeId} ${roomC}`, everyMin);
      const [into, key] = stopped ? [fired, stopped.rule] : [ended, ENDS[end]];
      into.set(key, [...(into.get(key) ?? []), hours]);
      count += 1;
    }
  const words = (from: ReadonlyMap<string, readonly number[]>, mark: string): string =>
    [...from].map(([key, hours]) => `${mark}${key}${mark} ${hours.length}: ${spanText(hours)}`).join('; ');
  return `| ${name} | ${ASKED[name] ?? ''} | ${count} | ${words(fired, '**')} | ${words(ended, '')} |`;
}

const ENDS = { hot: 'too hot', done: 'ends', time: 'not full in its time', stopped: 'stopped' } as const;

function faultTables(): string {
  return CHARGES.map((one) => {
    const rows = FAULTS.filter(({ charge }) => charge === undefined || one.stands !== 'asleep').map((fault) =>
      rowOf(one, fault),
    );
    console.log(one.name);
    const note = one.id === 'charge' ? `${NOT_SEEN_BEFORE}\n\n` : '';
    return `### ${one.name}\n\n${note}| fault | asked | batteries | stopped by | otherwise |\n|---|---|---|---|---|\n${rows.join('\n')}`;
  }).join('\n\n');
}

const NOT_SEEN_BEFORE =
  'Its rested voltage after the soak shows a shorted cell before any current flows; here it is charged all the same.';

function falseWords(kind: 'sound' | 'sulfated'): string {
  const ends = new Map<string, number>();
  let charges = 0;
  let stops = 0;
  for (let index = 0; index < EACH; index++) {
    const { subject, charges: ids } = randomBattery(kind, index);
    for (const id of ids) {
      const { stopped, end } = trial(id, subject, `${kind} ${index}`);
      charges += 1;
      if (stopped) stops += 1;
      ends.set(end, (ends.get(end) ?? 0) + 1);
    }
  }
  const count = (end: string): number => ends.get(end) ?? 0;
  return `| ${kind} | ${EACH} | ${charges} | ${stops} | ${count('hot')} | ${count('done')} | ${count('time')} |`;
}

mkdirSync('docs/stop-rules', { recursive: true });
writeFileSync(
  'docs/stop-rules/results.md',
  `# Stop rules on batteries of the model

Made by \`npm run stop-figures\`. Looks are taken every hour, at what is never left alone every 5 to 20 min, with each
instrument's own error; what fires first, and after how many hours on charge.

## Every charge on every fault

Every type the charge is for, in rooms at 5, 21 and 32 °C: how many each rule stops and after how long on charge, and how
the rest end. “Asleep” for the ways that wake: empty, half filmed over.

${faultTables()}

## Batteries that are sound, and waking ones

Random types, charge, capacity ±7 %, cranking ±10 %, rooms at 5, 21 and 32 °C, the battery up to 6 K apart from its
room. “Stopped” is a false word.

| batteries | how many | charges | stopped | too hot | done | not proven full in its time |
|---|---|---|---|---|---|---|
${falseWords('sound')}
${falseWords('sulfated')}
`,
);
console.log('docs/stop-rules/results.md');
