/** Speaks to the shop's devices when somebody sets them up: who is there, what it shows, and whether it switches off. */
import { profileNamed, type Device } from '@cork-ember/core/devices/device.ts';
import type { Driver } from '@cork-ember/core/devices/driver.ts';
import { outfitOf, type Outfit } from '@cork-ember/core/devices/outfit.ts';
import { GENERIC_PROFILES } from '@cork-ember/core/devices/genericProfiles.ts';
import {
  DEVICE_KINDS,
  FOR_ALL_BAYS,
  type Asked,
  type DeviceKind,
  type DeviceProfile,
} from '@cork-ember/core/devices/profile.ts';
import type { Addressed } from '@cork-ember/core/devices/bay/messages.ts';
import { NO_CURRENT_A } from '@cork-ember/core/devices/bay/seen.ts';
import { FAULTS_OF, type Failing } from '@cork-ember/core/devices/simulated/failings.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { InstrumentError } from '@cork-ember/core/observation/instrument.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import type { DeviceSaid, Shop } from '@cork-ember/core/contract/answers.ts';
import type { SimulatedDevices } from '../devices/simulatedDevices.ts';
import { SharedCables } from '../devices/sharedCables.ts';
import { ProblemError } from '../problems.ts';
import { HandGone } from './benchLink.ts';
import { isPrivate } from '../tls/privateNetworks.ts';

const OWN_MACHINE = '127.0.0.1';

/**
 * @throws ProblemError where a device has no profile, is to be asked though it sends by itself or the other way round, stands on no network of the shop's
 * own, or two of a kind are wired to one bay
 */
export function assertDevices({ devices = [], profiles }: Pick<Shop, 'devices' | 'profiles'>): void {
  const wired = new Map<string, string>();
  for (const { name, profile, place, bay } of devices) {
    const known = profileNamed(profile, profiles);
    if (!known)
      throw new ProblemError('bad-input', `${name}: there is no profile “${profile}” in this shop.`);
    const { kind } = known;
    if ((known.speech.protocol === 'push') !== (place.kind === 'push'))
      throw new ProblemError(
        'bad-input',
        place.kind === 'push'
          ? `${name}: “${known.name}” is asked at its address: give one.`
          : `${name}: “${known.name}” sends by itself and has no address.`,
      );
    if (place.kind === 'tcp' && !isPrivate(place.host))
      throw new ProblemError(
        'bad-input',
        `${verbatim(`${name}: ${place.host}`)} is no address of a network of the shop’s own, such as ${verbatim('192.168.1.50')}; devices are spoken to nowhere else.`,
      );
    if (bay === undefined) continue;
    const other = wired.get(`${bay} ${kind}`);
    if (other !== undefined)
      throw new ProblemError(
        'bad-input',
        `${name}: bay ${bay} has a ${DEVICE_KINDS[kind]} already, ${other}.`,
      );
    wired.set(`${bay} ${kind}`, name);
  }
}

const isThere = ({ bay }: Device, wanted: number, kind: DeviceKind): boolean =>
  bay === wanted || (bay === undefined && FOR_ALL_BAYS.includes(kind));

/** A device as another program speaks to it that has it in hand; undefined where none has anything. */
export type InHand = (of: Addressed) => Driver | undefined;

export class Devices {
  private readonly settings: { readonly shop: Shop };
  private readonly simulated: SimulatedDevices | undefined;
  private readonly cables = new SharedCables();
  private inHand: InHand | undefined;

  /** @param simulated those of a demo */
  constructor(settings: { readonly shop: Shop }, simulated: SimulatedDevices | undefined) {
    this.settings = settings;
    this.simulated = simulated;
  }

  /** Those of a demo go with it. */
  async close(): Promise<void> {
    await this.simulated?.close();
  }

  /** The shop's own first, then those that ship. */
  get profiles(): readonly DeviceProfile[] {
    return [...(this.settings.shop.profiles ?? []), ...GENERIC_PROFILES];
  }

  /** Where a device is wired. @throws ProblemError where there is none */
  bayOf(id: string): number | undefined {
    return this.device(id).bay;
  }

  private device(id: string): Device {
    const device = this.settings.shop.devices?.find((one) => one.id === id);
    if (!device) throw new ProblemError('not-found', `There is no device “${id}” in this shop.`);
    return device;
  }

  private addressed({ name, place, profile: named, calibration, channel, leadsOhm }: Device): Addressed {
    const profile = profileNamed(named, this.settings.shop.profiles);
    if (!profile) throw new ProblemError('not-found', `${name}: its profile is gone.`);
    const known = {
      profile,
      ...(calibration ? { calibration } : {}),
      ...(channel === undefined ? {} : { channel }),
      ...(leadsOhm === undefined ? {} : { leadsOhm }),
    };
    if (place.kind === 'tcp' || place.kind === 'serial') return { ...known, cable: place };
    if (place.kind === 'push')
      throw new ProblemError('refused', `${name} sends by itself: it is told nothing.`);
    const port = this.simulated?.portOf(place.bay, place.part);
    if (port === undefined)
      throw new ProblemError('not-found', `${name}: there are no simulated devices in this shop.`);
    return { ...known, cable: { kind: 'tcp', host: OWN_MACHINE, port } };
  }

  /** Simulated ones, and what is wrong with each on demand. */
  failings(): readonly Failing[] {
    return (this.settings.shop.devices ?? []).flatMap(({ id, place }) => {
      const failing = place.kind === 'simulated' ? this.simulated?.failing(place.bay, place.part) : undefined;
      return failing ? [{ id, ...failing }] : [];
    });
  }

  /** Has a simulated device do wrong, or right again. @throws ProblemError where it is none, or cannot fail so */
  fail(id: string, failing: Omit<Failing, 'id'>): readonly Failing[] {
    const { name, place } = this.device(id);
    if (place.kind !== 'simulated' || !this.simulated)
      throw new ProblemError('refused', `${name} is a device that is there: it fails by itself, or not.`);
    const { fault } = failing;
    if (fault !== null && !FAULTS_OF[place.part].includes(fault))
      throw new ProblemError('bad-input', `${name} can fail so: ${FAULTS_OF[place.part].join(', ')}.`);
    this.simulated.fail(place.bay, place.part, failing);
    return this.failings();
  }

  outfitOf(bay: number): Outfit {
    return outfitOf(this.settings.shop, bay);
  }

  /** What of a kind is wired to a bay; undefined where there is none. */
  inBay(bay: number, kind: DeviceKind): Addressed | undefined {
    const { devices = [], profiles } = this.settings.shop;
    const [device] = devices.filter(
      (one) => isThere(one, bay, kind) && profileNamed(one.profile, profiles)?.kind === kind,
    );
    return device && this.addressed(device);
  }

  /** Stop buttons that hold for a bay: those of that bay, and those of none, which hold for all. */
  stopsFor(bay: number): readonly Addressed[] {
    const { devices = [], profiles } = this.settings.shop;
    return devices
      .filter((one) => isThere(one, bay, 'stop') && profileNamed(one.profile, profiles)?.kind === 'stop')
      .map((one) => this.addressed(one));
  }

  /** Whether any bay has a device of a kind that can be asked for that. */
  hasAny(kind: DeviceKind, what: Asked | undefined): boolean {
    const { devices = [], profiles } = this.settings.shop;
    return devices.some((device) => {
      const profile = profileNamed(device.profile, profiles);
      return (
        (device.bay !== undefined || FOR_ALL_BAYS.includes(kind)) &&
        profile?.kind === kind &&
        what !== undefined &&
        what in profile.speech.asks
      );
    });
  }

  /**
   * One figure of what is wired to a bay.
   * @returns undefined where nothing there can be asked for it
   * @throws InstrumentError where it does not answer
   */
  async askBay(bay: number, kind: DeviceKind, what: Asked): Promise<number | undefined> {
    const device = this.inBay(bay, kind);
    if (!device || !(what in device.profile.speech.asks)) return undefined;
    const { driver, letGo } = this.taken(device);
    try {
      return await driver.ask(what);
    } catch (error) {
      if (!(error instanceof DeviceError)) throw error;
      throw new InstrumentError(`${device.profile.name} of bay ${bay}: ${error.message}`, { cause: error });
    } finally {
      letGo();
    }
  }

  /** From here, whoever had it in hand: it goes off by its own watchdog where it does not hear, or not at all, and who comes is told. */
  async switchOff(of: Addressed): Promise<void> {
    const { driver, letGo } = this.cables.take(of);
    await driver.tell('off').catch(() => undefined);
    letGo();
  }

  /** Who speaks to what the bench has in hand. */
  askedThrough(inHand: InHand): void {
    this.inHand = inHand;
  }

  private taken(of: Addressed): { readonly driver: Driver; readonly letGo: () => void } {
    const inHand = this.inHand?.(of);
    if (!inHand) return this.cables.take(of);
    let own: ReturnType<SharedCables['take']> | undefined;
    const orOwn = async <T>(ask: (driver: Driver) => Promise<T>): Promise<T> => {
      try {
        return await ask(own?.driver ?? inHand);
      } catch (error) {
        if (!(error instanceof HandGone)) throw error;
        own ??= this.cables.take(of);
        return ask(own.driver);
      }
    };
    return {
      driver: {
        profile: of.profile,
        identify: () => orOwn((driver) => driver.identify()),
        ask: (what) => orOwn((driver) => driver.ask(what)),
        tell: (what, value) => orOwn((driver) => driver.tell(what, value)),
      },
      letGo: () => own?.letGo(),
    };
  }

  private async spoken(
    id: string,
    what: (driver: Driver, said: Saying) => Promise<void>,
  ): Promise<DeviceSaid> {
    const device = this.device(id);
    const { driver, letGo } = this.taken(this.addressed(device));
    const said: Saying = { figures: {} };
    try {
      said.says = await driver.identify();
      await what(driver, said);
    } catch (error) {
      if (!(error instanceof DeviceError)) throw error;
      said.trouble = `${device.name}: ${error.message}`;
    } finally {
      letGo();
    }
    return said;
  }

  /** Who it says it is, and all it can be asked. @throws ProblemError where there is none */
  talk(id: string): Promise<DeviceSaid> {
    return this.spoken(id, async (driver, said) => {
      for (const what of Object.keys(driver.profile.speech.asks) as Asked[])
        said.figures[what] = await driver.ask(what);
    });
  }

  /** Tells it to be off, and looks whether it is. @throws ProblemError where there is none */
  testOff(id: string): Promise<DeviceSaid> {
    return this.spoken(id, async (driver, said) => {
      await driver.tell('off');
      const { asks } = driver.profile.speech;
      for (const what of ['isOn', 'amps'] as const)
        if (what in asks) said.figures[what] = await driver.ask(what);
      const { isOn = 0, amps = 0 } = said.figures;
      if (isOn !== 0 || Math.abs(amps) > NO_CURRENT_A)
        throw new DeviceError('refused', 'it was told to be off and is not: pull its mains plug.');
    });
  }
}

interface Saying {
  says?: string;
  trouble?: string;
  readonly figures: Partial<Record<Asked, number>>;
}
