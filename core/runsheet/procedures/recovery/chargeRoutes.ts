/** Bringing back by charging: slow, high then low, constant current, long soak, pulses, equalise (handbook 3.4). */
import { onSix } from '../../../battery/types.ts';
import { testerAt25 } from '../../../battery/testerWarmth.ts';
import type { StepValues } from '../../events.ts';
import { printoutFields, temperatureField, testerSpec, voltageField } from '../../fields.ts';
import { isOfEdition } from '../../edition.ts';
import type { Route, Step, StepContext, Veto } from '../../step.ts';
import { densitiesAt25, spreadOf, SPREAD_BAD, SPREAD_EQUALISE } from './openedCells.ts';
import {
  constantCurrent,
  highBite,
  longSoak,
  off,
  lowAfterHigh,
  overVoltage,
  pulses,
  slowCharge,
  treat,
} from './treatments.ts';
import { restedV } from './wakeRoutes.ts';

const isFlooded = ({ opened: { type } }: StepContext): boolean => type.kind === 'flooded-dry-charged';
const hard = (why: string): Veto => ({ why, canOverride: false });
const byHouse = (why: string): Veto => ({ why, canOverride: true });

const tooDeep = (context: StepContext): Veto | undefined => {
  const volts = restedV(context);
  const wakes = onSix(10.5, context.opened.type);
  // Every wake ends with a reading; until one says otherwise it is as deep as it was, whatever way was left.
  const isAsItCame = isOfEdition(context.opened, 3) || context.routes.length === 0;
  return volts !== undefined && volts < wakes && isAsItCame
    ? byHouse(
        `${volts.toFixed(2)} V: below ${wakes.toFixed(2)} V it is woken first, or the charger will not see it.`,
      )
    : undefined;
};

/** Rested after a charge, whichever route it was. */
const readRested: Step = {
  kind: 'measure',
  id: 'after-charge',
  title: 'Read it rested',
  detail: () => 'Nothing connected for an hour at least: sooner the meter reads surface charge.',
  fields: [
    voltageField({
      id: 'ocvV',
      label: 'Open-circuit voltage',
      plausible: [10, 13.2],
      quantity: 'voltage',
    }),
    temperatureField,
  ],
  holds: () => undefined,
  denials: [],
  lookAfterMin: () => 60,
  handsMin: 1,
  overdueAfterMin: 240,
  cautions: [],
};

export const SLOW_CHARGE: Route = {
  id: 'slow-charge',
  title: 'Slow charge',
  isFor: 'Empty, not sulfated. Most batteries returned as bad only need this.',
  stop: 'Full, or 24 h. A plateau about 2 V low is a dead cell.',
  veto: tooDeep,
  steps: [treat('slow', 'Slow charge', 120, slowCharge), ...off('slow'), readRested],
};

export const HIGH_THEN_LOW: Route = {
  id: 'high-then-low',
  title: 'High, then low',
  isFor: 'Flooded, several cells asleep.',
  stop: 'A cell that stays silent or heats ends it.',
  against: 'Heat breaks plates that stood flat; slow reaches the same without it.',
  veto: (context) => {
    if (!isFlooded(context))
      return hard('High-then-low wants open cells one can look into; an AGM is closed.');
    return context.opened.rules.firstHours === 'slow'
      ? byHouse('By this house’s rule the first hours of a recovery are slow only.')
      : undefined;
  },
  steps: [
    treat('bite-one', 'High, 15 minutes', 15, highBite, { cautions: ['attended'] }),
    {
      kind: 'act',
      id: 'bite-look',
      title: 'Look at every cell',
      detail: () =>
        'Charger off first. Which bubble, which are silent, which is warm? Note it; one more bite may wake the rest.',
      doneLabel: 'Looked at every cell',
      handsMin: 2,
      overdueAfterMin: 15,
      cautions: ['gasInside'],
    },
    treat('bite-two', 'High, 15 minutes more', 15, highBite, { cautions: ['attended'] }),
    {
      kind: 'gate',
      id: 'bite-all',
      title: 'Every cell bubbling?',
      detail: () => 'Each of them, and none hot to the hand.',
      claims: [],
      affirmLabel: 'All bubble, none is hot',
      chambers: {
        name: 'Cell',
        yes: 'bubbling',
        no: 'silent or hot',
        remedy: 'Stop: a cell that stays silent or heats is shorted or dead. Leave this route',
      },
      denials: [],
      handsMin: 2,
      overdueAfterMin: 15,
      cautions: ['gasInside'],
    },
    treat('low', 'Low, caps laid on', 120, lowAfterHigh),
    ...off('low'),
    readRested,
  ],
};

export const CONSTANT_CURRENT: Route = {
  id: 'constant-current',
  title: 'Constant current',
  isFor: 'Flooded, moderately sulfated.',
  stop: '14.5 V, hot, or 12 h.',
  veto: (context) =>
    isFlooded(context)
      ? tooDeep(context)
      : hard('Constant current without a voltage limit dries an AGM out. Choose a long soak.'),
  steps: [treat('current', 'Constant current', 120, constantCurrent), ...off('current'), readRested],
};

export const LONG_SOAK: Route = {
  id: 'long-soak',
  title: 'Long soak',
  isFor: 'AGM with high resistance.',
  stop: 'Current flat for 4 h, above 45 °C, or current rising at constant voltage. Then days of rest; once more at most.',
  veto: (context) => {
    if (isFlooded(context))
      return hard('A long soak is for AGM; a flooded battery would boil off its water.');
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

/** A gain below this is none, share of the reading before. */
const GAIN = 0.02;

/** At 25 °C; a first figure counts only of a battery that came charged, or what is gained is charge. */
function pulseGains(context: StepContext): readonly boolean[] {
  const rounds = context.routes.filter(({ route }) => route === 'pulse').map(({ round }) => round);
  const at25 = (values: StepValues, tempC: unknown): number | undefined => {
    const { testerA } = values;
    if (typeof testerA !== 'number') return undefined;
    const told = testerAt25(testerA, typeof tempC === 'number' ? tempC : undefined);
    return told.isTold ? told.amps : undefined;
  };
  const reads = rounds.map((round) => {
    const values = context.valuesIn('pulse-read', round);
    return at25(values, values['tempC']);
  });
  const { ocvV, tempC } = context.valuesOf('first-ocv');
  const isCharged = typeof ocvV === 'number' && ocvV >= context.threshold('passOcvV').value;
  const first = isCharged ? at25(context.valuesOf('first-tester'), tempC) : undefined;
  const all = [first, ...reads].filter((one) => one !== undefined);
  return all.slice(1).map((now, index) => now >= (all[index] ?? now) * (1 + GAIN));
}

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
        {
          kind: 'number',
          id: 'testerA',
          quantity: 'cranking',
          spec: ({ opened: { type } }) => testerSpec(type),
        },
        ...printoutFields(),
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

export const EQUALISE: Route = {
  id: 'equalise',
  title: 'Equalise',
  isFor: 'Flooded, cells apart or acid layered. Experts only.',
  stop: 'Three hourly densities agree; 45 °C, 4 h or a low level end it.',
  against: 'Known to bite beginners: it costs water and heat.',
  veto: (context) => {
    if (!isFlooded(context))
      return hard('An AGM is never equalised: it cannot give the gas back, and dries out.');
    if (context.opened.rules.equalise === 'off')
      return hard('By this house’s rule over-voltage equalising is off.');
    const values = context.valuesOf('density-before');
    const spread = spreadOf(densitiesAt25(values, context.opened.type.cells));
    if (spread !== undefined && spread > SPREAD_BAD)
      return byHouse(`Cells differ by ${spread.toFixed(3)}: more likely a bad cell than layered acid.`);
    return spread !== undefined && spread < SPREAD_EQUALISE
      ? byHouse(`Cells differ by ${spread.toFixed(3)} only: nothing to even out.`)
      : undefined;
  },
  steps: [
    {
      kind: 'gate',
      id: 'equalise-expert',
      title: 'Before it is equalised',
      detail: () => '15.5 to 16.2 V throws gas and acid mist; every other battery is away from it.',
      claims: [
        'An expert stays with it',
        'Level above the plates in every cell, vents open',
        'Nothing else connected',
      ],
      affirmLabel: 'All so',
      denials: [
        {
          id: 'level-low',
          label: 'A level is low',
          say: 'Distilled water first, then again.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 30,
      cautions: ['acid', 'gas', 'attended'],
    },
    treat('over-voltage', 'Equalise', 60, overVoltage, { cautions: ['attended'] }),
    ...off('over-voltage'),
    readRested,
  ],
};
