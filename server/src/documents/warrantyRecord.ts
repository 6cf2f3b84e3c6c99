/** The proof the shop keeps: every value and where it came from, every reading, the rules, the pictures. */
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { completeRules, HOUSE_RULES, optionText, RULE_IDS } from '@cork-ember/core/runsheet/houseRules.ts';
import {
  basisOf,
  definitionOf,
  readingsOf,
  type JobState,
  type StepState,
} from '@cork-ember/core/runsheet/state.ts';
import { resolveThreshold, type ThresholdId } from '@cork-ember/core/runsheet/thresholds.ts';
import { clockText, dateText } from '@cork-ember/core/schedule/clockText.ts';
import {
  batteryRows,
  done,
  picturesOf,
  readings,
  signerOf,
  testRows,
  type DocumentContent,
  type Row,
} from './content.ts';

function thresholdRows(state: JobState): Row[] {
  const shown = new Set<ThresholdId>();
  for (const step of state.steps) for (const id of definitionOf(state, step).shows ?? []) shown.add(id);
  const basis = basisOf(state);
  return [...shown].map((id) => {
    const { value, unit, source, because } = resolveThreshold(id, basis);
    return [
      id.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`),
      `${value} ${unit}, ${source}: ${because}`,
    ];
  });
}

function lookRows(state: JobState, step: StepState): Row[] {
  const { timeZone } = state.opened.hours;
  return readingsOf(state, step.key).map(({ at, voltageV, currentA, tempC }) => [
    `${dateText(at, timeZone)} ${clockText(at, timeZone)}`,
    `${voltageV.toFixed(2)} V, ${currentA.toFixed(2)} A, ${tempC.toFixed(1)} °C`,
  ]);
}

/** The warranty record of an ended job. */
export function warrantyRecordOf(state: JobState, shop: Shop): DocumentContent {
  const { battery, hours } = state.opened;
  const rules = completeRules(state.opened.rules);
  const endedAt = state.endedAt ?? state.openedAt;
  const when = `${dateText(endedAt, hours.timeZone)} at ${clockText(endedAt, hours.timeZone)}`;
  const filled = ({ rows }: { rows: readonly Row[] }): boolean => rows.length > 0;
  return {
    shop: shop.name,
    tag: battery.tag,
    title: 'Warranty record',
    lead: `${state.outcome ?? ''}${state.outcomeNote === undefined ? '' : `: ${state.outcomeNote}`} (${when})`,
    sections: [
      { title: 'Battery', rows: batteryRows(state) },
      { title: 'Test', rows: testRows(state) },
      { title: 'Readings', rows: readings(state) },
    ].filter(filled),
    record: [
      {
        title: 'What was done, and when',
        rows: state.steps.map((step) => done(state, step)).filter((entry) => entry !== undefined),
      },
      ...state.steps
        .filter((step) => step.charge)
        .map((step) => ({ title: `Looks at charge ${step.round}`, rows: lookRows(state, step) })),
      { title: 'Numbers it was done by, and where they came from', rows: thresholdRows(state) },
      {
        title: 'House rules of the day',
        rows: RULE_IDS.map((id): Row => [HOUSE_RULES[id].title, optionText(id, rules)]),
      },
    ].filter(filled),
    cautionsTitle: 'Kept by the shop',
    cautions: [
      'The maker’s warranty asks for proof of the first charge: this is it. Keep it as long as the warranty runs.',
    ],
    signature: `Recorded by ${signerOf(state)}, ${shop.name}, ${when}.`,
    photos: picturesOf(state),
  };
}
