/** Machines that batteries work in: their sets, and which battery drags its set down. */
import { verbatim } from '@cork-ember/core/units/localise.ts';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import { isTaken, shortName } from '@cork-ember/core/battery/types.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { MachineAnswer, MachineBattery } from '@cork-ember/core/contract/answers.ts';
import { chargedFigures } from '@cork-ember/core/ledger/togetherInMachine.ts';
import type { Label } from '../documents/labels.ts';
import { ProblemError } from '../problems.ts';
import type { Belonging, MachineStore } from '../store/machineStore.ts';
import type { Jobs } from './jobs.ts';
import type { ShopSettings } from './shop.ts';
import type { Stream } from './stream.ts';

export interface MachineRequest extends Omit<Machine, 'tag'> {
  readonly by: string;
}

interface MachinesNeed {
  readonly machines: MachineStore;
  readonly jobs: Jobs;
  readonly settings: ShopSettings;
  readonly clock: Clock;
  readonly stream: Stream;
}

export class Machines {
  private readonly need: MachinesNeed;

  constructor(need: MachinesNeed) {
    this.need = need;
  }

  list(): Promise<readonly Machine[]> {
    return this.need.machines.list();
  }

  /** @throws ProblemError where no machine carries the tag */
  private async known(tag: string): Promise<Machine> {
    const machine = await this.need.machines.machine(tag);
    if (!machine) throw new ProblemError('not-found', `No machine in this shop carries the tag ${tag}.`);
    return machine;
  }

  /** @throws ProblemError for a type the shop has not, or does not take */
  private check({ typeId }: MachineRequest): void {
    const type = this.need.settings.types.find(({ id }) => id === typeId);
    if (!type || !isTaken(type))
      throw new ProblemError('bad-input', `Type: this shop knows no type ${typeId} it could fit.`);
  }

  /** With its batteries, and what the bench found of each. @throws ProblemError where no machine carries the tag */
  async machine(tag: string): Promise<MachineAnswer> {
    const machine = await this.known(tag);
    const belonging = await this.need.machines.batteries(tag);
    return { ...machine, batteries: await Promise.all(belonging.map((one) => this.found(one))) };
  }

  private async found({
    tag,
    typeId,
    serial,
    dateCode,
    place,
    job,
    outcome,
  }: Belonging): Promise<MachineBattery> {
    const type = this.need.settings.types.find(({ id }) => id === typeId);
    const figures = job === null ? {} : await this.figuresOf(job);
    return {
      tag,
      typeId,
      serial,
      dateCode,
      cells: type && isTaken(type) ? type.cells : 0,
      ...(place ? { place } : {}),
      ...(job === null ? {} : { job }),
      ...(outcome === null ? {} : { outcome }),
      ...figures,
    };
  }

  /** One whose record cannot be read today stands there all the same, without figures. */
  private async figuresOf(job: string): Promise<ReturnType<typeof chargedFigures>> {
    try {
      return chargedFigures((await this.need.jobs.job(job)).state);
    } catch (error) {
      if (error instanceof ProblemError) return {};
      throw error;
    }
  }

  /** @throws ProblemError for a type the shop has not */
  async add({ by, ...machine }: MachineRequest): Promise<Machine> {
    this.check({ by, ...machine });
    const { machines, settings, clock, stream } = this.need;
    const added = await machines.add(machine, settings.shop.tagLetters, by, clock.now());
    stream.tell({ kind: 'shop' });
    return added;
  }

  /** @throws ProblemError where no machine carries the tag, or for a type the shop has not */
  async change(tag: string, { by, ...machine }: MachineRequest): Promise<Machine> {
    this.check({ by, ...machine });
    await this.known(tag);
    await this.need.machines.change(tag, machine, by, this.need.clock.now());
    this.need.stream.tell({ kind: 'shop' });
    return { tag, ...machine };
  }

  /** What stands on its own tag. @throws ProblemError where no machine carries it */
  async label(tag: string): Promise<Label> {
    const { name, owner, carries, typeId, batteries } = await this.machine(tag);
    const type = this.need.settings.types.find(({ id }) => id === typeId);
    const tags = batteries.filter(({ place }) => place?.kind !== 'recycled').map((one) => one.tag);
    return {
      tag,
      type: verbatim(name),
      owner: verbatim(owner),
      state: `carries ${carries} × ${type ? shortName(type) : verbatim(typeId)}`,
      next: tags.length === 0 ? '' : verbatim(tags.join(', ')),
      turn: 'MACHINE',
    };
  }
}
