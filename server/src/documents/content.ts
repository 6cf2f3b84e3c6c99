/** What stands on a certificate or note, as words; `document.ts` sets it on paper. */
import { chargeFromRestedVoltage } from '@cork-ember/core/battery/stateOfCharge.ts';
import { constructionOf, KIND_NAMES } from '@cork-ember/core/battery/types.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { judgeCommissioning } from '@cork-ember/core/runsheet/commissioningVerdict.ts';
import {
  completeRules,
  HOUSE_RULES,
  optionText,
  RULE_IDS,
  STANDARD_RULES,
} from '@cork-ember/core/runsheet/houseRules.ts';
import { gainsOf, gainWords } from '@cork-ember/core/runsheet/gain.ts';
import { gradedFrom, proofOf } from '@cork-ember/core/runsheet/procedures/recovery/prove.ts';
import {
  contextOf,
  definitionOf,
  latest,
  minutesOnCharge,
  procedureOf,
  readingsOf,
  type JobState,
  type StepState,
} from '@cork-ember/core/runsheet/state.ts';
import type { Outcome } from '@cork-ember/core/runsheet/step.ts';
import { clockText, dateText, durationText } from '@cork-ember/core/schedule/clockText.ts';

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
};

const CHARGING_WORDS = {
  agm: 'Charge only with a charger for sealed AGM batteries, 14.4–14.8 V on 12 V; never a gel programme; never open the lid.',
  flooded:
    'Charge at 14.4–14.8 V on 12 V, caps vented; distilled water to the UPPER line, never acid, never tap water.',
} as const;

export const ownerCautions = (construction: keyof typeof CHARGING_WORDS): readonly string[] => [
  'Local rules, licensed practice and the maker’s instructions come first.',
  CHARGING_WORDS[construction],
  'Check it every month; recharge at once when it rests below 12.4 V (6.2 V on a 6 V battery), and every three months regardless.',
  'Positive on first and off last on the bench; on a vehicle negative off first and on last. Tighten no further than the torque given.',
  'It gives off hydrogen on charge: ventilate, no spark or flame. Acid in the eyes or on skin: running water for 15 minutes.',
  'At the end of its life it goes to a licensed recycler, never into household waste.',
];

const REFUSED_CAUTIONS = [
  'Do not fill, charge, sell or fit this battery.',
  'If it has been filled it holds sulfuric acid: goggles and gloves, keep it upright, neutraliser at hand.',
  'Local rules, licensed practice and the maker’s instructions come first.',
];

export function done(state: JobState, step: StepState): Row | undefined {
  if (step.doneAt === undefined || step.status === 'skipped') return undefined;
  const { timeZone } = state.opened.hours;
  const definition = definitionOf(state, step);
  const round = step.round > 1 ? ` (${step.round})` : '';
  const what = step.status === 'overridden' ? `cut short: ${step.reason ?? ''}` : (step.by ?? '');
  const answer = step.status === 'held' ? (step.why ?? '') : what;
  return [
    `${dateText(step.doneAt, timeZone)} ${clockText(step.doneAt, timeZone)}`,
    `${definition.title}${round}${answer === '' ? '' : ` · ${answer}`}`,
  ];
}

function chargeRow(state: JobState, step: StepState): Row | undefined {
  if (!step.charge || step.doneAt === undefined) return undefined;
  const { charge } = step;
  const readings = readingsOf(state, step.key);
  const hottest = Math.max(...readings.map((reading) => reading.tempC));
  const warm = Number.isFinite(hottest) ? `, at most ${hottest.toFixed(1)} °C` : '';
  const time = durationText(minutesOnCharge(charge, step.doneAt) * 60_000);
  return [
    `Charge ${step.round}`,
    `${charge.currentA.toFixed(2)} A for ${time}, ${readings.length} readings${warm}`,
  ];
}

export function readings(state: JobState): Row[] {
  const rows: Row[] = [];
  const soak = latest(state, 'ocv-soak');
  if (soak?.values)
    rows.push([
      'After the soak',
      `${soak.values['ocvV']} V at ${soak.values['tempC']} °C (${soak.source ?? ''})`,
    ]);
  for (const step of state.steps) {
    const charge = chargeRow(state, step);
    if (charge) rows.push(charge);
  }
  const electrolyte = latest(state, 'electrolyte')?.values;
  if (electrolyte)
    rows.push(['Electrolyte', `${electrolyte['density']} g/cm³ as read, at ${electrolyte['acidC']} °C`]);
  const water = latest(state, 'water')?.values;
  if (water?.['added'] === 'distilled') rows.push(['Distilled water added', `${water['ml']} mL`]);
  const filled = latest(state, 'weigh-filled')?.values?.['filledG'];
  const dry = latest(state, 'weigh-dry')?.values?.['dryG'];
  if (typeof filled === 'number' && typeof dry === 'number') rows.push(['Acid by mass', `${filled - dry} g`]);
  return rows;
}

export function testRows(state: JobState): Row[] {
  const verdictStep = state.steps.findLast((step) => step.stepId === 'verdict' && step.verdict !== undefined);
  const ocvV = verdictStep && latest(state, 'test-ocv', verdictStep.round)?.values?.['ocvV'];
  if (!verdictStep || typeof ocvV !== 'number') return [];
  const context = contextOf(state, verdictStep.round);
  const charge = chargeFromRestedVoltage(
    ocvV,
    state.opened.type.cells,
    constructionOf(state.opened.type.kind),
  );
  return [
    ...judgeCommissioning(context).reasons.map((reason): Row => [
      reason.isMet ? 'Met' : 'Not met',
      reason.sentence,
    ]),
    [
      'State of charge',
      `about ${charge.mean.toFixed(0)} % (${charge.low.toFixed(0)} to ${charge.high.toFixed(0)} %), estimated from the rested voltage`,
    ],
  ];
}

const shareText = (share: number | undefined): string =>
  share === undefined ? 'not measured, and not assumed' : `${(share * 100).toFixed(0)} % of the rating`;

/** Before and after, what was measured, the grade and what it is good for. */
function recoveryRows(state: JobState): Row[] {
  const round = state.steps.findLast(
    ({ stepId, doneAt }) => stepId === 'prove-ocv' && doneAt !== undefined,
  )?.round;
  const first = latest(state, 'first-ocv')?.values?.['ocvV'];
  const before: Row[] = typeof first === 'number' ? [['As it came', `${first.toFixed(2)} V`]] : [];
  if (round === undefined) return before;
  const gains = gainsOf(state).map((gain): Row => [`Gain, ${gain.what.toLowerCase()}`, gainWords(gain)]);
  const context = contextOf(state, round);
  const proof = proofOf(context);
  const { grade, because, use } = gradedFrom(context);
  const rested = context.valuesIn('prove-ocv', round)['ocvV'];
  const held = proof.heldDay === undefined ? 'not tested' : proof.heldDay ? 'a day' : 'did not hold';
  return [
    ...before,
    ...(typeof rested === 'number' ? [['Rested after', `${rested.toFixed(2)} V`] as const] : []),
    ['Capacity', shareText(proof.capacityShare)],
    ['Cranking', shareText(proof.crankingShare)],
    ['Held', proof.heldWeek === true ? 'a week' : held],
    ['Grade', `${grade}: ${because}`],
    ['Good for', use],
    ...gains,
  ];
}

function routeRows(state: JobState): Row[] {
  const { timeZone } = state.opened.hours;
  const titles = new Map(procedureOf(state).routes?.map(({ id, title }) => [id, title]));
  return (state.routes ?? []).map(({ route, at, by, reason, leftFor }) => [
    `${dateText(at, timeZone)} ${clockText(at, timeZone)}`,
    [
      `${titles.get(route) ?? route} · ${by}`,
      ...(reason === undefined ? [] : [`against the house’s rule: ${reason}`]),
      ...(leftFor === undefined ? [] : [`left: ${leftFor}`]),
    ].join('; '),
  ]);
}

const USED_CAUTIONS = [
  'It is a used battery, recovered and tested; it is not sold as new and does not go into a critical start.',
  'Local rules, licensed practice and the maker’s instructions come first.',
  'Check it every month; recharge at once when it rests below 12.4 V (6.2 V on a 6 V battery).',
  'At the end of its life it goes to a licensed recycler, never into household waste.',
];

function ruleRows(state: JobState): Row[] {
  const rules = completeRules(state.opened.rules);
  return RULE_IDS.filter((id) => rules[id] !== STANDARD_RULES[id]).map((id) => [
    HOUSE_RULES[id].title,
    optionText(id, rules),
  ]);
}

export function batteryRows({ opened: { battery, type } }: JobState): Row[] {
  return [
    ['Tag and serial', battery.serial === '' ? battery.tag : `${battery.tag}, ${battery.serial}`],
    [
      'Type',
      `${type.maker} ${type.id}, ${KIND_NAMES[type.kind]}, ${type.nominalV} V ${type.capacityAh} Ah (${type.hourRate} h)`,
    ],
    ['Made, for', `${battery.dateCode}, ${battery.owner}`],
    ...(type.pack
      ? [
          [
            'Acid',
            `own pack ${type.pack.code}, ${type.pack.volumeMl} mL at ${type.pack.densityKgPerL} kg/L`,
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
    caption: `${text} · ${by}, ${dateText(at, state.opened.hours.timeZone)} ${clockText(at, state.opened.hours.timeZone)}`,
  }));

/** The words of an ended job's paper. */
export function contentOf(state: JobState, shop: Shop): DocumentContent {
  const { battery, type, hours } = state.opened;
  const outcome = state.outcome ?? 'withdrawn';
  const endedAt = state.endedAt ?? state.openedAt;
  const isGood = outcome === 'certified';
  const isRecovered = outcome === 'recovered';
  const when = `${dateText(endedAt, hours.timeZone)} at ${clockText(endedAt, hours.timeZone)}`;
  const signer = signerOf(state);
  const sections: readonly Section[] = [
    { title: 'Battery', rows: batteryRows(state) },
    { title: 'Test', rows: testRows(state) },
    { title: 'Recovery', rows: recoveryRows(state) },
    { title: 'Routes', rows: routeRows(state) },
    { title: 'Readings', rows: readings(state) },
  ];
  const record: readonly Section[] = [
    {
      title: 'What was done, and when',
      rows: state.steps.map((step) => done(state, step)).filter((entry) => entry !== undefined),
    },
    { title: 'House rules other than the defaults', rows: ruleRows(state) },
  ];
  const isChargedHere = latest(state, 'charge') !== undefined;
  const isFilled = (section: Section): boolean => section.rows.length > 0;
  return {
    shop: shop.name,
    tag: battery.tag,
    title: TITLES[outcome],
    lead: isRecovered
      ? `Used, recovered and tested. Signed on ${when}.`
      : isGood
        ? `${isChargedHere ? 'Filled, charged, rested and tested' : 'Tested; not charged here, by house rule'}. Passed on ${when}.`
        : `${state.outcomeNote ?? ''} (${when})`,
    sections: sections.filter(isFilled),
    record: record.filter(isFilled),
    cautionsTitle: isGood || isRecovered ? 'For the owner' : 'Caution',
    cautions: isRecovered
      ? USED_CAUTIONS
      : isGood
        ? ownerCautions(constructionOf(type.kind))
        : REFUSED_CAUTIONS,
    signature: `${isGood || isRecovered ? 'Certified' : 'Recorded'} by ${signer}, ${shop.name}, ${when}.`,
    photos: isGood ? [] : picturesOf(state),
  };
}
