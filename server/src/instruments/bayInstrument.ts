/** What a bay’s own devices show, as an instrument any form may read: nobody types what a cable knows. */
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { DeviceKind, Pushed } from '@cork-ember/core/devices/profile.ts';
import {
  InstrumentError,
  type Instrument,
  type InstrumentIdentity,
  type InstrumentQuantity,
  type InstrumentReading,
} from '@cork-ember/core/observation/instrument.ts';
import type { Bays } from '../services/bays.ts';
import type { Devices } from '../services/devices.ts';
import type { Probes } from '../services/probes.ts';
import type { Jobs } from '../services/jobs.ts';

/** Who is asked for what, the first that is there; and where it stands in what the bench saw last. */
const READ: Partial<Record<InstrumentQuantity, readonly [kinds: readonly DeviceKind[], Pushed | 'massG']>> = {
  voltage: [['meter', 'supply', 'probe'], 'volts'],
  current: [['supply', 'probe'], 'amps'],
  temperature: [['meter', 'probe'], 'tempC'],
  mass: [['scale'], 'massG'],
};

interface BayInstrumentNeeds {
  readonly jobs: Jobs;
  readonly devices: Devices;
  readonly bays: Bays;
  readonly probes: Probes;
  readonly clock: Clock;
}

export class BayInstrument implements Instrument {
  private readonly need: BayInstrumentNeeds;

  constructor(need: BayInstrumentNeeds) {
    this.need = need;
  }

  identify(): Promise<InstrumentIdentity> {
    const { devices } = this.need;
    const quantities = (Object.keys(READ) as InstrumentQuantity[]).filter((quantity) =>
      READ[quantity]?.[0].some((kind) => devices.hasAny(kind, READ[quantity]?.[1])),
    );
    return Promise.resolve({ id: 'bay', name: 'Bay’s own devices', quantities, isSimulated: false });
  }

  async read(quantity: InstrumentQuantity, job: string): Promise<InstrumentReading> {
    const { jobs, devices, bays, probes, clock } = this.need;
    const way = READ[quantity];
    const { bay, opened } = (await jobs.job(job)).state;
    if (!way) throw new InstrumentError(`A bay’s own devices do not read ${quantity}.`);
    const [kinds, what] = way;
    // Many devices speak to one at a time: while the bench does, it is the bench that knows.
    const live = bays.list().find((one) => one.bay === bay && one.job === job && one.phase === 'running');
    const seen = what === 'massG' ? undefined : live?.sample?.[what];
    if (seen !== undefined) return { quantity, value: seen, at: clock.now() };
    for (const kind of kinds) {
      const value =
        kind === 'probe' && what !== 'massG'
          ? probes.figure(bay, what)
          : await devices.askBay(bay, kind, what);
      if (value !== undefined) return { quantity, value, at: clock.now() };
    }
    throw new InstrumentError(
      `${opened.battery.tag}: bay ${bay} has no device of its own that reads ${quantity}.`,
    );
  }
}
