/** Cables that are in hand: several devices may hang on one, as a scanner's channels do, and a serial port is opened by one program once. */
import type { Addressed } from '@cork-ember/core/devices/bay/messages.ts';
import { calibrated } from '@cork-ember/core/devices/calibration.ts';
import type { Cable } from '@cork-ember/core/devices/device.ts';
import { driverOf, type Driver } from '@cork-ember/core/devices/driver.ts';
import { oneAtATime, type Wire } from '@cork-ember/core/devices/wire.ts';
import { wireOf } from './cables.ts';
import type { StreamWire } from './streamWire.ts';

/** A device as it is spoken to over a cable. */
export const driverOn = ({ profile, channel, calibration }: Addressed, wire: Wire): Driver =>
  calibrated(driverOf(profile, wire, channel), calibration);

interface Held {
  readonly wire: Wire;
  readonly stream: StreamWire;
  users: number;
}

export class SharedCables {
  private readonly held = new Map<string, Held>();
  private readonly open: (cable: Cable) => StreamWire;

  constructor(open: (cable: Cable) => StreamWire = wireOf) {
    this.open = open;
  }

  /** @returns let go of it once: the last to do so closes it */
  take(cable: Cable): { readonly wire: Wire; readonly letGo: () => void } {
    const key = JSON.stringify(cable);
    let held = this.held.get(key);
    if (!held) {
      const stream = this.open(cable);
      held = { stream, wire: oneAtATime(stream), users: 0 };
      this.held.set(key, held);
    }
    const mine = held;
    mine.users += 1;
    let isHeld = true;
    return {
      wire: mine.wire,
      letGo: () => {
        if (!isHeld) return;
        isHeld = false;
        mine.users -= 1;
        if (mine.users > 0) return;
        this.held.delete(key);
        mine.stream.close();
      },
    };
  }
}
