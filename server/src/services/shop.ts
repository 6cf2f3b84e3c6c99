/** The shop itself: its name, hours, bays, chargers, rules and types, and the record of every change of them. */
import type { Transaction } from 'sequelize';
import { USUAL_COSTS, type ShopCosts } from '@cork-ember/core/advice/worth.ts';
import { LISTED } from '@cork-ember/core/demo/catalogue.ts';
import { upcastTypes } from '@cork-ember/core/battery/pastTypes.ts';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import { CHARGERS } from '@cork-ember/core/charge/chargers.ts';
import type { Charger } from '@cork-ember/core/charge/charger.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { Shop, ShopChange } from '@cork-ember/core/contract/answers.ts';
import { wordsOfChange, type ShopParts } from '@cork-ember/core/contract/shopWords.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { completeRules, STANDARD_RULES } from '@cork-ember/core/rules/houseRules.ts';
import { ProblemError } from '../problems.ts';
import { PLAIN_REGION } from '@cork-ember/core/units/region.ts';
import { once } from '../store/requests.ts';
import type { Database } from '../store/database.ts';
import type { SettingStore } from '../store/settingStore.ts';
import { assertAlarmsTo } from './alarmPost.ts';
import { assertDevices } from './devices.ts';
import { Queue } from './queue.ts';
import type { Stream } from './stream.ts';

const SHOP = 'shop';
const TYPES = 'types';

/** A shop that has not been set up: weekdays eight to six, six bays with a bench supply each. */
export function plainShop(timeZone: string): Shop {
  const day: readonly [number, number] = [8 * 60, 18 * 60];
  return {
    version: 1,
    name: 'Battery bench',
    tagLetters: 'B',
    hours: { timeZone, week: [null, day, day, day, day, day, [9 * 60, 13 * 60]] },
    bays: [1, 2, 3, 4, 5, 6].map((number) => ({ number, charger: 'supply' })),
    chargers: CHARGERS,
    room: { volumeM3: 40, pricePerKwh: 0.3 },
    costs: USUAL_COSTS,
    region: PLAIN_REGION,
    handInstruments: {},
    people: [],
    rules: STANDARD_RULES,
    stores: [],
    firstDay: {},
  };
}

/** Before the letters were a setting every shop's tags began so. */
const PAST_TAG_LETTERS = 'SK';

/** Costs as they were kept while the sign of the money stood among them. */
interface PastCosts extends Partial<ShopCosts> {
  readonly currency?: string;
  /** For any core, before cores were reckoned by the Ah. */
  readonly corePays?: number;
}

/** A shop kept before chargers were data, or before a rule existed, completed. */
function completed(kept: Partial<Shop>, initial: Shop): Shop {
  const chargers = kept.chargers ?? initial.chargers;
  const known = new Set(chargers.map(({ id }) => id));
  const bays = (kept.bays ?? initial.bays).map((bay) =>
    known.has(bay.charger)
      ? bay
      : {
          ...bay,
          charger: initial.bays.find(({ number }) => number === bay.number)?.charger ?? chargers[0]?.id ?? '',
        },
  );
  const { currency, ...keptCosts }: PastCosts = kept.costs ?? {};
  const costs = completeCosts(keptCosts, initial.costs);
  const region = kept.region ?? {
    ...initial.region,
    money: { ...initial.region.money, sign: currency ?? initial.region.money.sign },
  };
  const { firstDay: _never, ...begun } = initial;
  return {
    ...begun,
    tagLetters: PAST_TAG_LETTERS,
    ...kept,
    chargers,
    bays,
    costs,
    region,
    rules: completeRules(kept.rules ?? {}),
  };
}

/** An amount for any core, as shops kept it before cores were reckoned by the Ah, was meant for one of this size. */
const CORE_AH = 60;

function completeCosts({ corePays, ...kept }: PastCosts, initial: ShopCosts): ShopCosts {
  return {
    ...initial,
    ...(corePays === undefined ? {} : { corePerAh: corePays / CORE_AH }),
    ...kept,
    newPerAh: { ...initial.newPerAh, ...kept.newPerAh },
  };
}

interface Kept {
  readonly shop: Shop;
  readonly types: readonly ListedType[];
}

export interface ChangeRequest extends ShopParts {
  /** The version it was changed from; a change that names none is taken as it comes. */
  readonly version?: number;
  readonly requestKey?: string;
  readonly by: string;
  readonly why: string;
}

/**
 * Reads the shop from its file, writing what it begins with on the first start. A shop of before that never changed a type
 * kept none: it had the list that is the demo's today.
 */
export async function loadShop(
  settings: SettingStore,
  initial: Shop,
  initialTypes: readonly ListedType[],
): Promise<Kept> {
  const known = await settings.read<Partial<Shop>>(SHOP);
  const types = await settings.read<readonly unknown[]>(TYPES);
  if (!known) {
    await settings.write(TYPES, initialTypes);
    await settings.write(SHOP, initial);
    return { shop: initial, types: initialTypes };
  }
  return { shop: completed(known, initial), types: types ? upcastTypes(types) : LISTED };
}

/** A battery at work: where it stands, and the charger that is on. */
export interface Standing {
  readonly tag: string;
  readonly bay: number;
  readonly charger?: Pick<Charger, 'id' | 'name'>;
}

/** @throws ProblemError where a bay that holds a battery, or a charger that is on, would be gone */
function assertUntouched(standing: readonly Standing[], { bays, chargers }: Shop): void {
  for (const { tag, bay, charger } of standing) {
    if (bay !== SHELF && !bays.some(({ number }) => number === bay))
      throw new ProblemError('taken', `Bay ${bay} holds ${tag}: move it first, then remove the bay.`);
    if (charger && !chargers.some(({ id }) => id === charger.id))
      throw new ProblemError('taken', `${charger.name} is on at ${tag}: it stays until it is off.`);
  }
}

export class ShopSettings {
  private kept: Kept;
  private readonly database: Database;
  private readonly clock: Clock;
  private readonly stream: Stream;
  private readonly queue = new Queue();

  constructor(kept: Kept, database: Database, clock: Clock, stream: Stream) {
    this.kept = kept;
    this.database = database;
    this.clock = clock;
    this.stream = stream;
  }

  get shop(): Shop {
    return this.kept.shop;
  }

  get types(): readonly ListedType[] {
    return this.kept.types;
  }

  /** Ids of the types a word names by their maker, as it begins. */
  typesOfMaker(word: string): readonly string[] {
    const asked = word.toLowerCase();
    const isNamed = (maker: string): boolean =>
      maker
        .toLowerCase()
        .split(/\s+/)
        .some((part) => part.startsWith(asked));
    return this.types.filter(({ maker }) => isNamed(maker)).map(({ id }) => id);
  }

  /** The latest changes, the newest first. */
  async changes(most = 200): Promise<ShopChange[]> {
    const rows = await this.database.models.changes.findAll({ order: [['id', 'DESC']], limit: most });
    return rows.map((row) => row.get({ plain: true }));
  }

  /** @throws ProblemError where the code is another type's, or not the one the battery names */
  checkNew(type: ListedType, typeId: string): void {
    if (type.id !== typeId)
      throw new ProblemError('bad-input', 'Type: the battery names another than the one that comes with it.');
    if (this.types.some(({ id }) => id === type.id))
      throw new ProblemError(
        'taken',
        `Type code ${type.id} is in this shop’s list already: choose it there, or give this one another code.`,
      );
  }

  /**
   * Puts types that were read off labels into the list.
   * @param tags of the batteries they were read off
   * @param within what is written with it, or not at all
   */
  addTypes(
    read: readonly ListedType[],
    by: string,
    tags: string,
    within: (transaction: Transaction) => Promise<void>,
  ): Promise<Shop> {
    const change = { by, why: `read off the label of ${tags}`, types: [...this.types, ...read] };
    return this.change(change, () => Promise.resolve([]), within);
  }

  private async isDone(key: string): Promise<boolean> {
    return (await this.database.models.requests.findByPk(key)) !== null;
  }

  private async staleError(): Promise<ProblemError> {
    const [last] = await this.changes(1);
    return new ProblemError(
      'stale',
      `${last?.by ?? 'Somebody'} changed the shop in the meantime${last ? ` (${last.what})` : ''}: look at it, then save yours again.`,
    );
  }

  /**
   * Changes the shop for jobs to come; jobs under way keep the rules they were opened with.
   * @param standing what stands on the bench when it is done: neither a bay nor a charger is taken from under it
   * @param within what is written with it, or not at all
   * @throws ProblemError when it does not hold together, or nothing would change
   */
  change(
    { by, why, types, rules, version, requestKey, ...parts }: ChangeRequest,
    standing: () => Promise<readonly Standing[]>,
    within?: (transaction: Transaction) => Promise<void>,
  ): Promise<Shop> {
    return this.queue.run('shop', async () => {
      if (requestKey !== undefined && (await this.isDone(requestKey))) return this.shop;
      if (version !== undefined && version !== this.shop.version) throw await this.staleError();
      const shop: Shop = {
        ...this.shop,
        ...parts,
        rules: { ...this.shop.rules, ...rules },
        version: this.shop.version + 1,
      };
      const next: Kept = { shop, types: types ?? this.types };
      for (const bay of shop.bays)
        if (!shop.chargers.some(({ id }) => id === bay.charger))
          throw new ProblemError(
            'bad-input',
            `Bay ${bay.number}: there is no charger “${bay.charger}” in this shop.`,
          );
      if (parts.devices || parts.profiles) assertDevices(shop);
      assertAlarmsTo(parts.alarmsTo);
      if (parts.bays || parts.chargers) assertUntouched(await standing(), shop);
      const words = wordsOfChange(this.kept, next);
      if (words.length === 0)
        throw new ProblemError('bad-input', 'Nothing differs from what the shop has already.');
      const { models } = this.database;
      const at = this.clock.now();
      await once(this.database, requestKey, async (transaction) => {
        await models.settings.upsert({ key: SHOP, value: next.shop }, { transaction });
        if (types) await models.settings.upsert({ key: TYPES, value: types }, { transaction });
        await models.changes.bulkCreate(
          words.map((what) => ({ at, by, why, what })),
          { transaction },
        );
        await within?.(transaction);
      });
      this.kept = next;
      this.stream.tell({ kind: 'shop' });
      return next.shop;
    });
  }
}
