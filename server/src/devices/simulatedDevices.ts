/** Devices of the demo: real sockets on this machine, and behind each a device that is not there, over a battery of the model in the shop's own time. */
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import { SIMULATED_PARTS, type SimulatedPart } from '@cork-ember/core/devices/device.ts';
import { Circuit } from '@cork-ember/core/devices/simulated/circuit.ts';
import {
  SimulatedCutOff,
  SimulatedLoad,
  SimulatedMeter,
  SimulatedStop,
  SimulatedSupply,
  type SimulatedDevice,
} from '@cork-ember/core/devices/simulated/instruments.ts';
import type { Failing } from '@cork-ember/core/devices/simulated/failings.ts';
import type { CellString } from '@cork-ember/core/model/cellString.ts';
import { SOUND } from '@cork-ember/core/model/battery.ts';
import { makeBattery } from '@cork-ember/core/model/faults.ts';
import { soundBattery } from '@cork-ember/core/model/parameters.ts';
import { elapsedNow } from '../clock/realTime.ts';

const NEW_LINE = 10;
/** No command is longer. */
const MOST_LINE = 1024;
/** What each is wired to until a job's own battery stands there. */
const RATING = { construction: 'agm', duty: 'standby', cells: 6, capacityAh: 12, hourRate: 20 } as const;
const CHARGE = 0.6;
const ROOM_C = 21;
/** Their own watchdogs look so often, ms. */
const WATCHES_EVERY_MS = 100;

/** Whole lines are heard one after the other, and answered as late as the device does. */
function serve(device: SimulatedDevice, socket: Socket): void {
  let sofar = Buffer.alloc(0);
  socket.on('error', () => socket.destroy());
  socket.on('data', (chunk: Buffer) => {
    sofar = Buffer.concat([sofar, chunk]);
    for (let end = sofar.indexOf(NEW_LINE); end >= 0; end = sofar.indexOf(NEW_LINE)) {
      const answered = device.hear(sofar.subarray(0, end + 1));
      sofar = sofar.subarray(end + 1);
      if (answered) setTimeout(() => void socket.write(answered.bytes), answered.afterMs).unref();
    }
    if (sofar.length > MOST_LINE) socket.destroy();
  });
}

const nameOf = (bay: number, part: SimulatedPart): string => `${bay} ${part}`;

export class SimulatedDevices {
  private readonly ports = new Map<string, number>();
  private readonly circuits = new Map<number, Circuit>();
  private readonly devices = new Map<string, SimulatedDevice>();
  private readonly servers: Server[] = [];
  private readonly sockets = new Set<Socket>();
  private readonly barking: (SimulatedSupply | SimulatedCutOff | SimulatedLoad)[] = [];
  private timer: NodeJS.Timeout | undefined;

  /**
   * @param bays each gets one of every part
   * @param portFor where a part is to be found; any that is free without it
   */
  static async open(
    bays: Iterable<number>,
    clock: Clock,
    portFor: (part: SimulatedPart, bay: number) => number = () => 0,
  ): Promise<SimulatedDevices> {
    const all = new SimulatedDevices();
    // What lives in the battery goes by the shop’s time; a watchdog by its own.
    const own: Clock = { now: elapsedNow };
    for (const bay of bays) {
      const parameters = soundBattery(RATING);
      const condition = { ...SOUND, charge: CHARGE };
      const circuit = new Circuit(makeBattery({ parameters, condition, faults: [], tempC: ROOM_C }), clock);
      const made = {
        supply: new SimulatedSupply(circuit, own),
        cutoff: new SimulatedCutOff(circuit, own),
        meter: new SimulatedMeter(circuit, own),
        load: new SimulatedLoad(circuit, own),
        stop: new SimulatedStop(own),
      } as const satisfies Record<SimulatedPart, SimulatedDevice>;
      all.circuits.set(bay, circuit);
      all.barking.push(made.supply, made.cutoff, made.load);
      for (const part of SIMULATED_PARTS) {
        all.devices.set(nameOf(bay, part), made[part]);
        all.ports.set(nameOf(bay, part), await all.listen(made[part], portFor(part, bay)));
      }
    }
    let watchedAt = elapsedNow();
    all.timer = setInterval(() => {
      const isLate = elapsedNow() - watchedAt > 2 * WATCHES_EVERY_MS;
      watchedAt = elapsedNow();
      // This program stood still, and no device does: what was said to them meanwhile is heard first.
      if (isLate) return;
      for (const device of all.barking) device.liveUntil(elapsedNow());
    }, WATCHES_EVERY_MS);
    all.timer.unref();
    return all;
  }

  private async listen(device: SimulatedDevice, port: number): Promise<number> {
    const server = createServer((socket) => {
      this.sockets.add(socket);
      socket.on('close', () => this.sockets.delete(socket));
      serve(device, socket);
    });
    this.servers.push(server);
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, '127.0.0.1', resolve);
    });
    return (server.address() as AddressInfo).port;
  }

  /** Wires the battery of a job to the devices of its bay. */
  wire(bay: number, cells: CellString): void {
    this.circuits.get(bay)?.stand(cells);
  }

  /** What is wrong with one on demand; undefined where there is none. */
  failing(bay: number, part: SimulatedPart): Omit<Failing, 'id'> | undefined {
    const [device, circuit] = [this.devices.get(nameOf(bay, part)), this.circuits.get(bay)];
    return device && circuit && { fault: device.fault ?? null, clips: circuit.clips };
  }

  /** From now on it does wrong as it is told; nothing where there is none. */
  fail(bay: number, part: SimulatedPart, { fault, clips }: Omit<Failing, 'id'>): void {
    this.devices.get(nameOf(bay, part))?.fail(fault ?? undefined);
    this.circuits.get(bay)?.clip(clips);
  }

  /** What flows into the battery of a bay, A: known to nobody who asks its devices. */
  ampsInto(bay: number): number {
    return this.circuits.get(bay)?.batteryA ?? 0;
  }

  /** Where one is found on this machine; undefined where there is none. */
  portOf(bay: number, part: SimulatedPart): number | undefined {
    return this.ports.get(nameOf(bay, part));
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    for (const socket of this.sockets) socket.destroy();
    await Promise.all(this.servers.map((server) => new Promise((resolve) => server.close(resolve))));
  }
}
