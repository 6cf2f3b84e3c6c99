/**
 * A simple stand-in for the battery behind a simulated instrument: what a sound battery would show at this
 * point of its run sheet. It follows the handbook's figures, not a cell model.
 */
import { chargeAfterSoakByAge } from '../battery/stateOfCharge.ts';
import { loadTestFor } from '../battery/loadTest.ts';
import { settle } from '../runsheet/settle.ts';
import {
  contextOf,
  lastReadingOf,
  latest,
  minutesOnCharge,
  type ChargeState,
  type JobState,
} from '../runsheet/state.ts';
import type { InstrumentQuantity } from '../runsheet/step.ts';
import { seededNormal } from './noise.ts';

const MINUTE = 60_000;
const AMBIENT_C = 21;
/** Heat of wetting, and how a small case cools, by time constant in minutes. */
const WETTING_C = 12;
const COOLING_MIN = 45;
/** Surface charge just off the charger, on 12 V, and how it goes. */
const SURFACE_V = 0.4;
const SURFACE_MIN = 18;

/** One standard deviation of each instrument, in its own unit. */
const METER_NOISE: Record<InstrumentQuantity, number> = {
  voltage: 0.004,
  current: 0.002,
  temperature: 0.2,
  mass: 1.5,
  loadVoltage: 0.03,
  cranking: 2,
};

interface Scene {
  readonly state: JobState;
  readonly now: number;
  /** Traits of this very piece, the same whenever it is asked. */
  readonly trait: (name: string) => number;
}

const doneAt = (state: JobState, stepId: string): number | undefined => latest(state, stepId)?.doneAt;

function minutesSince(at: number | undefined, now: number): number {
  return at === undefined ? Number.POSITIVE_INFINITY : (now - at) / MINUTE;
}

function runningCharge(state: JobState): ChargeState | undefined {
  const step = state.steps[state.cursor];
  return step?.charge && step.charge.pausedFor === undefined ? step.charge : undefined;
}

/** Fraction of the bulk charge that has gone in; above 1 the voltage is held and the current tapers. */
function bulkFraction({ state, now }: Scene, charge: ChargeState): number {
  const round = state.steps[state.cursor]?.round ?? 1;
  return minutesOnCharge(charge, now) / contextOf(state, round).chargeSetting().bulkMin;
}

/** Share of the bulk time at which the ceiling is met, and the taper's time constant in the same unit. */
const CEILING_MET = 0.5;
const TAPER = 1 / 7;

function chargingCurrentA(scene: Scene, charge: ChargeState): number {
  const over = bulkFraction(scene, charge) - CEILING_MET;
  const floorA = scene.state.opened.type.capacityAh / 450;
  return over <= 0 ? charge.currentA : floorA + (charge.currentA - floorA) * Math.exp(-over / TAPER);
}

function soakedVolts12(scene: Scene): number {
  const percent = chargeAfterSoakByAge(contextOf(scene.state, 1).ageMonths);
  return 12.3 + ((percent - 40) / 40) * 0.42 + scene.trait('soak') * 0.015;
}

function voltage(scene: Scene): number {
  const { state, now } = scene;
  const scale = state.opened.type.cells / 6;
  const charge = runningCharge(state);
  if (charge) {
    const ceiling12 = contextOf(state, 1).threshold('ceilingV').value / scale;
    const start12 = soakedVolts12(scene) + 0.5;
    const rise = Math.min(1, bulkFraction(scene, charge) / CEILING_MET);
    return (start12 + (ceiling12 - start12) * rise ** 0.8) * scale;
  }
  const last = latest(state, 'charge')?.charge;
  if (!last) return soakedVolts12(scene) * scale;
  const off = minutesSince(last.runs.at(-1)?.to, now);
  const rested12 = 12.87 + scene.trait('rested') * 0.02;
  return (rested12 + SURFACE_V * Math.exp(-off / SURFACE_MIN)) * scale;
}

function temperature({ state, now }: Scene): number {
  const lastRead = lastReadingOf(state, latest(state, 'charge')?.key);
  const cooling = (fromC: number, minutes: number): number => fromC * Math.exp(-minutes / COOLING_MIN);
  if (lastRead) {
    const settlesAt = runningCharge(state) ? 6 : 0;
    return (
      AMBIENT_C + settlesAt + cooling(lastRead.tempC - AMBIENT_C - settlesAt, (now - lastRead.at) / MINUTE)
    );
  }
  const warmth = runningCharge(state) ? 5 : 0;
  return AMBIENT_C + warmth + cooling(WETTING_C, minutesSince(doneAt(state, 'pack-on'), now));
}

function mass(scene: Scene): number {
  const { type } = scene.state.opened;
  const dryG = (type.dryMassG ?? type.capacityAh * 320) * (1 + scene.trait('dry mass') * 0.004);
  const isFilled = doneAt(scene.state, 'pack-on') !== undefined;
  const acidG = type.pack ? type.pack.volumeMl * type.pack.densityKgPerL : 0;
  return isFilled ? dryG + acidG * (1 + scene.trait('fill') * 0.003) : dryG;
}

function loadVoltage(scene: Scene): number {
  const { type, rules } = scene.state.opened;
  return (
    loadTestFor(type, rules.loadTest, AMBIENT_C).floorV +
    (0.85 + scene.trait('load') * 0.1) * (type.cells / 6)
  );
}

const TRUTHS: Record<InstrumentQuantity, (scene: Scene) => number> = {
  voltage,
  current: (scene) => {
    const charge = runningCharge(scene.state);
    return charge ? chargingCurrentA(scene, charge) : 0;
  },
  temperature,
  mass,
  loadVoltage,
  cranking: (scene) =>
    (scene.state.opened.type.cranking?.amps ?? 0) * (1.03 + scene.trait('cranking') * 0.03),
};

/**
 * What a simulated instrument shows of a job's battery.
 * @returns V, A, °C, g or A, with the instrument's noise
 */
export function standInReading(unsettled: JobState, quantity: InstrumentQuantity, now: number): number {
  const state = settle(unsettled, now);
  const trait = (name: string): number => seededNormal(`${state.opened.battery.tag} ${name}`);
  const truth = TRUTHS[quantity]({ state, now, trait });
  const noise = seededNormal(`${state.job} ${quantity} ${now}`) * METER_NOISE[quantity];
  return Math.max(0, truth + noise);
}
