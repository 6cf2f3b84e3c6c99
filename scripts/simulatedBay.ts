/** The simulated devices of one bay as a program of their own, so that they live on while a server is killed, or are killed themselves; started by the soak of the bays. */
import { SIMULATED_PARTS } from '@cork-ember/core/devices/device.ts';
import { realNow } from '../server/src/clock/realTime.ts';
import { SimulatedDevices } from '../server/src/devices/simulatedDevices.ts';

const BAY = 1;
const firstPort = Number(process.argv[2]);

const devices = await SimulatedDevices.open(
  [BAY],
  { now: realNow },
  (part) => firstPort + SIMULATED_PARTS.indexOf(part),
);
process.on('message', () => process.send?.({ amps: devices.ampsInto(BAY) }));
process.send?.({ amps: 0 });
