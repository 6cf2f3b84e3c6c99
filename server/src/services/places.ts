/** Where a battery may stand and who it may be: what intake, a file and a job opened again all ask before they write. */
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import { SHELF, standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { ProblemError } from '../problems.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { ShopSettings } from './shop.ts';

export class Places {
  private readonly store: JobStore;
  private readonly settings: ShopSettings;

  constructor(store: JobStore, settings: ShopSettings) {
    this.store = store;
    this.settings = settings;
  }

  /** The shelf takes any number; a bay takes one. @throws ProblemError where it is taken, or not there */
  async checkBay(bay: number): Promise<void> {
    if (bay === SHELF) return;
    const { bays } = this.settings.shop;
    if (!bays.some(({ number }) => number === bay))
      throw new ProblemError('bad-input', `Bay: there is no bay ${bay}; this shop has ${bays.length}.`);
    const other = (await this.store.jobs({ isOpen: true })).find((open) => open.bay === bay);
    if (other) throw new ProblemError('taken', `Bay ${bay} is taken by ${other.tag}; choose a free one.`);
  }

  /** @throws ProblemError where the battery is at work already, is of another type, or its bay is taken */
  async checkFree({ battery, bay }: { battery: BatteryRecord; bay: number }): Promise<void> {
    const standing = (await this.store.jobs({ isOpen: true })).find(({ tag }) => tag === battery.tag);
    if (standing)
      throw new ProblemError('taken', `${battery.tag} is at work here already, ${standsText(standing.bay)}.`);
    await this.checkBay(bay);
    const before = await this.store.battery(battery.tag);
    if (before && before.typeId !== battery.typeId)
      throw new ProblemError(
        'taken',
        `${battery.tag} is in the ledger as ${before.typeId}; give this one another tag.`,
      );
  }

  /** @throws ProblemError where a battery of this tag is known as another type or piece */
  async checkKnown(battery: BatteryRecord): Promise<void> {
    const known = await this.store.battery(battery.tag);
    if (!known) return;
    const differs = (['typeId', 'serial', 'dateCode'] as const).find((fact) => known[fact] !== battery[fact]);
    if (differs === undefined) return;
    const words = { typeId: 'type', serial: 'serial', dateCode: 'date code' }[differs];
    throw new ProblemError(
      'taken',
      `${battery.tag} is known here with another ${words} (${known[differs] || 'none'}, not ${battery[differs] || 'none'}): nothing was taken in.`,
    );
  }

  /** @throws ProblemError where the battery of a job that is opened again has come back since */
  async checkIsLatest({ opened, openedAt }: JobState): Promise<void> {
    const { tag } = opened.battery;
    if ((await this.store.laterJobs(tag, openedAt)) > 0)
      throw new ProblemError('taken', `${tag} has been taken in again since: this ending stays.`);
  }
}
