/** Curves that stand on a paper: a charge with the stretch that proved it full, and a capacity test. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { fullVerdict } from '@cork-ember/core/runsheet/verdict/commissioningVerdict.ts';
import { capacityTestA } from '@cork-ember/core/grading/grade.ts';
import { contextOf, evidenceOf } from '@cork-ember/core/runsheet/state/context.ts';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { JobState, StepState } from '@cork-ember/core/runsheet/state/jobState.ts';

export interface Curve {
  readonly title: string;
  /** Hours since it began. */
  readonly hours: readonly number[];
  readonly volts: readonly number[];
  /** Absent where the current was held. */
  readonly amps?: readonly number[];
  /** Hours between which it proved full. */
  readonly window?: { readonly from: number; readonly to: number };
  readonly caption: string;
}

const HOUR = 3_600_000;
/** A line needs so many points to say anything. */
const LEAST_POINTS = 3;

function chargeCurve(state: JobState, step: StepState): Curve[] {
  const evidence = evidenceOf(state, step);
  const from = step.charge?.runs[0]?.from;
  if (!evidence || from === undefined || evidence.looks.length < LEAST_POINTS) return [];
  const { window, sentence } = fullVerdict(contextOf(state, step.round), evidence);
  const hour = (at: number): number => (at - from) / HOUR;
  const { title } = definitionOf(state, step);
  return [
    {
      title: step.round > 1 ? `${title} (${step.round})` : title,
      hours: evidence.looks.map(({ at }) => hour(at)),
      volts: evidence.looks.map(({ voltageV }) => voltageV),
      amps: evidence.looks.map(({ currentA }) => currentA),
      ...(window ? { window: { from: hour(window.from), to: hour(window.to) } } : {}),
      caption: sentence,
    },
  ];
}

/** The looks at the capacity test of the proof, where it was watched. */
function capacityCurve(state: JobState): Curve[] {
  const step = state.steps.findLast(
    ({ stepId, doneAt }) => stepId === STEP.proveCapacity && doneAt !== undefined,
  );
  if (!step?.openedAt || step.status === 'skipped') return [];
  const amps = capacityTestA(step.values?.['method'], state.opened.type);
  const looks = (state.evidence ?? []).flatMap(({ at, reading }) =>
    reading.kind === 'drain' && at >= (step.openedAt ?? 0) && at <= (step.doneAt ?? 0) ? [reading] : [],
  );
  if (looks.length < LEAST_POINTS) return [];
  return [
    {
      title: 'Capacity test',
      hours: looks.map(({ minute }) => minute / 60),
      volts: looks.map(({ volts }) => volts),
      caption: `Drawn at ${amps.toFixed(2)} A, as it was looked at.`,
    },
  ];
}

/** The charge that counts, the last one, and the capacity test. */
export function curvesOf(state: JobState): readonly Curve[] {
  const charges = state.steps.filter(({ charge, doneAt }) => charge && doneAt !== undefined);
  const told = charges.flatMap((step) => chargeCurve(state, step));
  const proven = told.findLast(({ window }) => window !== undefined) ?? told.at(-1);
  return [...(proven ? [proven] : []), ...capacityCurve(state)];
}
