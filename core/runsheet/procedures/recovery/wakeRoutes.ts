/** Waking a battery no charger sees: by a supply, beside a donor, or by a manual charger (handbook 3.4). */
import { nominalV, onSix } from '../../../battery/types.ts';
import { inrushA, leadsOhm } from '../../../charge/donor.ts';
import { voltageField } from '../../definition/fields.ts';
import { restedV } from '../../definition/restedSteps.ts';
import type { Denial, Route, Step, StepContext, Veto } from '../../definition/step.ts';
import { donorHour, forcedStart, supplyWake, treat } from './treatments.ts';

const seesNothing = (context: StepContext): Veto | undefined => {
  const volts = restedV(context);
  const wakes = onSix(10.5, context.opened.type);
  return volts !== undefined && volts >= wakes
    ? {
        why: `${volts.toFixed(2)} V: a charger sees it already; there is nothing to wake.`,
        canOverride: false,
      }
    : undefined;
};

/** The house wakes one way; another needs a reason. */
const houseWakes = (context: StepContext, methods: readonly string[], words: string): Veto | undefined =>
  methods.includes(context.opened.rules.wakeMethod)
    ? undefined
    : { why: `By this house’s rule a battery is woken ${words}.`, canOverride: true };

const HOUSE_WORDS = {
  supply: 'by a current-limited supply',
  donor: 'beside a donor, the charger on the donor',
  donorEither: 'beside a donor, the charger on either',
  manual: 'by a manual charger',
} as const;

const reversed: Denial = {
  id: 'clips-reversed',
  label: 'They are the wrong way round',
  say: 'Take them off at once, charger off first. Reversed clips heat leads and batteries within seconds.',
  leads: 'hold',
};

const polarity = (id: string, what: string): Step => ({
  kind: 'gate',
  id,
  title: 'Polarity, twice',
  detail: () =>
    `A charger cannot tell below 2 V which way round ${what} is. By eye: + to +. By meter: the sign shown is positive.`,
  claims: ['By eye: plus on plus, marks on the case', 'By meter: the reading is positive'],
  affirmLabel: 'Checked by eye and by meter',
  denials: [reversed],
  handsMin: 2,
  overdueAfterMin: 30,
  cautions: ['clipsFirst'],
});

const readAfterLeads = (id: string, title: string): Step => ({
  kind: 'measure',
  id,
  title,
  detail: () => 'Leads off, nothing connected. Compare with the reading before.',
  fields: [
    voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [2, 13], quantity: 'voltage' }),
  ],
  holds: () => undefined,
  denials: [],
  handsMin: 1,
  overdueAfterMin: 15,
  cautions: [],
});

interface Wake {
  /** Its steps are named after it. */
  readonly id: 'donor' | 'supply' | 'forced';
  readonly off: { readonly title: string; readonly detail: string; readonly affirmLabel: string };
  /** What may follow where it rises and is not there yet. */
  readonly again: string;
}

/** How every wake ends: off, nothing connected, read at ten and at thirty minutes (handbook 3.4). */
const afterWake = ({ id, off, again }: Wake): readonly Step[] => [
  {
    kind: 'gate',
    id: `${id}-off`,
    title: off.title,
    detail: () => off.detail,
    claims: ['Charger off at the mains first', 'Leads off, negative then positive'],
    affirmLabel: off.affirmLabel,
    denials: [],
    handsMin: 2,
    overdueAfterMin: 5,
    cautions: ['chargerOffFirst'],
  },
  {
    kind: 'dwell',
    id: `${id}-wait`,
    title: 'Let the surface charge go',
    detail: () => 'Nothing connected.',
    minimum: 'leadsOffMin',
    clockStart: () => `${id}-off`,
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 30,
    cautions: [],
    shows: ['leadsOffMin'],
  },
  readAfterLeads(`${id}-read`, 'Read it, 10 minutes on'),
  {
    kind: 'dwell',
    id: `${id}-hold`,
    title: 'See whether it holds',
    detail: () => 'Nothing connected, twenty minutes more.',
    minimum: 'leadsHoldMin',
    clockStart: () => `${id}-read`,
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 30,
    cautions: [],
    shows: ['leadsHoldMin'],
  },
  {
    ...readAfterLeads(`${id}-read-late`, 'Read it again, 30 minutes on'),
    holds: ({ ocvV }, context) => {
      const early = context.valuesOf(`${id}-read`)['ocvV'];
      const start = context.valuesOf('first-ocv')['ocvV'];
      if (typeof ocvV !== 'number' || typeof early !== 'number') return undefined;
      if (early - ocvV > onSix(0.3, context.opened.type))
        return {
          why: `It fell from ${early.toFixed(2)} to ${ocvV.toFixed(2)} V in 20 minutes: a leak that 10.5 V alone would pass. Leave this route.`,
          canOverride: false,
        };
      if (
        ocvV < onSix(10.5, context.opened.type) &&
        typeof start === 'number' &&
        ocvV <= start + onSix(0.1, context.opened.type)
      )
        return {
          why: `${ocvV.toFixed(2)} V, no more than the ${start.toFixed(2)} V it came with: suspected short. Leave this route.`,
          canOverride: false,
        };
      return undefined;
    },
    remark: ({ ocvV }, { opened: { type } }) =>
      typeof ocvV !== 'number'
        ? undefined
        : ocvV >= onSix(10.5, type)
          ? `${ocvV.toFixed(2)} V and holding: the charger alone now, slowly.`
          : `${ocvV.toFixed(2)} V and rising: ${again}.`,
  } as Step,
];

/** By one current-limited source straight on the battery. */
const CLIPS_OFF: Wake['off'] = {
  title: 'Charger off, then clips off',
  detail: 'In this order: the charger at the mains, then negative, then positive.',
  affirmLabel: 'Charger off, clips off',
};

export const SUPPLY_WAKE: Route = {
  id: 'supply-wake',
  title: 'Wake with a supply',
  isFor: 'Below 10.5 V, no charger sees it. Current under control, nothing else at risk.',
  stop: 'Takes C/20 below 14.4 V: slow charge. Not rising or hot: suspected short.',
  veto: (context) =>
    seesNothing(context) ?? houseWakes(context, ['supply'], HOUSE_WORDS[context.opened.rules.wakeMethod]),
  steps: [
    polarity('supply-polarity', 'the battery'),
    treat('supply-charge', 'Wake with the supply', 15, supplyWake, { cautions: ['attended'] }),
    ...afterWake({ id: 'supply', off: CLIPS_OFF, again: 'the supply once more may wake it' }),
  ],
};

/** Donors and flats on this bench: a few milliohms, by their size. */
const DONOR_OHM = 0.006;
const FLAT_OHM_AH = 1;
const LEADS_M = 2;
/** Above this thin leads get hot at once, A. */
const LEADS_WARN_A = 80;

/** The first moment's current and what it asks of the leads, in words. */
function inrushWords(context: StepContext): string {
  const donorV = context.valuesOf('donor-check')['donorV'];
  const flatV = restedV(context);
  if (typeof donorV !== 'number' || flatV === undefined)
    return 'The first moment’s current is limited by nothing but the leads.';
  const flatOhm = FLAT_OHM_AH / context.opened.type.capacityAh;
  const most = inrushA(donorV, Math.max(0, flatV), DONOR_OHM, flatOhm, leadsOhm(LEADS_M, 16));
  const leads = most > LEADS_WARN_A ? ' Leads of 16 mm² or more, clamps on firmly; thin ones burn.' : '';
  return `Between ${donorV.toFixed(1)} V and ${flatV.toFixed(1)} V up to ${most.toFixed(0)} A may leap over if a cell is shorted; a sulfated battery draws almost nothing.${leads}`;
}

const MOST_DONOR_HOURS = 3;

export const DONOR_WAKE: Route = {
  id: 'donor-wake',
  title: 'Wake beside a donor',
  isFor: '0.5 to 10.5 V, 30 Ah and up, that the charger will not recognise.',
  stop: 'Read 10 and 30 min after the leads are off. 10.5 V and holding: charger alone. Rising: another hour, three at most. Hot or not rising: suspected short.',
  veto: (context) => {
    const { type } = context.opened;
    const volts = restedV(context);
    if (type.capacityAh < 30)
      return {
        why: `A donor’s own current is not limited by the charger: below 30 Ah it is never used, and this battery has ${type.capacityAh} Ah. Wake it with a supply.`,
        canOverride: false,
      };
    if (volts !== undefined && volts < onSix(0.5, type))
      return {
        why: `${volts.toFixed(2)} V: below ${onSix(0.5, type).toFixed(2)} V polarity cannot be told; wake it with a supply.`,
        canOverride: false,
      };
    if (context.routes.filter(({ route }) => route === 'donor-wake').length >= MOST_DONOR_HOURS)
      return {
        why: 'Three hours beside a donor are the most: it does not wake this way.',
        canOverride: false,
      };
    return (
      seesNothing(context) ??
      houseWakes(context, ['donor', 'donorEither'], HOUSE_WORDS[context.opened.rules.wakeMethod])
    );
  },
  steps: [
    {
      kind: 'measure',
      id: 'donor-check',
      title: 'Check the donor',
      detail: ({ opened: { type } }) =>
        `Same nominal voltage, ${nominalV(type)} V, rested at ${onSix(12, type).toFixed(1)} V or more; ${onSix(12.4, type).toFixed(1)} is better.`,
      fields: [
        voltageField({
          id: 'donorV',
          label: 'Donor’s rested voltage',
          plausible: [12, 13.2],
          quantity: 'voltage',
        }),
      ],
      holds: ({ donorV }, { opened: { type } }) =>
        typeof donorV === 'number' && donorV < onSix(12, type)
          ? {
              why: `${donorV.toFixed(2)} V is below ${onSix(12, type).toFixed(1)} V: this donor has nothing to give. Take another.`,
              canOverride: false,
            }
          : undefined,
      denials: [],
      handsMin: 2,
      overdueAfterMin: 30,
      cautions: [],
    },
    polarity('donor-polarity', 'either battery'),
    {
      kind: 'gate',
      id: 'donor-leads',
      title: 'Leads on: plus to plus, then minus to minus',
      detail: (context) =>
        `${inrushWords(context)} ${context.opened.rules.wakeMethod === 'donorEither' ? 'The charger may go on either battery.' : 'The charger goes on the donor.'}`,
      claims: [
        'Positive to positive first',
        'Negative to negative second, away from the caps',
        'No heat in the leads after a minute',
      ],
      affirmLabel: 'Leads are on and stay cool',
      denials: [
        reversed,
        {
          id: 'leads-hot',
          label: 'The leads get hot',
          say: 'Leads off at once: a shorted cell draws hundreds of amperes. It is not woken beside a donor.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 15,
      cautions: ['donorLeads', 'gasInside'],
    },
    treat('donor-hour', 'One hour beside the donor', 20, donorHour, { cautions: ['donorLeads', 'attended'] }),
    ...afterWake({
      id: 'donor',
      off: {
        title: 'Charger off, then leads off',
        detail: 'In this order: the charger at the mains, then negative, then positive.',
        affirmLabel: 'Charger off, leads off',
      },
      again: 'another hour beside the donor may wake it',
    }),
  ],
};

export const FORCED_START: Route = {
  id: 'forced-start',
  title: 'Forced start',
  isFor: 'The charger refuses, and a manual one is at hand.',
  stop: 'At 10.5 V held: slow charge. Not rising or hot: suspected short.',
  veto: (context) =>
    seesNothing(context) ?? houseWakes(context, ['manual'], HOUSE_WORDS[context.opened.rules.wakeMethod]),
  steps: [
    polarity('forced-polarity', 'the battery'),
    treat('forced-charge', 'Manual charger, attended', 15, forcedStart, {
      cautions: ['attended'],
    }),
    ...afterWake({ id: 'forced', off: CLIPS_OFF, again: 'the manual charger once more may wake it' }),
  ],
};

/** Logs of the first two editions end these with the charge itself. */
const ENDED_WITH_THE_CHARGE = ['supply-charge', 'forced-charge'];
export const WAKES_SECOND_EDITION: readonly Route[] = [SUPPLY_WAKE, FORCED_START].map((route) => ({
  ...route,
  steps: route.steps.slice(0, route.steps.findIndex(({ id }) => ENDED_WITH_THE_CHARGE.includes(id)) + 1),
}));
