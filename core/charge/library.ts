/** The plans the shop knows, each scaled to the battery and with its reason. Handbook 2.5 and 3.4. */
import { CONSTRUCTION, CONSTRUCTIONS } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import { neverEqualised } from './ceilings.ts';
import { ProfileError, type Profile, type ProfileId, type Stage, type Subject } from './profile.ts';
import { absorptionV, bulkAndProof, float, HOUR, pulseTrain } from './stages.ts';

const DAY = 24 * HOUR;
/** Currents an automatic charger's switch gives, the highest first, A. */
const AUTOMATIC_STEPS_A = [8, 4] as const;

interface Entry {
  readonly id: ProfileId;
  readonly name: string;
  readonly kinds: readonly Subject['construction'][];
  /** Said when the construction is not among the kinds. */
  readonly refusal?: (subject: Subject) => string;
  readonly build: (subject: Subject) => Omit<Profile, 'id' | 'name'>;
}

/** A constant-voltage charge goes in at a fifth of capacity; a gel's own at a tenth (handbook 1). */
const bulkA = ({ construction, capacityAh, labelA }: Subject): number =>
  construction === 'gel' ? Math.min(capacityAh / 5, labelA ?? capacityAh / 10) : capacityAh / 5;

const LIBRARY: readonly Entry[] = [
  {
    id: 'tenth-timed',
    name: 'A tenth of capacity, by the clock',
    kinds: CONSTRUCTIONS,
    build: (subject) => ({
      purpose: 'first-charge',
      reason:
        'What every charger with a knob can do: C/10 until the arithmetic says full, then two hours flat.',
      isAttended: false,
      stages: bulkAndProof(subject, subject.capacityAh / 10, absorptionV(subject), 16 * HOUR),
    }),
  },
  {
    id: 'slow',
    name: 'Slow charge',
    kinds: CONSTRUCTIONS,
    build: (subject) => ({
      purpose: 'charge',
      reason: 'A twentieth of capacity, gently: heat breaks plates that stood flat. Most only need this.',
      isAttended: false,
      stages: bulkAndProof(subject, subject.capacityAh / 20, absorptionV(subject), 20 * HOUR, 6 * HOUR),
    }),
  },
  {
    id: 'constant-voltage',
    name: 'Current, voltage, float',
    kinds: CONSTRUCTIONS,
    build: (subject) => ({
      purpose: 'charge',
      reason: 'The quickest gentle way: current to the voltage, hold until it tapers off, then float.',
      isAttended: false,
      stages: [
        {
          ...(bulkAndProof(subject, bulkA(subject), absorptionV(subject), 30 * HOUR)[0] as Stage),
          exits: [
            { on: 'current-below', amps: subject.capacityAh / 100, next: 'float' },
            { on: 'time', seconds: 30 * HOUR, next: 'stop' },
          ],
        },
        float(subject, subject.capacityAh / 20, 4 * HOUR),
      ],
    }),
  },
  {
    id: 'label',
    name: 'As the label prints',
    kinds: CONSTRUCTIONS,
    build: (subject) => {
      if (subject.labelA === undefined)
        throw new ProfileError('This battery’s label prints no charging current; choose C/10.');
      return {
        purpose: 'first-charge',
        reason: 'The maker’s own current and time win over every rule of thumb.',
        isAttended: subject.labelA > subject.capacityAh / 5,
        stages: [
          {
            id: 'label',
            name: 'Label current',
            amps: subject.labelA,
            volts: absorptionV(subject),
            isCompensated: true,
            exits: [{ on: 'time', seconds: (subject.labelHours ?? 10) * HOUR, next: 'full' }],
          },
        ],
      };
    },
  },
  {
    id: 'long-soak',
    name: 'Long soak',
    kinds: ['agm'],
    refusal: ({ construction }) =>
      construction === 'gel'
        ? 'A long soak goes above what gel bears. Choose a slow charge.'
        : 'A long soak is for AGM; a flooded battery would boil off its water. Choose constant current.',
    build: (subject) => ({
      purpose: 'soak',
      reason: 'Hard sulfate gives way over a day or two at a voltage that does not gas an AGM dry.',
      isAttended: false,
      stages: [
        {
          id: 'soak',
          name: 'Soak',
          amps: subject.capacityAh / 10,
          volts: onSix(14.7, subject),
          isCompensated: true,
          exits: [
            { on: 'temperature-above', tempC: 45, next: 'stop' },
            { on: 'time', seconds: 16 * HOUR, next: 'watch' },
          ],
        },
        {
          id: 'watch',
          name: 'Soak until flat',
          amps: subject.capacityAh / 10,
          volts: onSix(14.7, subject),
          isCompensated: true,
          exits: [
            { on: 'temperature-above', tempC: 45, next: 'stop' },
            { on: 'current-flat', bandA: subject.capacityAh / 1000, forS: 4 * HOUR, next: 'full' },
            { on: 'time', seconds: 32 * HOUR, next: 'full' },
          ],
        },
      ],
    }),
  },
  {
    id: 'supply-wake',
    name: 'Wake with a supply',
    kinds: CONSTRUCTIONS,
    build: (subject) => ({
      purpose: 'wake',
      reason:
        'A small current under a high ceiling: the voltage leaps, then falls as the plates begin to take.',
      isAttended: true,
      stages: [
        {
          id: 'nudge',
          name: 'Nudge',
          amps: subject.capacityAh / 50,
          volts: onSix(CONSTRUCTION[subject.construction].wakeV, subject),
          isCompensated: false,
          exits: [{ on: 'time', seconds: 1 * HOUR, next: 'wake' }],
        },
        {
          id: 'wake',
          name: 'Wake',
          amps: subject.capacityAh / 20,
          volts: onSix(CONSTRUCTION[subject.construction].wakeV, subject),
          isCompensated: false,
          exits: [
            {
              on: 'accepts',
              amps: subject.capacityAh / 20,
              belowV: onSix(CONSTRUCTION[subject.construction].absorptionFromV, subject),
              next: 'bulk',
            },
            { on: 'time', seconds: 6 * HOUR, next: 'stop' },
          ],
        },
        ...bulkAndProof(subject, subject.capacityAh / 20, absorptionV(subject), 40 * HOUR),
      ],
    }),
  },
  {
    id: 'pulse',
    name: 'Pulses',
    kinds: CONSTRUCTIONS,
    build: (subject) => ({
      purpose: 'pulse',
      reason:
        'For sulfation without a bad cell. What pulses add over their average current is an assumption.',
      isAttended: false,
      stages: [
        {
          id: 'pulse',
          name: 'Pulse train',
          amps: subject.capacityAh / 20,
          volts: onSix(14.4, subject),
          isCompensated: true,
          pulse: pulseTrain(subject),
          exits: [{ on: 'time', seconds: 7 * DAY, next: 'full' }],
        },
      ],
    }),
  },
  {
    id: 'high-then-low',
    name: 'High, then low',
    kinds: ['flooded'],
    refusal: ({ construction }) =>
      `High-then-low wants open cells one can look into; ${CONSTRUCTION[construction].aBattery} is closed. Wake it with a supply.`,
    build: (subject) => ({
      purpose: 'charge',
      reason: 'Wakes sleeping cells in fifteen-minute bites with eyes on every cell, then goes gently.',
      isAttended: true,
      stages: [
        ...[1, 2, 3, 4].map((bite): Stage => ({
          id: `bite${bite}`,
          name: `Bite ${bite} of 4: look into every cell`,
          amps: subject.capacityAh / 4,
          volts: onSix(15, subject),
          isCompensated: false,
          exits: [{ on: 'time', seconds: 15 * 60, next: bite === 4 ? 'bulk' : `bite${bite + 1}` }],
        })),
        ...bulkAndProof(subject, Math.min(5, subject.capacityAh / 15), absorptionV(subject), 30 * HOUR),
      ],
    }),
  },
  {
    id: 'constant-current',
    name: 'Constant current, a look every two hours',
    kinds: ['flooded'],
    refusal: ({ construction }) =>
      `Constant current without a voltage limit dries ${CONSTRUCTION[construction].aBattery} out. Choose a ${construction === 'agm' ? 'long soak' : 'slow charge'}.`,
    build: (subject) => ({
      purpose: 'charge',
      reason: 'A tenth of capacity for up to twelve hours, read every two: steady on moderate sulfation.',
      isAttended: false,
      stages: [
        {
          id: 'current',
          name: 'Constant current',
          amps: subject.capacityAh / 10,
          volts: onSix(14.5, subject),
          isCompensated: true,
          exits: [
            { on: 'voltage-above', volts: onSix(14.49, subject), next: 'finish' },
            { on: 'time', seconds: 12 * HOUR, next: 'stop' },
          ],
        },
        {
          id: 'finish',
          name: 'Finish by density',
          amps: subject.capacityAh / 20,
          volts: onSix(14.8, subject),
          isCompensated: true,
          exits: [
            { on: 'density-flat', band: 0.002, forS: 2 * HOUR, next: 'full' },
            { on: 'time', seconds: 12 * HOUR, next: 'full' },
          ],
        },
      ],
    }),
  },
  {
    id: 'equalise',
    name: 'Equalise',
    kinds: ['flooded'],
    refusal: neverEqualised,
    build: (subject) => ({
      purpose: 'equalise',
      reason: 'Gassing mixes layered acid and lifts lagging cells. Expert only: it costs water and heat.',
      isAttended: true,
      stages: [
        {
          id: 'equalise',
          name: 'Equalise',
          amps: subject.capacityAh / 25,
          volts: onSix(15.8, subject),
          isCompensated: false,
          exits: [
            { on: 'temperature-above', tempC: 45, next: 'stop' },
            { on: 'density-flat', band: 0.002, forS: 2 * HOUR, next: 'full' },
            { on: 'time', seconds: 4 * HOUR, next: 'full' },
          ],
        },
      ],
    }),
  },
  {
    id: 'maintenance',
    name: 'Maintain',
    kinds: CONSTRUCTIONS,
    build: (subject) => ({
      purpose: 'maintain',
      reason: 'Holds a full battery full. Never a first charge: it gives no proof of full.',
      isAttended: false,
      stages: [float(subject, subject.capacityAh / 50, 2 * DAY)],
    }),
  },
  {
    id: 'donor',
    name: 'Donor in parallel',
    kinds: CONSTRUCTIONS,
    build: (subject) => {
      if (subject.capacityAh < 30)
        throw new ProfileError(
          `Below 30 Ah a donor’s current is not limited by anything; this battery has ${subject.capacityAh} Ah. Wake it with a supply.`,
        );
      return {
        purpose: 'wake',
        reason: 'A charger that will not see a deep battery sees the donor beside it. Checked after an hour.',
        isAttended: true,
        stages: [
          {
            id: 'donor',
            name: 'Beside the donor',
            amps: subject.capacityAh / 8,
            volts: onSix(CONSTRUCTION[subject.construction].absorptionFromV, subject),
            isCompensated: true,
            exits: [
              { on: 'temperature-above', tempC: 45, next: 'stop' },
              { on: 'time', seconds: HOUR, next: 'full' },
            ],
          },
        ],
      };
    },
  },
  {
    id: 'automatic',
    name: 'Automatic programme',
    kinds: ['flooded', 'agm'],
    refusal: () =>
      'An automatic programme without one for gel holds 14.4 V and more. Choose a gel programme.',
    build: (subject) => {
      const fifth = subject.capacityAh / 5;
      const amps = AUTOMATIC_STEPS_A.find((step) => step <= fifth) ?? fifth;
      return {
        purpose: 'charge',
        reason:
          'What an automatic charger does unasked: bulk, hold, then float; a fault light where bulk drags on.',
        isAttended: false,
        stages: [
          {
            id: 'bulk',
            name: 'Bulk',
            amps,
            volts: onSix(14.4, subject),
            isCompensated: true,
            exits: [
              { on: 'voltage-above', volts: onSix(14.35, subject), next: 'hold' },
              { on: 'time', seconds: 20 * HOUR, next: 'stop' },
            ],
          },
          {
            id: 'hold',
            name: 'Hold',
            amps,
            volts: onSix(14.4, subject),
            isCompensated: true,
            exits: [
              { on: 'current-below', amps: subject.capacityAh / 50, next: 'float' },
              { on: 'time', seconds: 8 * HOUR, next: 'float' },
            ],
          },
          float(subject, amps, 8 * HOUR),
        ],
      };
    },
  },
  {
    id: 'gel',
    name: 'Gel programme',
    kinds: ['gel'],
    refusal: () =>
      'A gel programme stops at 14.1 V and leaves an AGM or a flooded battery short of full. Choose one that holds 14.4 to 14.8 V.',
    build: (subject) => ({
      purpose: 'charge',
      reason: 'Gel takes no more than 14.4 V: above it bubbles stay in the gel for good.',
      isAttended: false,
      stages: bulkAndProof(
        subject,
        subject.capacityAh / 10,
        onSix(CONSTRUCTION.gel.absorptionFromV, subject),
        30 * HOUR,
      ),
    }),
  },
];

/** Names of all plans, in the order they are offered. */
export const PLAN_NAMES = LIBRARY.map(({ id, name }) => ({ id, name }));

export function planName(id: ProfileId): string {
  return PLAN_NAMES.find((plan) => plan.id === id)?.name ?? id;
}

/**
 * A plan scaled to a battery.
 * @throws ProfileError in one sentence when the plan is not for such a battery
 */
export function planFor(id: ProfileId, subject: Subject): Profile {
  const entry = LIBRARY.find((each) => each.id === id);
  if (!entry) throw new ProfileError(`There is no plan “${id}”.`);
  if (!entry.kinds.includes(subject.construction))
    throw new ProfileError(
      entry.refusal?.(subject) ?? `“${entry.name}” is not for ${subject.construction} batteries.`,
    );
  return { id, name: entry.name, ...entry.build(subject) };
}

/** Why a plan is not for a battery, or undefined when it is. */
export function refusalOf(id: ProfileId, subject: Subject): string | undefined {
  try {
    planFor(id, subject);
    return undefined;
  } catch (error) {
    if (error instanceof ProfileError) return error.message;
    throw error;
  }
}

/** A wake with a supply, without the charge that follows it. */
export function wakingPlan(subject: Subject): Profile {
  const profile = planFor('supply-wake', subject);
  const waking = profile.stages.filter(({ id }) => id === 'nudge' || id === 'wake');
  const stages = waking.map((stage): Stage => ({
    ...stage,
    exits: stage.exits.map((exit) => (exit.next === 'bulk' ? { ...exit, next: 'full' } : exit)),
  }));
  return { ...profile, stages };
}
