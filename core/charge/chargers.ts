/** The chargers a shop has, as data: what each can give, and whether it will start at all. */
import { onSix } from '../battery/types.ts';
import { ceilingsFor } from './ceilings.ts';
import { chargerRefusal } from './judge.ts';
import type { Charger } from './charger.ts';
import { planName } from './library.ts';
import type { SupplyShape } from './modelRun.ts';
import { averageA, ProfileError, type Profile, type Stage, type Subject } from './profile.ts';

/** The demo shop's chargers: invented, with figures common to their kind. */
export const CHARGERS: readonly Charger[] = [
  {
    id: 'supply',
    name: 'Programmable supply',
    kind: 'programmable',
    leastA: 0.02,
    mostA: 20,
    mostV: 32,
    nominalV: [6, 12],
    startV: 0,
    efficiency: 0.85,
    because: 'Holds any current and voltage it is told.',
  },
  {
    id: 'bench',
    name: 'Bench charger, current by knob',
    kind: 'bench',
    leastA: 0.5,
    mostA: 10,
    mostV: 16,
    nominalV: [6, 12],
    startV: 0,
    efficiency: 0.75,
    because: 'Holds a current; the voltage is the operator’s to watch.',
  },
  {
    id: 'automatic',
    name: 'Automatic charger',
    kind: 'automatic',
    leastA: 4,
    mostA: 8,
    mostV: 14.7,
    nominalV: [12],
    detentsA: [4, 8],
    modes: ['agm', 'flooded'],
    startV: 10.5,
    efficiency: 0.85,
    programmes: ['automatic'],
    because: 'Runs its own programme, and does not see a battery below its start voltage.',
  },
  {
    id: 'taper',
    name: 'Taper charger',
    kind: 'taper',
    leastA: 0,
    mostA: 4,
    mostV: 15.5,
    nominalV: [6, 12],
    startV: 2,
    efficiency: 0.7,
    taperOhm: 1.1,
    openV: 15.5,
    because: 'A transformer and a rectifier: the current falls as the battery rises.',
  },
  {
    id: 'pulse',
    name: 'Pulse charger',
    kind: 'pulse',
    leastA: 0.2,
    mostA: 5,
    mostV: 14.7,
    nominalV: [12],
    startV: 1,
    efficiency: 0.8,
    programmes: ['pulse'],
    pulses: {
      peakA: 12,
      seconds: 0.0001,
      hertz: 120,
      programmeH: 72,
      reconditionV: 15.6,
      maintainFromV: 13.2,
      maintainToV: 13.6,
    },
    because: 'Spikes, settles and rests; length by its own programme.',
  },
];

/**
 * Why a charger cannot run a plan on a battery, or undefined when it can.
 * @param restingV of the battery as it stands
 */
export function misfit(
  charger: Charger,
  plan: Profile,
  subject: Subject,
  restingV: number,
): string | undefined {
  const mostA = Math.max(
    ...plan.stages.map((stage: Stage) => (stage.pulse ? averageA(stage.pulse) : stage.amps)),
  );
  const refusal = chargerRefusal(charger, {
    construction: subject.construction,
    cells: subject.cells,
    askedA: mostA,
    // Nothing regulates a taper charger: it is held against what the battery may have, not against the plan.
    mostA: charger.kind === 'taper' ? ceilingsFor(subject, plan.purpose).amps : mostA,
    ceilingV: ceilingsFor(subject, plan.purpose).volts,
    standsV: restingV,
    current: plan.stages.some((stage) => stage.pulse) ? 'pulsed' : 'either',
    fills: plan.purpose !== 'maintain' && plan.purpose !== 'wake',
    isWatched: true,
  });
  if (refusal !== undefined) return refusal;
  return charger.programmes && !charger.programmes.includes(plan.id)
    ? `${charger.name}: runs only its own programme; choose “${charger.programmes.map(planName).join('” or “')}”.`
    : undefined;
}

/**
 * What the charger's terminals look like to a battery.
 * @throws ProfileError when there is no such charger
 */
export function shapeOf(charger: Charger, cells: number): SupplyShape {
  const scale = onSix(1, { cells });
  const isTold = charger.kind === 'programmable';
  const shape = { mostA: charger.mostA, mostV: isTold ? charger.mostV : charger.mostV * scale };
  if (charger.taperOhm === undefined || charger.openV === undefined) return shape;
  return { ...shape, taperOhm: charger.taperOhm * scale, taperV: charger.openV * scale };
}

export function chargerById(id: string): Charger {
  const found = CHARGERS.find((charger) => charger.id === id);
  if (!found) throw new ProfileError(`There is no charger “${id}”.`);
  return found;
}
