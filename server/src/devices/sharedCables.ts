/** Cables that are in hand: several devices may hang on one, as a scanner's channels do, and a serial port is opened by one program once. */
import type { Addressed } from '@cork-ember/core/devices/bay/messages.ts';
import { calibrated } from '@cork-ember/core/devices/calibration.ts';
import type { Cable } from '@cork-ember/core/devices/device.ts';
import { driverOf, type Driver } from '@cork-ember/core/devices/driver.ts';
import type { Asked } from '@cork-ember/core/devices/profile.ts';
import { oneAtATime, type Wire } from '@cork-ember/core/devices/wire.ts';
import { wireOf } from './cables.ts';
import type { StreamWire } from './streamWire.ts';

interface Held {
  readonly wire: Wire;
  readonly stream: StreamWire;
  readonly drivers: Map<string, Driver>;
  users: number;
}

/**
 * Whoever asks what is being asked already hears the same answer: a button that holds for sixty bays is asked once a second, and not sixty times one after the
 * other.
 */
function askedOnce(driver: Driver): Driver {
  const pending = new Map<Asked, Promise<number>>();
  return {
    profile: driver.profile,
    identify: () => driver.identify(),
    tell: (what, value) => driver.tell(what, value),
    ask: (what) => {
      const asked = pending.get(what) ?? driver.ask(what).finally(() => pending.delete(what));
      pending.set(what, asked);
      return asked;
    },
  };
}

export class SharedCables {
  private readonly held = new Map<string, Held>();
  private readonly open: (cable: Cable) => StreamWire;

  constructor(open: (cable: Cable) => StreamWire = wireOf) {
    this.open = open;
  }

  /** @returns let go of it once: the last to do so closes its cable */
  take({ profile, cable, channel, calibration }: Addressed): {
    readonly driver: Driver;
    readonly letGo: () => void;
  } {
    const key = JSON.stringify(cable);
    const mine = this.held.get(key) ?? this.opened(cable);
    this.held.set(key, mine);
    mine.users += 1;
    const name = JSON.stringify([profile, channel, calibration]);
    const driver =
      mine.drivers.get(name) ?? askedOnce(calibrated(driverOf(profile, mine.wire, channel), calibration));
    mine.drivers.set(name, driver);
    let isHeld = true;
    return {
      driver,
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

  private opened(cable: Cable): Held {
    const stream = this.open(cable);
    return { stream, wire: oneAtATime(stream), drivers: new Map(), users: 0 };
  }
}
