/** What a paper says large: the verdict, the few figures it stands on, before and after side by side. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { durationText } from '@cork-ember/core/clock/clockText.ts';
import { loadTestFor } from '@cork-ember/core/battery/loadTest.ts';
import { chargeNow } from '@cork-ember/core/runsheet/outcome/chargeNow.ts';
import { gainsOf, gainWords, type Gain } from '@cork-ember/core/runsheet/outcome/gain.ts';
import type { StepValues } from '@cork-ember/core/units/values.ts';
import { RETIRED_FOR } from '@cork-ember/core/runsheet/procedures/recovery/otherRoutes.ts';
import { gradedFrom, holdIn, proofOf } from '@cork-ember/core/runsheet/verdict/proof.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { latest, type JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Outcome, StepContext } from '@cork-ember/core/runsheet/definition/step.ts';
import { numberOf } from '@cork-ember/core/units/values.ts';

/** A figure set large: what it is, the value, and what stands behind it. */
export interface KeyFigure {
  readonly label: string;
  readonly value: string;
  readonly note: string;
}

export interface Verdict {
  /** The one word: "Passed", "Grade B". */
  readonly word: string;
  /** What it may be used for, or what becomes of it, in plain words. */
  readonly use: string;
}

export interface BeforeAfter {
  readonly what: string;
  readonly before: string;
  readonly after: string;
  readonly gain: string;
}

const WORDS: Record<Exclude<Outcome, 'recovered'>, string> = {
  certified: 'Passed',
  returned: 'Back to the supplier',
  rejected: 'Rejected',
  withdrawn: 'Withdrawn',
  retired: 'To the recycler',
  charged: 'Charged',
};

/** The context of the proof that graded it; undefined where there was none. */
function provedContext(state: JobState): StepContext | undefined {
  const round = state.steps.findLast(
    ({ stepId, doneAt }) => stepId === STEP.proveOcv && doneAt !== undefined,
  )?.round;
  return round === undefined ? undefined : contextOf(state, round);
}

/** Why a battery went to the recycler: what it was denied for, what stopped its charge, or how it graded. */
function whyRetired(state: JobState): string {
  if (state.outcomeNote) return state.outcomeNote;
  const said = Object.entries(RETIRED_FOR).find(
    ([id]) => id === latest(state, STEP.retireWhy)?.values?.['why'],
  );
  if (said) return `${said[1]}.`;
  const stopped = state.steps.findLast(({ charge }) => charge?.stopped)?.charge?.stopped?.why;
  const context = provedContext(state);
  const graded = context && gradedFrom(context);
  if (graded) return `Grade ${graded.grade}: ${graded.because}`;
  const left = state.routes?.findLast(({ leftFor }) => leftFor !== undefined)?.leftFor;
  return stopped ?? left ?? 'It was not worth going on with.';
}

export function verdictOf(state: JobState): Verdict {
  const outcome = state.outcome ?? 'withdrawn';
  if (outcome === 'recovered') {
    const context = provedContext(state);
    if (!context) return { word: 'Recovered', use: 'Used; its grade was not proved.' };
    const { grade, because, use } = gradedFrom(context);
    return { word: `Grade ${grade}`, use: `Used, recovered and tested. For ${use}. ${because}` };
  }
  if (outcome === 'certified')
    return { word: WORDS.certified, use: 'Ready to be sold and fitted, for what its label is made for.' };
  if (outcome === 'charged')
    return { word: WORDS.charged, use: 'Charged again and proven full; it goes back to its place.' };
  if (outcome === 'retired') return { word: WORDS.retired, use: whyRetired(state) };
  return { word: WORDS[outcome], use: state.outcomeNote ?? '' };
}

function restedFigure(state: JobState): KeyFigure[] {
  const charge = chargeNow(state);
  if (!charge) return [];
  const { ocvV, mean, low, high } = charge;
  return [
    {
      label: 'Charge, estimated',
      value: `${mean.toFixed(0)} %`,
      note: `${low.toFixed(0)} to ${high.toFixed(0)} %`,
    },
    { label: 'At rest', value: `${ocvV.toFixed(2)} V`, note: charge.rested },
  ];
}

function testFigure(state: JobState): KeyFigure[] {
  const { type, rules } = state.opened;
  const load = latest(state, STEP.testLoad)?.values ?? {};
  const tempC = latest(state, STEP.testOcv)?.values?.['tempC'];
  const test = loadTestFor(type, rules.loadTest, numberOf(tempC) ?? 25);
  const { loadV, testerA } = load;
  if (typeof loadV === 'number')
    return [
      {
        label: 'Under load',
        value: `${loadV.toFixed(2)} V`,
        note: `${test.currentA.toFixed(0)} A for ${test.seconds} s; ${test.floorV.toFixed(2)} V passes`,
      },
    ];
  return typeof testerA === 'number'
    ? [
        {
          label: 'Tester',
          value: `${testerA.toFixed(0)} A`,
          note: [
            type.cranking
              ? `rated ${type.cranking.amps} A (${type.cranking.standard}${type.cranking.isEquivalent ? `, as ${verbatim(type.likeId ?? '')}` : ''})`
              : 'no rating on its label',
            ...printed(load),
          ].join('; '),
        },
      ]
    : [];
}

/** What the tester printed of charge and health, in its own words: a certificate leans on neither. */
function printed({ printedCharge, printedHealth }: StepValues): string[] {
  return [
    ...(typeof printedCharge === 'number' ? [`it printed a charge of ${printedCharge} %`] : []),
    ...(typeof printedHealth === 'number' ? [`it printed a health of ${printedHealth} %`] : []),
  ];
}

function chargedFigure(state: JobState): KeyFigure[] {
  const charges = state.steps.filter(({ charge }) => charge);
  const minutes = charges.reduce(
    (sum, { charge }) =>
      sum + (charge?.runs.reduce((all, run) => all + ((run.to ?? run.from) - run.from), 0) ?? 0) / 60_000,
    0,
  );
  return minutes > 0
    ? [
        {
          label: 'On charge',
          value: durationText(minutes * 60_000),
          note: charges.length === 1 ? 'one charge' : `${charges.length} charges`,
        },
      ]
    : [];
}

const percent = (share: number | undefined): string =>
  share === undefined ? 'not measured' : percentText(share);

function proofFigures(context: StepContext): KeyFigure[] {
  const proof = proofOf(context);
  const hold = holdIn(context, STEP.weekRead) ?? holdIn(context, STEP.holdRead);
  const cranking: KeyFigure = !proof.isRated
    ? {
        label: 'Resistance',
        value:
          proof.resistanceRatio === undefined
            ? 'first reading'
            : `${percent(proof.resistanceRatio)} of its own`,
        note: 'no cranking rating',
      }
    : proof.crankingShare !== undefined
      ? { label: 'Cranking', value: percent(proof.crankingShare), note: 'of the rating, at 25 °C' }
      : {
          label: 'Load test',
          value: proof.loadPassed === undefined ? 'not done' : proof.loadPassed ? 'passed' : 'failed',
          note: 'no cranking figure',
        };
  return [
    { label: 'Capacity', value: percent(proof.capacityShare), note: 'of the rating' },
    cranking,
    {
      label: 'Hold',
      value:
        hold === undefined
          ? 'not tested'
          : { held: 'held', doubtful: 'doubtful', leak: 'leaks' }[hold.verdict],
      note: holdIn(context, STEP.weekRead) ? 'for a week' : hold ? 'for a day' : '',
    },
  ];
}

export function keyFiguresOf(state: JobState): readonly KeyFigure[] {
  const context = provedContext(state);
  if (state.outcome === 'recovered' && context)
    return [...proofFigures(context), ...restedFigure(state).slice(0, 1)];
  if (state.outcome === 'charged') return [...restedFigure(state), ...chargedFigure(state)];
  if (state.outcome === 'certified')
    return [...restedFigure(state), ...testFigure(state), ...chargedFigure(state)].slice(0, 4);
  return [];
}

const UNITS: Record<Gain['unit'], number> = { V: 2, A: 0, mΩ: 1, '% of the rating': 0 };

/** Before and after of a recovery, figure by figure. */
export function beforeAfterOf(state: JobState): readonly BeforeAfter[] {
  return gainsOf(state).map((gain) => {
    const { what, unit, before, after } = gain;
    const text = (value: number): string =>
      `${value.toFixed(UNITS[unit])} ${unit === '% of the rating' ? '%' : unit}`;
    const words = gainWords(gain);
    return {
      what,
      before: before === undefined ? 'not measured charged and rested' : text(before),
      after: text(after),
      gain: before === undefined ? 'cannot be told' : words.slice(words.indexOf(': ') + 2),
    };
  });
}
