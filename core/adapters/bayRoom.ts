/** Around a bay that charges: the air its room needs, and whether it may go on when nobody is there. */
import { CONSTRUCTION } from '../battery/construction.ts';
import { CHARGED_VOLTS, supplyIdOf, type Charger } from '../charge/charger.ts';
import { openSpanFrom } from '../clock/shopHours.ts';
import type { DeviceProfile } from '../devices/profile.ts';
import { ventilation, type Venting } from '../electrolyte/ventilation.ts';
import type { OpenedPayload } from '../runsheet/entries/events.ts';
import { atHand } from '../runsheet/plan/atHand.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { limitsOf } from '../runsheet/verdict/chargeLimits.ts';

/** Up to here the standard's figures for valve-regulated cells hold; above, the charger's current counts, V a cell. @see IEC 62485-2:2010 */
const STANDARD_TO_CELL_V = 2.4;
/** Of a switched supply, mains to battery (practice). */
const EFFICIENCY = 0.85;

/** What stands in a bay under control. */
export interface BayOutfit {
  readonly bay: number;
  /** What gives the current there, or draws it. */
  readonly source: DeviceProfile;
  /** Whether something parts it that works without this program. */
  readonly hasCutOff: boolean;
}

/** A charge as far as its gas goes. */
export interface Gassing {
  readonly cells: number;
  readonly capacityAh: number;
  readonly venting: Venting;
  /** What it is given, A, and up to where, V. */
  readonly amps: number;
  readonly volts: number;
}

/** Of a charge of this battery, given so much up to so high. */
export function gassingOf({ opened: { type } }: JobState, amps: number, volts: number): Gassing {
  const { cells, capacityAh } = type;
  const venting = CONSTRUCTION[type.construction].isValveRegulated ? 'valve-regulated' : 'vented';
  return { cells, capacityAh, venting, amps, volts };
}

/** Of the charge that is on by the run sheet, whoever gives it; none where none is. */
export function gassingNow(state: JobState, now: number): Gassing | undefined {
  const hand = state.outcome === undefined ? atHand(state, now) : undefined;
  if (hand?.definition.kind !== 'charge') return undefined;
  const { charge } = hand.step;
  if (!charge || charge.pausedFor !== undefined) return undefined;
  const { ceilingV } = limitsOf(hand.context, hand.definition, charge.dueMin ?? 0);
  return gassingOf(state, charge.currentA, ceilingV);
}

/**
 * Air for all that charges in a room at once: of vented cells by the current itself, of valve-regulated ones by the standard's figure as long
 * as they are charged as it assumes.
 * @returns m³/h, and the opening in cm² that lets it in, with another to let it out
 * @see IEC 62485-2:2010, Q = 0.05·n·I_gas·C·10⁻³ and A = 28·Q
 */
export function airNeeded(all: readonly Gassing[]): {
  readonly airM3PerH: number;
  readonly openingCm2: number;
} {
  let [airM3PerH, openingCm2] = [0, 0];
  for (const { cells, capacityAh, venting, amps, volts } of all) {
    const isAsAssumed = venting === 'valve-regulated' && volts / cells <= STANDARD_TO_CELL_V;
    const air = ventilation(cells, capacityAh, venting, 'boost', isAsAssumed ? undefined : amps);
    airM3PerH += air.airM3PerH;
    openingCm2 += air.openingCm2;
  }
  return { airM3PerH, openingCm2 };
}

/** For whoever is about to switch one on. */
export function airWords(all: readonly Gassing[]): string {
  const { airM3PerH, openingCm2 } = airNeeded(all);
  const what = all.length === 1 ? 'this charge' : `the ${all.length} charges that run then`;
  return `Air for ${what}: ${airM3PerH.toFixed(1)} m³/h, through an opening of ${Math.ceil(Number(openingCm2.toFixed(1)))} cm² in and another out.`;
}

export interface LeftAlone {
  readonly hasCutOff: boolean;
  /** A charge of a way back that somebody stands beside. */
  readonly isAttended: boolean;
}

/**
 * Why a bay may not charge while nobody is there.
 * @param now shop time, ms
 * @returns undefined where somebody is, or it may
 */
export function unattendedRefusal(
  { hours, rules }: Pick<OpenedPayload, 'hours' | 'rules'>,
  { hasCutOff, isAttended }: LeftAlone,
  now: number,
): string | undefined {
  const { from, to } = openSpanFrom(hours, now);
  if (now >= from && now < to) return undefined;
  if (rules.unattended === 'never')
    return 'The shop is closed, and by this house’s rule nothing charges then.';
  if (rules.bayAtNight !== 'cutOff')
    return 'The shop is closed, and by this house’s rule no bay charges by itself then.';
  if (isAttended) return 'The shop is closed, and this charge is never left alone.';
  return hasCutOff
    ? undefined
    : 'The shop is closed, and this bay has no cut-off of its own: it charges only while somebody is there.';
}

/** A bay's supply as the run sheet knows chargers; none without a cut-off, for then nothing ends it but this program. */
export function chargerOf({ bay, source: { ranges }, hasCutOff }: BayOutfit): Charger | undefined {
  const { volts, amps } = ranges;
  if (!hasCutOff || !volts || !amps) return undefined;
  return {
    id: supplyIdOf(bay),
    name: `Supply of bay ${bay}`,
    kind: 'programmable',
    leastA: Math.max(0, amps.least),
    mostA: amps.most,
    mostV: volts.most,
    nominalV: CHARGED_VOLTS,
    startV: 0,
    efficiency: EFFICIENCY,
    because: 'It is told its limits, watched each second, and parted by a cut-off of its own.',
  };
}
