/** Discharge and charge again: each discharge is followed at once by its recharge, a rest and a retest (handbook 3.4). */
import { percentText } from '../../../units/percent.ts';
import { onSix } from '../../../battery/types.ts';
import { isOfEdition } from '../../entries/edition.ts';
import { temperatureField, voltageField } from '../../definition/fields.ts';
import { testerFields } from '../../definition/testerFields.ts';
import type { Route, Step, StepContext } from '../../definition/step.ts';
import { testedCharged } from './gains.ts';
import { byHouse, hard } from './shared.ts';
import { off, slowCharge, treat } from './treatments.ts';
import { isDrawnDown, restedV } from '../../definition/restedSteps.ts';

const MOST_CYCLES = 3;
/** A gain below this ends it, share of the reading before (handbook 3.4). */
const GAIN = 0.03;
/** Of the rating: as good as a battery in use is asked to be (handbook 3.2). */
const TARGET = 0.8;

/** What the last cycle gained on the reading before it, as a share; undefined where one of the two was not read. */
function lastGain(context: StepContext): number | undefined {
  const tested = testedCharged(context);
  const index = tested.findLastIndex(({ stepId }) => stepId === 'cycle-read');
  const [before, after] = [tested[index - 1], tested[index]];
  return before && after && before.amps > 0 ? after.amps / before.amps - 1 : undefined;
}

function shareOfRating(context: StepContext): number | undefined {
  const last = testedCharged(context).at(-1);
  const { cranking } = context.opened.type;
  return last && cranking ? last.amps / cranking.amps : undefined;
}

const gainText = (gain: number): string => `${gain < 0 ? '−' : ''}${Math.abs(gain * 100).toFixed(1)} %`;

const chargedAndTested: readonly Step[] = [
  treat('cycle-charge', 'Charge it again, at once', 120, slowCharge),
  ...off('cycle-charge'),
  {
    kind: 'dwell',
    id: 'cycle-rest',
    title: 'Let it rest',
    detail: () => 'Nothing connected: sooner the tester reads surface charge.',
    minimum: 'retestMin',
    clockStart: () => 'cycle-charge-clips',
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 24 * 60,
    cautions: [],
    shows: ['retestMin'],
  },
  {
    kind: 'measure',
    id: 'cycle-read',
    title: 'Test it again',
    detail: () => 'The same tester, the same settings, the same warmth as before the discharge.',
    fields: [
      voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [11, 13.2], quantity: 'voltage' }),
      ...testerFields().map((field) => ({ ...field, optional: true })),
      temperatureField,
    ],
    holds: () => undefined,
    denials: [],
    remark: ({ testerA }, context) => {
      if (typeof testerA !== 'number') return 'Without a tester’s figure the gain of a cycle cannot be told.';
      const gain = lastGain(context);
      if (gain === undefined) return 'No charged reading stands before this one: the gain cannot be told.';
      return gain < GAIN
        ? `Gain ${gainText(gain)}: below 3 %, so it is not cycled again.`
        : `Gain ${gainText(gain)} on the reading before.`;
    },
    handsMin: 2,
    overdueAfterMin: 24 * 60,
    cautions: ['sparkAtTest'],
  },
];

/** From the fourth edition on a discharge is followed by its recharge. */
const recharged = chargedAndTested.map((step): Step => ({ ...step, editions: { from: 4 } }));

export const CYCLES: Route = {
  id: 'cycle',
  title: 'Discharge and charge again',
  isFor: 'Recovered, its cranking still low.',
  stop: 'Gain below 3 %, or the target met; three times at most.',
  veto: (context) => {
    const { opened } = context;
    const volts = restedV(context);
    if (isOfEdition(opened, 4) && isDrawnDown(context))
      return hard('It was discharged and not charged since: charge it first.');
    if (volts !== undefined && volts < onSix(12, opened.type))
      return hard(`${volts.toFixed(2)} V: charge it first; there is nothing to draw.`);
    if (context.routes.filter(({ route }) => route === 'cycle').length >= MOST_CYCLES)
      return hard('Cycled three times already; more wears it out.');
    if (!isOfEdition(opened, 4)) return undefined;
    const gain = lastGain(context);
    if (gain !== undefined && gain < GAIN)
      return hard(`The last cycle gained ${gainText(gain)}, below 3 %: cycling ends here.`);
    const share = shareOfRating(context);
    return share !== undefined && share >= TARGET
      ? byHouse(`${percentText(share)} of its cranking rating: the target is met.`)
      : undefined;
  },
  steps: [
    {
      kind: 'gate',
      id: 'cycle-start',
      title: 'Start the discharge',
      detail: ({ opened: { type } }) =>
        `${(type.capacityAh / 10).toFixed(1)} A, to ${onSix(11.5, type).toFixed(2)} V and not below. Somebody stays; the alarm calls every half hour.`,
      claims: ['A load that can be taken off at once', 'Meter on the posts', 'Somebody stays with it'],
      affirmLabel: 'Load is on',
      denials: [
        {
          id: 'nobody',
          label: 'Nobody can stay',
          say: 'Then not now: a discharge left alone ruins the battery.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 60,
      cautions: ['deepDischarge', 'sparkAtTest'],
    },
    {
      kind: 'measure',
      id: 'cycle-end',
      title: 'Load off at 11.5 V',
      detail: ({ opened: { type } }) =>
        `Look every half hour, oftener near the end. Load off at ${onSix(11.5, type).toFixed(2)} V, and back on charge at once.`,
      fields: [
        {
          kind: 'number',
          id: 'minutes',
          spec: () => ({
            label: 'Minutes under load',
            unit: 'min',
            decimals: 0,
            possible: { min: 0, max: 2000 },
            plausible: { min: 30, max: 900 },
          }),
        },
        voltageField({
          id: 'endV',
          label: 'Voltage when the load came off',
          plausible: [11.3, 12.4],
          quantity: 'voltage',
        }),
      ],
      holds: ({ endV }, { opened: { type } }) =>
        typeof endV === 'number' && endV < onSix(11.3, type)
          ? {
              why: `${endV.toFixed(2)} V: drawn below ${onSix(11.5, type).toFixed(2)} V. Charge it at once; record why it went so far.`,
              canOverride: true,
            }
          : undefined,
      denials: [],
      lookAfterMin: () => 30,
      isAttended: true,
      handsMin: 3,
      overdueAfterMin: 10,
      cautions: ['deepDischarge'],
    },
    ...recharged,
  ],
};
