/** A decision in stages, in words: what is done by what is then read. */
import { median, quantile } from 'd3-array';
import { percentText } from '../units/percent.ts';
import { inSentence } from '../units/inSentence.ts';
import type { Onward } from './courses.ts';
import type { InStages } from './inStages.ts';
import { LATER_NAMES, type LaterCheck } from './later.ts';

export interface Branch {
  readonly way: Onward;
  /** How likely it comes to this, 0–1. */
  readonly share: number;
  /** What was read where it does: of each check the middle, and where eight of ten lie; in the check's own unit. */
  readonly read: readonly {
    readonly check: LaterCheck;
    readonly low: number;
    readonly middle: number;
    readonly high: number;
  }[];
}

export interface Tree {
  /** How likely it is given up while its first charge has hardly begun, and what it then shows in the middle, V. */
  readonly givenUp: { readonly share: number; readonly volts: number };
  /** Made before one decides, beside what every charge shows. */
  readonly checks: readonly LaterCheck[];
  /** The likeliest first. */
  readonly branches: readonly Branch[];
}

/** Rarer than this a branch is not worth a line. */
const RARE = 0.03;

/** No check is made for these. */
const SEEN_ANYWAY: readonly LaterCheck[] = ['early', 'charge', 'rest'];
/** Of a check that reads one figure. */
const TOLD: readonly LaterCheck[] = ['rest', 'tester', 'crank', 'hold', 'capacity'];

export function treeOf(onward: readonly Onward[], { checks, choices, givenUp, read }: InStages): Tree {
  const branches = onward.flatMap((way, place): Branch[] => {
    const share =
      choices.filter((choice, player) => choice === place && !givenUp[player]).length /
      Math.max(1, choices.length);
    if (share < RARE) return [];
    const told = checks.flatMap((check) => {
      if (!TOLD.includes(check)) return [];
      const values = (read[check] ?? []).flatMap((one, player) =>
        choices[player] === place && !givenUp[player] ? (one[0] ?? []) : [],
      );
      const [low = 0, high = 0] = [quantile(values, 0.1), quantile(values, 0.9)];
      return values.length > 0 ? [{ check, low, middle: median(values) ?? 0, high }] : [];
    });
    return [{ way, share, read: told }];
  });
  const early = (read.early ?? []).flatMap(([volts], player) => (givenUp[player] ? (volts ?? []) : []));
  return {
    givenUp: {
      share: givenUp.filter(Boolean).length / Math.max(1, givenUp.length),
      volts: median(early) ?? 0,
    },
    checks: checks.filter((check) => !SEEN_ANYWAY.includes(check)),
    branches: branches.sort((a, b) => b.share - a.share),
  };
}

function figureText(check: LaterCheck, value: number): string {
  switch (check) {
    case 'tester':
      return `${value.toFixed(0)} A`;
    case 'hold':
      return `${(value * 1000).toFixed(0)} mV lost`;
    case 'capacity':
      return percentText(value);
    default:
      return `${value.toFixed(2)} V`;
  }
}

/** "about 12.71 V and 480 A": what is read where it comes to this. */
export const readWords = ({ read }: Branch): string =>
  read
    .map(({ check, middle }, index) => `${index === 0 ? 'about ' : ''}${figureText(check, middle)}`)
    .join(', ');

/** "Read its rested voltage and the tester, then: …" */
export function lookWords({ checks }: Tree): string {
  const all = ['its rested voltage', ...checks.map((check) => LATER_NAMES[check])];
  const last = all.at(-1) ?? '';
  return all.length === 1 ? last : `${all.slice(0, -1).join(', ')} and ${last}`;
}

/** "Two hours into its charge: about 10.4 V and not rising: stop and retire it (25 %)"; undefined where that is rare. */
export function earlyWords({ givenUp: { share, volts } }: Tree): string | undefined {
  return share < RARE ? undefined : `about ${volts.toFixed(1)} V`;
}

/** One sentence for each thing that may be done, with how likely it is. */
export const branchWords = (branch: Branch): string =>
  `${readWords(branch)}: ${inSentence(branch.way.title)} (${percentText(branch.share)})`;
