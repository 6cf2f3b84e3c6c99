/** The simulated devices of bays as a program of their own, so that they live on while a server is killed, or are killed themselves; started by the long runs of the bays. */
import type { Pace } from '@cork-ember/core/clock/clock.ts';
import { SIMULATED_PARTS } from '@cork-ember/core/devices/device.ts';
import { SOUND } from '@cork-ember/core/model/battery.ts';
import { makeBattery } from '@cork-ember/core/model/faults.ts';
import { soundBattery } from '@cork-ember/core/model/parameters.ts';
import { elapsedNow, realNow } from '../server/src/clock/realTime.ts';
import { SimulatedDevices } from '../server/src/devices/simulatedDevices.ts';
import type { OutsideDevices } from './outsideDevices.ts';

const { firstPort, bays, pace, battery } = JSON.parse(process.argv[2] ?? '') as OutsideDevices & {
  pace: Pace;
};
const ROOM_C = 21;

const [began, since] = [realNow(), elapsedNow()];
const devices = await SimulatedDevices.open(
  Array.from({ length: bays }, (_, index) => index + 1),
  { now: () => began + pace * (elapsedNow() - since) },
  (part, bay) => firstPort + (bay - 1) * SIMULATED_PARTS.length + SIMULATED_PARTS.indexOf(part),
);
if (battery)
  for (let bay = 1; bay <= bays; bay++) {
    const condition = { ...SOUND, charge: battery.charge };
    const parameters = soundBattery({
      ...battery,
      construction: 'agm',
      duty: 'standby',
      cells: 6,
      hourRate: 20,
    });
    devices.wire(bay, makeBattery({ parameters, condition, faults: [], tempC: ROOM_C }));
  }
process.on('message', () => process.send?.({ amps: devices.ampsInto(1) }));
process.send?.({ amps: 0 });
