/** Readings and what they speak for, in words. */
import { percentText } from '../units/percent.ts';
import { median } from 'd3-array';
import { inSentence } from '../units/inSentence.ts';
import { CAUSE_IDS, CAUSES, isSulfated, type CauseId } from '../candidate/causes.ts';
import { ON_TOP, ON_TOP_IDS, type Together } from './onTop.ts';
import type { Moved } from './trail.ts';
import type { Reading } from '../observation/readings.ts';

const LEVEL_WORDS = { 'at-line': 'at the line', low: 'low', 'plates-bare': 'plates bare' } as const;
const CHARGER_WORDS = {
  refuses: 'does not start on it',
  stuck: 'stays in its first stage or trips',
  finishes: 'comes to its end',
} as const;
const BUBBLE_WORDS = { lively: 'bubbles lively', few: 'bubbles a little', none: 'silent' } as const;

export interface Illness {
  readonly name: string;
  readonly probability: number;
  /** "light 14 %, moderate 6 %", of one that comes in degrees. */
  readonly degrees?: string;
  /** The way it has of its own, in a sentence. */
  readonly leadsTo?: string;
  /** "and sulfated on top, 64 %", of what probably stands beside it. */
  readonly onTop?: string;
}

/** Less often than this beside a cause it is not worth words. */
const ON_TOP_FROM = 0.3;

/** What stands beside an illness, told in words where it is likely. */
function onTopWords(causes: readonly CauseId[], probability: number, together: Together): string | undefined {
  const words = ON_TOP_IDS.flatMap((id) => {
    const both = causes.reduce((sum, cause) => sum + together[cause][id], 0);
    const share = probability > 0 ? both / probability : 0;
    return share >= ON_TOP_FROM ? `${ON_TOP[id]} ${percentText(share)}` : [];
  });
  return words.length === 0 ? undefined : `with it: ${words.join(', ')}`;
}

const DEGREES = [
  ['sulfated-light', 'light'],
  ['sulfated-moderate', 'moderate'],
  ['sulfated-hard', 'hard'],
] as const;

/** One cause that has a way of its own whatever the rest costs (handbook 4). */
const LAYERED_LEADS_TO = 'Its way: a slow charge to full, then “Mix layered acid” until three rounds agree.';

/**
 * What it may be, the most likely first; sulfation is one illness, whatever its degree.
 * @param together what each cause has beside it; where it is left out, nothing is said of that
 */
export function illnessesOf(causes: Readonly<Record<CauseId, number>>, together?: Together): Illness[] {
  const sulfatedIds = DEGREES.map(([cause]) => cause);
  const beside = (ids: readonly CauseId[], probability: number): Pick<Illness, 'onTop'> => {
    const onTop = together && onTopWords(ids, probability, together);
    return onTop === undefined ? {} : { onTop };
  };
  const others = CAUSE_IDS.filter((cause) => !isSulfated(cause)).map((cause): Illness => ({
    name: CAUSES[cause],
    probability: causes[cause],
    ...(cause === 'layered' ? { leadsTo: LAYERED_LEADS_TO } : {}),
    ...beside([cause], causes[cause]),
  }));
  const sulfated = sulfatedIds.reduce((sum, cause) => sum + causes[cause], 0);
  const words = DEGREES.map(([cause, word]) => `${word} ${percentText(causes[cause])}`).join(', ');
  return [
    ...others,
    { name: 'Sulfated', probability: sulfated, degrees: words, ...beside(sulfatedIds, sulfated) },
  ].sort((a, b) => b.probability - a.probability);
}

/** "Load 240 A for 15 s: 8.20 V" */
const warmth = (tempC: number | undefined): string =>
  tempC === undefined ? '' : ` at ${tempC.toFixed(0)}\u00a0°C`;

/** Missing in the readings beside a cell before it is worth words, V; and a cell warmer or cooler than the others, K. */
const LACKS_V = 0.15;
const ODD_K = 3;

/** Which cell lacks volts: a loss shows before it, after it, or in both (handbook 3.2). */
function lacking(volts: readonly number[]): string {
  const steps = volts.slice(1, -1);
  const sound = median(steps) ?? 0;
  // Between two cells lies one step; the first and the last cell have one alone.
  const lacks = volts
    .slice(1)
    .map((_, index) =>
      [steps[index - 1], steps[index]].reduce<number>(
        (sum, step) => sum + (step === undefined ? 0 : sound - step),
        0,
      ),
    );
  const most = Math.max(...lacks);
  return most < LACKS_V
    ? ''
    : `; cell ${lacks.indexOf(most) + 1} or its neighbour reads ${most.toFixed(2)} V below the others`;
}

/** Volts, or the interval a colour stands for. */
const betweenWords = ({ volts, within }: { readonly volts: number; readonly within?: number }): string =>
  within === undefined
    ? `${volts.toFixed(2)} V`
    : `by its colour ${(volts - within).toFixed(1)} to ${(volts + within).toFixed(1)} V`;

/** The cell that is warmer or cooler than the rest. */
function oddOne(cells: readonly { readonly cell: number; readonly tempC: number }[]): string {
  const middle = median(cells.map(({ tempC }) => tempC)) ?? 0;
  const [odd] = [...cells].sort((a, b) => Math.abs(b.tempC - middle) - Math.abs(a.tempC - middle));
  if (!odd || Math.abs(odd.tempC - middle) < ODD_K) return '';
  const off = odd.tempC - middle;
  return `; cell ${odd.cell} is ${Math.abs(off).toFixed(0)} K ${off > 0 ? 'warmer' : 'cooler'} than the others`;
}

export function readingWords(reading: Reading): string {
  switch (reading.kind) {
    case 'ocv':
      return `${reading.isRested ? 'Rested' : 'Open-circuit, not rested'} ${reading.volts.toFixed(2)} V`;
    case 'load':
      return [
        `Load ${reading.amps.toFixed(0)} A for ${reading.seconds} s: ${betweenWords(reading)}`,
        ...(reading.firstV === undefined ? [] : [`${reading.firstV.toFixed(2)} V at first`]),
        ...(reading.backV === undefined ? [] : [`back to ${reading.backV.toFixed(2)} V`]),
      ].join(', ');
    case 'resistance':
      return `Resistance ${(reading.ohm * 1000).toFixed(1)} mΩ`;
    case 'warmth':
      return `Warmth of the cells: ${reading.cells.map(({ cell, tempC }) => `${cell}: ${tempC.toFixed(0)}`).join(', ')} °C${oddOne(reading.cells)}`;
    case 'tester':
      return `Tester shows ${reading.amps.toFixed(0)} A`;
    case 'density':
      return `Cell ${reading.cell}: density ${reading.density.toFixed(3)}${warmth(reading.tempC)}${reading.isMixed === false ? ', not mixed yet' : ''}`;
    case 'level':
      return `Cell ${reading.cell}: ${LEVEL_WORDS[reading.level]}`;
    case 'dips':
      return `Along the cells: ${reading.volts.map((volts) => volts.toFixed(2)).join(', ')} V${lacking(reading.volts)}`;
    case 'acceptance':
      return `Takes ${reading.amps.toFixed(2)} A at ${reading.volts.toFixed(1)} V`;
    case 'charger':
      return `Charger that starts at ${reading.startV.toFixed(1)} V: ${CHARGER_WORDS[reading.view]}`;
    case 'reserve':
      return `Gives ${reading.amps.toFixed(1)} A for ${reading.minutes.toFixed(0)} min`;
    case 'drain':
      return `Discharge, ${reading.minute.toFixed(0)} min at ${reading.amps.toFixed(1)} A: ${reading.volts.toFixed(2)} V`;
    case 'hold':
      return `Lost ${(reading.volts * 1000).toFixed(0)} mV standing`;
    case 'mass':
      return reading.deficitG < 0
        ? `Heavier than a full one by ${(-reading.deficitG).toFixed(0)} g`
        : `Lighter than it should be by ${reading.deficitG.toFixed(0)} g`;
    case 'crank':
      return `Cranking dips to ${reading.volts.toFixed(2)} V`;
    case 'look':
      return `On charge: ${reading.volts.toFixed(2)} V, ${reading.amps.toFixed(2)} A, ${reading.tempC.toFixed(1)} °C`;
    case 'bubbles':
      return `Cell ${reading.cell}: ${BUBBLE_WORDS[reading.bubbles]}`;
  }
}

/** Cells and what each showed: "1 to 5 at the line, 6 low". */
function byCell(cells: readonly (readonly [cell: number, word: string])[]): string {
  const words = [...new Set(cells.map(([, word]) => word))];
  if (words.length === 1) return `all ${words[0] ?? ''}`;
  return words
    .map((word) => `${cells.flatMap(([cell, each]) => (each === word ? [cell] : [])).join(', ')} ${word}`)
    .join('; ');
}

/** Readings that were judged together, in one line. */
export function groupWords(readings: readonly Reading[]): string {
  const [first] = readings;
  if (!first) return '';
  if (readings.length === 1) return readingWords(first);
  const levels = readings.flatMap((one) =>
    one.kind === 'level' ? [[one.cell, LEVEL_WORDS[one.level]] as const] : [],
  );
  if (levels.length > 0) return `Cells, levels: ${byCell(levels)}`;
  const bubbles = readings.flatMap((one) =>
    one.kind === 'bubbles' ? [[one.cell, BUBBLE_WORDS[one.bubbles]] as const] : [],
  );
  if (bubbles.length > 0) return `Cells: ${byCell(bubbles)}`;
  const densities = readings.filter((one) => one.kind === 'density');
  if (densities.length > 0)
    return `Density from the positive post: ${densities.map(({ density }) => density.toFixed(3)).join(', ')}${warmth(densities.find(({ tempC }) => tempC !== undefined)?.tempC)}`;
  const drains = readings.filter(({ kind }) => kind === 'drain');
  if (drains.length > 0) return `${drains.length} looks, the last: ${readingWords(drains.at(-1) ?? first)}`;
  return `${readings.length} looks on charge, the last: ${readingWords(readings.at(-1) ?? first).replace('On charge: ', '')}`;
}

/** Less than this a reading moves nothing worth words. */
const MOVES_NOTHING = 0.02;
const MOST_MOVED = 3;

/** "A shorted cell 12 % → 78 %, worn out 40 % → 9 %": what a reading moved most. */
export function movedWords({ before, after }: Moved): string {
  const was = new Map(illnessesOf(before).map(({ name, probability }) => [name, probability]));
  const moved = illnessesOf(after)
    .map(({ name, probability }) => ({ name, from: was.get(name) ?? 0, to: probability }))
    .filter(({ from, to }) => Math.abs(to - from) >= MOVES_NOTHING)
    .sort((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from))
    .slice(0, MOST_MOVED)
    .sort((a, b) => b.to - a.to);
  if (moved.length === 0) return 'Moves little, after what was read before';
  return moved
    .map(
      ({ name, from, to }, index) =>
        `${index === 0 ? name : inSentence(name)} ${percentText(from)} → ${percentText(to)}`,
    )
    .join(', ');
}

/** Factors within this of 1 say nothing worth words. */
const SAYS_NOTHING = 1.5;
/** Beyond this a factor is only called large. */
const LARGE = 1000;

/** "×40 for a shorted cell" or "÷6 for empty and sound"; undefined where a reading says nothing. */
export function factorWords(cause: CauseId, factor: number): string | undefined {
  const name = inSentence(CAUSES[cause]);
  const size = (times: number): string =>
    times > LARGE ? 'over 1000' : String(Number(times.toPrecision(2)));
  if (factor >= SAYS_NOTHING) return `×${size(factor)} for ${name}`;
  if (factor <= 1 / SAYS_NOTHING) return `÷${size(1 / factor)} for ${name}`;
  return undefined;
}
