/** The proof the shop keeps: every entry as it was made and mended, every reading, the numbers and rules, the pictures. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { readingWords } from '@cork-ember/core/belief/words.ts';
import { historyOf } from '@cork-ember/core/runsheet/log/history.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { completeRules, HOUSE_RULES, optionText, RULE_IDS } from '@cork-ember/core/rules/houseRules.ts';
import { basisOf } from '@cork-ember/core/runsheet/state/context.ts';
import { definitionOf, procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { readingsOf } from '@cork-ember/core/runsheet/state/looks.ts';
import type { JobState, StepState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { THRESHOLD_NAMES } from '@cork-ember/core/rules/thresholdNames.ts';
import { resolveThreshold, SOURCE_NAMES, type ThresholdId } from '@cork-ember/core/rules/thresholds.ts';
import { clockText, dateText, dateTimeText, durationText } from '@cork-ember/core/clock/clockText.ts';
import { batteryRows, picturesOf, signerOf, testRows, type DocumentContent, type Row } from './content.ts';
import { curvesOf } from './curves.ts';
import { verdictOf } from './figures.ts';
import { measuredRows } from './measured.ts';

const DECIMALS: Readonly<Record<string, number>> = { V: 2, A: 2, '°C': 1, 'g/cm³': 3, '%': 1, '': 2 };

/** A number as the trade writes it, in its unit. */
function valueText(value: number, unit: string): string {
  if (unit === 'min') return durationText(value * 60_000);
  return `${value.toFixed(DECIMALS[unit] ?? 0)} ${unit}`.trim();
}

function thresholdRows(state: JobState): Row[] {
  const shown = new Set<ThresholdId>();
  for (const step of state.steps) for (const id of definitionOf(state, step).shows ?? []) shown.add(id);
  const basis = basisOf(state);
  return [...shown].map((id) => {
    const { value, unit, source, because } = resolveThreshold(id, basis);
    return [THRESHOLD_NAMES[id], `${valueText(value, unit)}, ${SOURCE_NAMES[source]}: ${because}`];
  });
}

const momentIn = (state: JobState, at: number): string => dateTimeText(at, state.opened.hours.timeZone);

function lookRows(state: JobState, step: StepState): Row[] {
  return readingsOf(state, step.key).map(({ at, voltageV, currentA, tempC, density }) => [
    momentIn(state, at),
    `${voltageV.toFixed(2)} V, ${currentA.toFixed(2)} A, ${tempC.toFixed(1)} °C${density === undefined ? '' : `, density ${density.toFixed(3)} at 25 °C`}`,
  ]);
}

/** Entries as they were made: what was taken back or mended stays readable beside what stands. */
function entryRows(job: Job): Row[] {
  return historyOf(job).map(({ at, by, place, words, was, takenBack }) => [
    `${momentIn(job.state, at)} · ${place}`,
    [
      `${words} · ${by}`,
      ...was.map(
        (one) =>
          `before: ${one.words} (mended by ${one.by}, ${momentIn(job.state, one.at)}${one.why === '' ? '' : `: ${one.why}`})`,
      ),
      ...(takenBack
        ? [
            `taken back by ${takenBack.by}, ${momentIn(job.state, takenBack.at)}${takenBack.why === undefined ? '' : `: ${takenBack.why}`}`,
          ]
        : []),
    ].join('; '),
  ]);
}

/** The warranty record of an ended job; of a recovery, the record of the job. */
export function warrantyRecordOf(job: Job, shop: Shop): DocumentContent {
  const { state } = job;
  const { battery, hours } = state.opened;
  const rules = completeRules(state.opened.rules);
  const endedAt = state.endedAt ?? state.openedAt;
  const when = `${dateText(endedAt, hours.timeZone)} at ${clockText(endedAt, hours.timeZone)}`;
  const filled = ({ rows }: { rows: readonly Row[] }): boolean => rows.length > 0;
  const isRecovery = procedureOf(state).routes !== undefined;
  const isFirstCharge =
    !isRecovery && state.steps.some(({ stepId, charge }) => stepId === STEP.charge && charge);
  return {
    shop: shop.name,
    tag: battery.tag,
    title: isRecovery ? 'Record of the recovery' : 'Warranty record',
    lead: `Ended on ${when}.`,
    verdict: verdictOf(state),
    figures: [],
    beforeAfter: [],
    curves: curvesOf(state),
    cord: [],
    sections: [
      { title: 'Battery', rows: batteryRows(state) },
      { title: 'Test', rows: testRows(state) },
      { title: 'Measured', rows: state.steps.flatMap((step) => measuredRows(state, step)) },
      {
        title: 'Found out beside the steps',
        rows: (state.evidence ?? []).map(({ at, by, reading }): Row => [
          momentIn(state, at),
          `${readingWords(reading)} · ${by}`,
        ]),
      },
    ].filter(filled),
    record: [
      { title: 'Every entry, as it was made', rows: entryRows(job) },
      ...state.steps
        .filter((step) => step.charge)
        .map((step) => ({
          title: `Looks at: ${definitionOf(state, step).title}${step.round > 1 ? ` (${step.round})` : ''}`,
          rows: lookRows(state, step),
        })),
      { title: 'Numbers it was done by, and where they came from', rows: thresholdRows(state) },
      {
        title: `House rules of the day, version ${state.opened.rulesVersion ?? 1}`,
        rows: RULE_IDS.map((id): Row => [HOUSE_RULES[id].title, optionText(id, rules)]),
      },
    ].filter(filled),
    cautionsTitle: 'Kept by the shop',
    cautions: [
      isFirstCharge
        ? 'The maker’s warranty asks for proof of the first charge: this is it. Keep it as long as the warranty runs.'
        : 'Kept with the battery’s history: what was read, what was decided by it, and by whom.',
    ],
    signature: `Recorded by ${signerOf(state)}, ${shop.name}, ${when}.`,
    photos: picturesOf(state),
  };
}
