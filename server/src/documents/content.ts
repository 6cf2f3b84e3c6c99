/** What stands on a certificate or note, as words; `document.ts` sets it on paper. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { rechargeLineV } from '@cork-ember/core/battery/shelfLines.ts';
import type { Construction } from '@cork-ember/core/battery/construction.ts';
import { kindName as typeKind, nominalV } from '@cork-ember/core/battery/types.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { AGE_UNKNOWN } from '@cork-ember/core/battery/dateCode.ts';
import { readingWords } from '@cork-ember/core/belief/words.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { judgeCommissioning } from '@cork-ember/core/runsheet/verdict/commissioningVerdict.ts';
import {
  completeRules,
  HOUSE_RULES,
  optionText,
  RULE_IDS,
  STANDARD_RULES,
} from '@cork-ember/core/rules/houseRules.ts';
import { forecast, type Segment } from '@cork-ember/core/runsheet/plan/forecast.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { definitionOf, procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { latest, type JobState, type StepState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { minutesOnCharge, readingsOf } from '@cork-ember/core/runsheet/state/looks.ts';
import type { Outcome } from '@cork-ember/core/runsheet/definition/step.ts';
import { clockText, dateText, dateTimeText, durationText } from '@cork-ember/core/clock/clockText.ts';

import { curvesOf, type Curve } from './curves.ts';
import {
  beforeAfterOf,
  keyFiguresOf,
  verdictOf,
  type BeforeAfter,
  type KeyFigure,
  type Verdict,
} from './figures.ts';
import { measuredRows } from './measured.ts';

export type Row = readonly [label: string, value: string];

interface Section {
  readonly title: string;
  readonly rows: readonly Row[];
}

export interface DocumentContent {
  readonly shop: string;
  readonly tag: string;
  readonly title: string;
  readonly lead: string;
  /** Of a battery that passed. */
  readonly isGood?: boolean;
  /** Which issue it replaces; said under the lead. */
  readonly replaces?: string;
  /** Set large, where the paper has a verdict. */
  readonly verdict?: Verdict;
  readonly figures: readonly KeyFigure[];
  readonly beforeAfter: readonly BeforeAfter[];
  readonly curves: readonly Curve[];
  /** The job in time; empty where the paper does not tell it. */
  readonly cord: readonly Segment[];
  readonly cordEnds?: { readonly from: string; readonly to: string };
  readonly sections: readonly Section[];
  /** What follows on the next page: the whole record. */
  readonly record: readonly Section[];
  readonly cautionsTitle: string;
  readonly cautions: readonly string[];
  readonly signature: string;
  /** Pictures of the job that belong to this paper. */
  readonly photos: readonly { readonly id: string; readonly caption: string }[];
}

const TITLES: Record<Outcome, string> = {
  certified: 'Commissioning certificate',
  returned: 'Return note',
  rejected: 'Rejection note',
  withdrawn: 'Withdrawal note',
  recovered: 'Recovery certificate',
  retired: 'Disposal record',
  charged: 'Charge record',
};

const CHARGING_WORDS: Readonly<Record<Construction, string>> = {
  agm: 'Charge only with a charger for sealed AGM batteries, 14.4–14.8 V on 12 V; never a gel programme; never open the lid.',
  flooded:
    'Charge at 14.4–14.8 V on 12 V, caps vented; distilled water to the UPPER line, never acid, never tap water.',
  gel: 'Charge only with a charger that has a gel programme, 14.1–14.4 V on 12 V and never more; never open it.',
};

const checkWords = (construction: Construction, cells: number): string =>
  `Check it every month; recharge at once when it rests below ${rechargeLineV(construction, cells).toFixed(2)} V, and every three months regardless.`;

export const ownerCautions = (construction: Construction, cells: number): readonly string[] => [
  'Local rules, licensed practice and the maker’s instructions come first.',
  CHARGING_WORDS[construction],
  checkWords(construction, cells),
  'Positive on first and off last on the bench; on a vehicle negative off first and on last. Tighten no further than the torque given.',
  'It gives off hydrogen on charge: ventilate, no spark or flame. Acid in the eyes or on skin: running water for 15 minutes.',
  'At the end of its life it goes to a licensed recycler, never into household waste.',
];

const RETIRED_CAUTIONS = [
  'Do not charge, sell or fit this battery. Upright, posts covered; it holds sulfuric acid and lead.',
  'It goes to a licensed recycler; drained acid carries lead and goes to licensed disposal.',
  'Local rules and licensed practice come first.',
];

const REFUSED_CAUTIONS = [
  'Do not fill, charge, sell or fit this battery.',
  'If it has been filled it holds sulfuric acid: goggles and gloves, keep it upright, neutraliser at hand.',
  'Local rules, licensed practice and the maker’s instructions come first.',
];

function done(state: JobState, step: StepState): Row | undefined {
  if (step.doneAt === undefined || step.status === 'skipped') return undefined;
  const { timeZone } = state.opened.hours;
  const definition = definitionOf(state, step);
  const round = step.round > 1 ? ` (${step.round})` : '';
  const what = step.status === 'overridden' ? `cut short: ${verbatim(step.reason ?? '')}` : (step.by ?? '');
  const answer = step.status === 'held' ? (step.why ?? '') : what;
  return [
    dateTimeText(step.doneAt, timeZone),
    `${definition.title}${round}${answer === '' ? '' : ` · ${answer}`}`,
  ];
}

function chargeRow(state: JobState, step: StepState): Row | undefined {
  if (!step.charge || step.doneAt === undefined) return undefined;
  const { charge } = step;
  const looks = readingsOf(state, step.key);
  const hottest = Math.max(...looks.map((reading) => reading.tempC));
  const warm = Number.isFinite(hottest) ? `, at most ${hottest.toFixed(1)} °C` : '';
  const time = durationText(minutesOnCharge(charge, step.doneAt) * 60_000);
  const by = charge.charger ? ` on ${charge.charger.name}` : '';
  const amps = [...(charge.wasSet ?? []), charge].map(({ currentA }) => currentA.toFixed(2)).join(', then ');
  return [
    `${definitionOf(state, step).title}${step.round > 1 ? ` (${step.round})` : ''}`,
    `${amps} A${by} for ${time}, ${looks.length} readings${warm}`,
  ];
}

/** Steps whose readings a certificate tells in a line; the warranty record has them all. */
const TOLD = [STEP.ocvSoak, STEP.electrolyte, STEP.water, STEP.firstOcv] as const;

function readings(state: JobState): Row[] {
  const rows = state.steps.flatMap((step): Row[] => {
    const charge = chargeRow(state, step);
    if (charge) return [charge];
    return (TOLD as readonly string[]).includes(step.stepId) ? measuredRows(state, step) : [];
  });
  const filled = latest(state, STEP.weighFilled)?.values?.['filledG'];
  const dry = latest(state, STEP.weighDry)?.values?.['dryG'];
  if (typeof filled === 'number' && typeof dry === 'number')
    rows.push(['Acid by mass', `${(filled - dry).toFixed(0)} g`]);
  return rows;
}

export function testRows(state: JobState): Row[] {
  const verdictStep = state.steps.findLast(
    (step) => step.stepId === STEP.verdict && step.verdict !== undefined,
  );
  if (!verdictStep) return [];
  return judgeCommissioning(contextOf(state, verdictStep.round)).reasons.map((reason): Row => [
    reason.isMet ? 'Met' : 'Not met',
    reason.sentence,
  ]);
}

/** What the grade was judged by. */
function gradeRows(state: JobState): Row[] {
  const step = state.steps.findLast(({ stepId, doneAt }) => stepId === STEP.grade && doneAt !== undefined);
  const definition = step && definitionOf(state, step);
  if (!step || definition?.kind !== 'decide') return [];
  return definition
    .judge(contextOf(state, step.round))
    .reasons.slice(0, -1)
    .map(({ isMet, sentence }): Row => [isMet ? 'Met' : 'Not met', sentence]);
}

function routeRows(state: JobState): Row[] {
  const { timeZone } = state.opened.hours;
  const titles = new Map(procedureOf(state).routes?.map(({ id, title }) => [id, title]));
  return (state.routes ?? []).map(({ route, at, by, reason, leftFor }) => [
    dateTimeText(at, timeZone),
    [
      `${titles.get(route) ?? route} · ${by}`,
      ...(reason === undefined ? [] : [`against the house’s rule: ${verbatim(reason)}`]),
      ...(leftFor === undefined ? [] : [`left: ${verbatim(leftFor)}`]),
    ].join('; '),
  ]);
}

export const usedCautions = (construction: Construction, cells: number): readonly string[] => [
  'It is a used battery, recovered and tested; it is not sold as new and does not go into a critical start.',
  'Local rules, licensed practice and the maker’s instructions come first.',
  checkWords(construction, cells),
  'At the end of its life it goes to a licensed recycler, never into household waste.',
];

function ruleRows(state: JobState): Row[] {
  const rules = completeRules(state.opened.rules);
  return RULE_IDS.filter((id) => rules[id] !== STANDARD_RULES[id]).map((id) => [
    HOUSE_RULES[id].title,
    optionText(id, rules),
  ]);
}

/** A battery that is brought back is in service, however it once came. */
const kindName = (state: JobState): string =>
  procedureOf(state).routes
    ? typeKind({ ...state.opened.type, delivery: 'in-service' })
    : typeKind(state.opened.type);

export function batteryRows(state: JobState): Row[] {
  const { battery, type } = state.opened;
  return [
    ['Tag and serial', battery.serial === '' ? battery.tag : `${battery.tag}, ${verbatim(battery.serial)}`],
    [
      'Type',
      `${verbatim(`${type.maker} ${type.id}`)}, ${kindName(state)}, ${nominalV(type)} V ${type.capacityAh} Ah (${type.hourRate} h)`,
    ],
    [
      'Made, for',
      `${battery.dateCode === AGE_UNKNOWN ? 'not known' : verbatim(battery.dateCode)}, ${verbatim(battery.owner)}`,
    ],
    ...(type.pack && state.steps.some(({ stepId }) => stepId === STEP.packCode)
      ? [
          [
            'Acid',
            `own pack ${verbatim(type.pack.code)}, ${type.pack.volumeMl} mL at ${type.pack.densityKgPerL.toFixed(3)} kg/L`,
          ] as const,
        ]
      : []),
  ];
}

/** Who put a name under the job, last of all. */
export const signerOf = (state: JobState): string =>
  state.steps.findLast((step) => step.by !== undefined)?.by ?? '';

/** Pictures with what is under each of them. */
export const picturesOf = (state: JobState): DocumentContent['photos'] =>
  state.photos.map(({ photo, text, by, at }) => ({
    id: photo,
    caption: `${text} · ${by}, ${dateTimeText(at, state.opened.hours.timeZone)}`,
  }));

/** Readings taken to find out, beside the steps. */
const evidenceRows = (state: JobState): Row[] =>
  (state.evidence ?? []).map(({ reading, by }): Row => ['Found out', `${readingWords(reading)} · ${by}`]);

/** What was done to this one, in the order of work: no word of what was not. */
function workDone(state: JobState): string {
  const isDone = (stepId: string): boolean => {
    const step = latest(state, stepId);
    return step?.doneAt !== undefined && step.status !== 'skipped';
  };
  const words = [
    ...(FILLED_BY.some(isDone) ? ['filled'] : []),
    ...(isDone(STEP.charge) ? ['charged', 'rested'] : []),
    'tested',
  ];
  const list = words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}` : 'tested';
  const note = isDone(STEP.charge) ? '' : '; not charged here, by house rule';
  return `${list.charAt(0).toUpperCase()}${list.slice(1)}${note}`;
}

const FILLED_BY = [STEP.packOff, STEP.fill, STEP.fillOverFine] as const;

/** The words of an ended job's paper. */
export function contentOf({ state }: Pick<Job, 'state'>, shop: Shop): DocumentContent {
  const { battery, type, hours } = state.opened;
  const outcome = state.outcome ?? 'withdrawn';
  const endedAt = state.endedAt ?? state.openedAt;
  const isGood = outcome === 'certified';
  const isRecovered = outcome === 'recovered';
  const isCharged = outcome === 'charged';
  const when = `${dateText(endedAt, hours.timeZone)} at ${clockText(endedAt, hours.timeZone)}`;
  // A recovery has gone many ways: they are told on the next page, so that the certificate is one.
  const told: readonly Section[] = [
    { title: 'Ways taken', rows: routeRows(state) },
    { title: 'Readings', rows: [...readings(state), ...evidenceRows(state)] },
  ];
  const sections: readonly Section[] = [
    { title: 'Battery', rows: batteryRows(state) },
    { title: 'What it was judged by', rows: [...testRows(state), ...gradeRows(state)] },
    ...(isRecovered ? [] : told),
  ];
  const record: readonly Section[] = [
    ...(isRecovered ? told : []),
    {
      title: 'What was done, and when',
      rows: state.steps.map((step) => done(state, step)).filter((entry) => entry !== undefined),
    },
    { title: 'House rules other than the defaults', rows: ruleRows(state) },
  ];
  const isFilled = (section: Section): boolean => section.rows.length > 0;
  return {
    shop: shop.name,
    tag: battery.tag,
    title: TITLES[outcome],
    isGood: isGood || isRecovered || isCharged,
    lead: isGood
      ? `${workDone(state)} on ${when}.`
      : `${isCharged ? 'Charged and rested' : isRecovered ? 'Signed' : 'Recorded'} on ${when}.`,
    verdict: verdictOf(state),
    figures: keyFiguresOf(state),
    beforeAfter: isRecovered ? beforeAfterOf(state) : [],
    curves: curvesOf(state),
    cord: forecast(state, endedAt).segments,
    cordEnds: {
      from: dateTimeText(state.openedAt, hours.timeZone),
      to: dateTimeText(endedAt, hours.timeZone),
    },
    sections: sections.filter(isFilled),
    record: record.filter(isFilled),
    cautionsTitle: isGood || isRecovered || isCharged ? 'For the owner' : 'Caution',
    cautions: isRecovered
      ? usedCautions(type.construction, type.cells)
      : isGood || isCharged
        ? ownerCautions(type.construction, type.cells)
        : outcome === 'retired'
          ? RETIRED_CAUTIONS
          : REFUSED_CAUTIONS,
    signature: `${isGood || isRecovered ? 'Certified' : 'Recorded'} by ${signerOf(state)}, ${shop.name}, ${when}.`,
    photos: picturesOf(state),
  };
}
