/** Bringing back by charging: slow, constant current, long soak, pulses (handbook 3.4). */
import { temperatureField, voltageField } from '../../definition/fields.ts';
import { testerFields } from '../../definition/testerFields.ts';
import type { Route } from '../../definition/step.ts';
import { pulseGains } from './gains.ts';
import { hard, isFlooded, readRested, refusedPlan, tooDeep } from './shared.ts';
import { constantCurrent, longSoak, off, pulses, slowCharge, treat } from './treatments.ts';

export const SLOW_CHARGE: Route = {
  id: 'slow-charge',
  title: 'Slow charge',
  isFor: 'Empty, not sulfated. Most batteries returned as bad only need this.',
  stop: 'Full, or 24 h. A plateau about 2 V low is a dead cell.',
  veto: tooDeep,
  steps: [treat('slow', 'Slow charge', 120, slowCharge), ...off('slow'), readRested],
};

export const CONSTANT_CURRENT: Route = {
  id: 'constant-current',
  title: 'Constant current',
  isFor: 'Flooded, moderately sulfated.',
  stop: '14.5 V, hot, or 12 h.',
  veto: (context) => (isFlooded(context) ? tooDeep(context) : hard(refusedPlan('constant-current', context))),
  steps: [treat('current', 'Constant current', 120, constantCurrent), ...off('current'), readRested],
};

export const LONG_SOAK: Route = {
  id: 'long-soak',
  title: 'Long soak',
  isFor: 'AGM with high resistance.',
  stop: 'Current flat for 4 h, above 45 °C, or current rising at constant voltage. Then days of rest; once more at most.',
  veto: (context) => {
    if (context.opened.type.construction !== 'agm') return hard(refusedPlan('long-soak', context));
    if (context.routes.filter(({ route }) => route === 'long-soak').length >= 2)
      return hard('Soaked twice already: a third brings nothing more.');
    return tooDeep(context);
  },
  steps: [
    treat('soak', 'Long soak', 240, longSoak),
    ...off('soak'),
    {
      kind: 'dwell',
      id: 'soak-rest',
      title: 'Days of rest',
      detail: () => 'Disconnected, at room warmth. The acid evens out in the mats.',
      minimum: 'afterSoakMin',
      clockStart: () => 'soak-clips',
      canOverride: true,
      handsMin: 0,
      overdueAfterMin: 24 * 60,
      cautions: [],
      shows: ['afterSoakMin'],
    },
    readRested,
  ],
};

export const PULSE: Route = {
  id: 'pulse',
  title: 'Pulses over days',
  isFor: 'Sulfation without a bad cell.',
  stop: 'No gain in two consecutive weekly tests.',
  against: 'What pulses add over their average current is an assumption; the shop’s own results decide.',
  veto: (context) => {
    const gains = pulseGains(context);
    const [before, last] = gains.slice(-2);
    if (before === false && last === false)
      return hard('No gain in two consecutive tests: pulsing ends here.');
    return tooDeep(context);
  },
  steps: [
    treat('pulse', 'Pulses, a week', 24 * 60, pulses),
    ...off('pulse'),
    {
      kind: 'measure',
      id: 'pulse-read',
      title: 'The week’s test',
      detail: () => 'Rested four hours. The same tester, the same settings, the same warmth as before.',
      fields: [
        voltageField({
          id: 'ocvV',
          label: 'Open-circuit voltage',
          plausible: [11, 13.2],
          quantity: 'voltage',
        }),
        ...testerFields(),
        temperatureField,
      ],
      holds: () => undefined,
      denials: [],
      remark: ({ testerA }, context) => {
        const gains = pulseGains(context);
        return typeof testerA === 'number' && gains.at(-1) === false
          ? 'No gain this week. Two such weeks end it.'
          : undefined;
      },
      lookAfterMin: () => 240,
      handsMin: 2,
      overdueAfterMin: 24 * 60,
      cautions: [],
    },
  ],
};
