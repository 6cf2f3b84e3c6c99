/** A decision in stages, in words: what is done by what is then read. */
import { deviation, mean, median } from 'd3-array';
import { percentText } from '../units/percent.ts';
import { inSentence } from '../units/inSentence.ts';
import type { Onward } from './courses.ts';
import type { InStages } from './inStages.ts';
import { LATER_NAMES, type LaterCheck } from './later.ts';

export interface Branch {
  readonly way: Onward;
  /** How likely it comes to this, 0–1. */
  readonly share: number;
  /** What is read where it does, in the middle: of the checks that tell the branches apart best; in each one's own unit. */
  readonly read: readonly { readonly check: LaterCheck; readonly middle: number }[];
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
/** Checks told by their first figure. */
const TOLD: readonly LaterCheck[] = ['charge', 'rest', 'tester', 'crank', 'hold', 'capacity'];
/** As many of them as tell the branches apart best are told. */
const MOST_TOLD = 2;

/** How far apart the branches lie in what a check reads, in its own spread within them. */
function apartBy(groups: readonly (readonly number[])[]): number {
  const full = groups.filter((group) => group.length > 1);
  if (full.length < 2) return 0;
  const middles = full.map((group) => median(group) ?? 0);
  const within = mean(full, (group) => deviation(group) ?? 0) ?? 0;
  return (Math.max(...middles) - Math.min(...middles)) / Math.max(1e-9, within);
}

export function treeOf(onward: readonly Onward[], { checks, choices, givenUp, read }: InStages): Tree {
  const goesOn = (player: number, place: number): boolean => choices[player] === place && !givenUp[player];
  const valuesOf = (check: LaterCheck, place: number): number[] =>
    (read[check] ?? []).flatMap((one, player) => (goesOn(player, place) ? (one[0] ?? []) : []));
  const told = TOLD.filter((check) => checks.includes(check))
    .map((check) => ({ check, apart: apartBy(onward.map((_, place) => valuesOf(check, place))) }))
    .sort((one, other) => other.apart - one.apart)
    .slice(0, MOST_TOLD)
    .map(({ check }) => check);
  const branches = onward.flatMap((way, place): Branch[] => {
    const share = choices.filter((_, player) => goesOn(player, place)).length / Math.max(1, choices.length);
    if (share < RARE) return [];
    const figures = TOLD.flatMap((check) => {
      const values = told.includes(check) ? valuesOf(check, place) : [];
      return values.length > 0 ? [{ check, middle: median(values) ?? 0 }] : [];
    });
    return [{ way, share, read: figures }];
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
    case 'charge':
      return `${value.toFixed(0)} Ah taken`;
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

/** "what it took, its rested voltage and the tester" */
export function lookWords({ checks }: Tree): string {
  const all = ['what it took', 'its rested voltage', ...checks.map((check) => LATER_NAMES[check])];
  const last = all.at(-1) ?? '';
  return `${all.slice(0, -1).join(', ')} and ${last}`;
}

/** "Two hours into its charge: about 10.4 V and not rising: stop and retire it (25 %)"; undefined where that is rare. */
export function earlyWords({ givenUp: { share, volts } }: Tree): string | undefined {
  return share < RARE ? undefined : `about ${volts.toFixed(1)} V`;
}

/** One sentence for each thing that may be done, with how likely it is. */
export const branchWords = (branch: Branch): string =>
  `${readWords(branch)}: ${inSentence(branch.way.title)} (${percentText(branch.share)})`;
