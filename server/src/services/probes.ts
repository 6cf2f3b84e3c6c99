/**
 * Probes that send by themselves: each has a key, told once; what it sends is on disk before it is answered, and is the bay's last reading for whoever
 * asks. Readings of each second are kept beside the record, not in it: what the run sheet goes by is a look somebody, or a bay under control, takes.
 */
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { setTimeout as pass } from 'node:timers/promises';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { DeviceSaid, ProbeKey, Shop } from '@cork-ember/core/contract/answers.ts';
import { corrected, type Calibration } from '@cork-ember/core/devices/calibration.ts';
import { profileNamed, type Device } from '@cork-ember/core/devices/device.ts';
import { PUSHED, type DeviceProfile, type Pushed } from '@cork-ember/core/devices/profile.ts';
import { pushedSamples } from '@cork-ember/core/devices/push.ts';
import type { Sample } from '@cork-ember/core/devices/samples.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { elapsedNow } from '../clock/realTime.ts';
import { together } from '../gently.ts';
import { ProblemError } from '../problems.ts';
import type { JobSample } from '../readings/readingsFile.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { SettingStore } from '../store/settingStore.ts';
import type { Readings } from './readings.ts';
import type { Stream } from './stream.ts';

const KEYS = 'probeKeys';
const KEY_BYTES = 24;
const NOT_ITS_KEY = 'This is not the key of this probe: a lead makes it a new one under Setup, Devices.';
/** What comes within so long is written with one stroke, ms: a full bench sends sixty-four times a second. */
const GATHER_MS = 50;
/** Where batteries stand is asked anew so often, ms, though nothing was heard of a change. */
const STANDS_FOR_MS = 5000;

/** Of a key that is kept: a device of another name that comes to have the same id has another. */
interface KeptKey {
  readonly name: string;
  readonly hash: string;
}

interface ProbesNeed {
  readonly settings: { readonly shop: Shop };
  readonly keys: SettingStore;
  readonly store: JobStore;
  readonly readings: Readings;
  readonly stream: Stream;
  readonly clock: Clock;
}

interface Heard {
  readonly figures: Partial<Record<Pushed, number>>;
  /** On a clock that only grows, ms. */
  readonly heardAt: number;
}

/** By the probe's own calibration. */
function putRight(sample: Sample, calibration: Calibration | undefined): Sample {
  if (!calibration) return sample;
  const right: Partial<Record<Pushed, number>> = {};
  for (const what of PUSHED) {
    const [line, shown] = [calibration.lines[what], sample[what]];
    if (line && shown !== undefined) right[what] = corrected(line, shown);
  }
  return { ...sample, ...right };
}

const hashOf = (key: string): Buffer => createHash('sha256').update(key).digest();

export class Probes {
  private readonly need: ProbesNeed;
  private readonly last = new Map<string, Heard>();
  private keys: Promise<Readonly<Record<string, KeptKey>>> | undefined;
  private standing: { readonly asOf: number; readonly jobs: ReadonlyMap<number, string> } | undefined;
  /** Readings that are not on disk yet, by their bay. */
  private waiting: { readonly bay: number; readonly sample: Sample }[] = [];

  constructor(need: ProbesNeed) {
    this.need = need;
    need.stream.overhear(({ kind }) => {
      if (kind === 'event') this.standing = undefined;
    });
  }

  private probe(id: string): { readonly device: Device; readonly profile: DeviceProfile } | undefined {
    const { devices = [], profiles } = this.need.settings.shop;
    const device = devices.find((one) => one.id === id && one.place.kind === 'push');
    const profile = device && profileNamed(device.profile, profiles);
    return profile && { device, profile };
  }

  private kept(): Promise<Readonly<Record<string, KeptKey>>> {
    this.keys ??= this.need.keys.read<Readonly<Record<string, KeptKey>>>(KEYS).then((kept) => kept ?? {});
    return this.keys;
  }

  /**
   * A new key; the one before it opens nothing any more.
   * @throws ProblemError where there is no such probe
   */
  async newKey(id: string): Promise<ProbeKey> {
    const probe = this.probe(id);
    if (!probe)
      throw new ProblemError('not-found', `There is no probe “${id}” in this shop that sends by itself.`);
    const key = randomBytes(KEY_BYTES).toString('base64url');
    const { name } = probe.device;
    const keys = { ...(await this.kept()), [id]: { name, hash: hashOf(key).toString('hex') } };
    await this.need.keys.write(KEYS, keys);
    this.keys = Promise.resolve(keys);
    return { key };
  }

  /** Whether this is the key of that probe. */
  async isProven(id: string, key: string): Promise<boolean> {
    const probe = this.probe(id);
    const known = (await this.kept())[id];
    return (
      probe !== undefined &&
      known?.name === probe.device.name &&
      timingSafeEqual(hashOf(key), Buffer.from(known.hash, 'hex'))
    );
  }

  /**
   * Takes what a probe sends. It is on disk once this is answered.
   * @returns how many readings were kept: none while no battery stands where it is wired
   * @throws ProblemError where the key is not its own, or what it sends is no reading; nothing of it is kept then
   */
  async hear(id: string, key: string, message: unknown): Promise<{ readonly kept: number }> {
    const probe = this.probe(id);
    // Whether there is such a probe is nobody's business who has no key of it.
    if (!probe || !(await this.isProven(id, key))) throw new ProblemError('not-signed-in', NOT_ITS_KEY);
    const samples = this.read(probe, message);
    const { at: _at, ...figures } = samples.at(-1) ?? { at: 0 };
    this.last.set(id, { figures, heardAt: elapsedNow() });
    const { bay } = probe.device;
    if (bay === undefined) return { kept: 0 };
    this.waiting.push(...samples.map((sample) => ({ bay, sample })));
    const jobs = await this.write();
    return { kept: jobs.has(bay) ? samples.length : 0 };
  }

  private read({ device, profile }: { device: Device; profile: DeviceProfile }, message: unknown) {
    try {
      return pushedSamples(profile, message, this.need.clock.now()).map((sample) =>
        putRight(sample, device.calibration),
      );
    } catch (error) {
      if (!(error instanceof DeviceError)) throw error;
      throw new ProblemError('bad-input', `${device.name}: ${error.message}`);
    }
  }

  /** Puts all that waits on disk with one write, and tells who listens. @returns which job stands in each bay */
  private readonly write = together(async (): Promise<ReadonlyMap<number, string>> => {
    await pass(GATHER_MS);
    const { waiting } = this;
    this.waiting = [];
    const jobs = await this.jobsInBays();
    // Two probes of a bay that send in the same millisecond are one reading.
    const samples = new Map<string, JobSample>();
    for (const { bay, sample } of waiting) {
      const job = jobs.get(bay);
      if (job === undefined) continue;
      const key = `${job} ${sample.at}`;
      samples.set(key, { ...samples.get(key), job, ...sample });
    }
    await this.need.readings.keep([...samples.values()]);
    for (const { bay, sample } of waiting) {
      const job = jobs.get(bay);
      if (job !== undefined) this.need.stream.tell({ kind: 'seen', bay, job, sample });
    }
    return jobs;
  });

  private async jobsInBays(): Promise<ReadonlyMap<number, string>> {
    const asOf = elapsedNow();
    if (this.standing && asOf - this.standing.asOf < STANDS_FOR_MS) return this.standing.jobs;
    const open = await this.need.store.jobs({ isOpen: true });
    const jobs = new Map(open.map(({ bay, id }) => [bay, id] as const));
    this.standing = { asOf, jobs };
    return jobs;
  }

  /** What it sent last; undefined where it is no probe that sends by itself. */
  said(id: string): DeviceSaid | undefined {
    const probe = this.probe(id);
    if (!probe) return undefined;
    const heard = this.last.get(id);
    const { name } = probe.device;
    if (!heard)
      return { figures: {}, trouble: `${name}: it has sent nothing since the shop’s server began.` };
    const seconds = Math.round((elapsedNow() - heard.heardAt) / 1000);
    const isOld = seconds > probe.profile.frozenAfterS;
    return {
      figures: heard.figures,
      ...(isOld ? { trouble: `${name}: it sent this ${seconds} s ago, and nothing since.` } : {}),
    };
  }

  /** What a probe of this bay sent last; none where it is older than its profile lets figures be. */
  figure(bay: number, what: Pushed): number | undefined {
    const { devices = [], profiles } = this.need.settings.shop;
    for (const { id, bay: wired, place, profile } of devices) {
      const heard = wired === bay && place.kind === 'push' ? this.last.get(id) : undefined;
      const lastsMs = 1000 * (profileNamed(profile, profiles)?.frozenAfterS ?? 0);
      const value = heard?.figures[what];
      if (heard && value !== undefined && elapsedNow() - heard.heardAt <= lastsMs) return value;
    }
    return undefined;
  }
}
