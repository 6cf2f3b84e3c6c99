/** An instrument of the demo: the same interface a real one would use, read off a battery of the model. */
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import {
  InstrumentError,
  type Instrument,
  type InstrumentIdentity,
  type InstrumentReading,
} from '@cork-ember/core/observation/instrument.ts';
import { sightOf, type Hidden } from '@cork-ember/core/adapters/benchBattery.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';

/** Looks up the battery the leads are on, and what is hidden in it. */
export interface Bench {
  readonly job: (id: string) => Promise<JobState>;
  readonly hiddenIn: (state: JobState) => Hidden;
}

/** Digits a display shows. */
const DECIMALS: Record<InstrumentQuantity, number> = {
  voltage: 2,
  current: 2,
  temperature: 1,
  mass: 0,
  loadVoltage: 2,
  cranking: 0,
};

class SimulatedInstrument implements Instrument {
  private readonly identity: InstrumentIdentity;
  private readonly bench: Bench;
  private readonly clock: Clock;

  constructor(identity: Omit<InstrumentIdentity, 'isSimulated'>, bench: Bench, clock: Clock) {
    this.identity = { ...identity, isSimulated: true };
    this.bench = bench;
    this.clock = clock;
  }

  identify(): Promise<InstrumentIdentity> {
    return Promise.resolve(this.identity);
  }

  async read(quantity: InstrumentQuantity, job: string): Promise<InstrumentReading> {
    if (!this.identity.quantities.includes(quantity))
      throw new InstrumentError(`The ${inSentence(this.identity.name)} does not read ${quantity}.`);
    const at = this.clock.now();
    const state = await this.bench.job(job);
    const value = sightOf(state, at, this.bench.hiddenIn(state))(quantity);
    return { quantity, value: Number(value.toFixed(DECIMALS[quantity])), at };
  }
}

/** What lies on the demo's bench. */
export function simulatedBench(bench: Bench, clock: Clock): Instrument[] {
  const one = (id: string, name: string, quantities: InstrumentQuantity[]): Instrument =>
    new SimulatedInstrument({ id, name, quantities }, bench, clock);
  return [
    one('meter', 'Bench meter', ['voltage', 'current', 'temperature']),
    one('scale', 'Scale', ['mass']),
    one('tester', 'Battery tester', ['loadVoltage', 'cranking']),
  ];
}
