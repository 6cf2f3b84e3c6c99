/** The shop's acid and consumables: moves are appended, levels are their sum. */
import { col, fn } from 'sequelize';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import {
  itemsFor,
  sodaForSpill,
  SODA,
  stockLevels,
  type RecordedMove,
  type StockLevel,
  type StockMove,
} from '@cork-ember/core/stock/stock.ts';
import { ProblemError } from '../problems.ts';
import type { Database } from '../store/database.ts';
import { once } from '../store/requests.ts';
import type { ShopSettings } from './shop.ts';
import type { Stream } from './stream.ts';

export interface CountRequest extends StockMove {
  readonly by: string;
  readonly why: string;
  readonly requestKey: string;
}

export interface SpillRequest {
  readonly by: string;
  readonly item: string;
  readonly ml: number;
  readonly density25: number;
  readonly requestKey: string;
}

export class Stock {
  private readonly database: Database;
  private readonly settings: ShopSettings;
  private readonly clock: Clock;
  private readonly stream: Stream;

  constructor(database: Database, settings: ShopSettings, clock: Clock, stream: Stream) {
    this.database = database;
    this.settings = settings;
    this.clock = clock;
    this.stream = stream;
  }

  async levels(): Promise<StockLevel[]> {
    const rows = await this.database.models.moves.findAll({
      attributes: ['item', [fn('SUM', col('amount')), 'amount'], [fn('MAX', col('amount')), 'most']],
      group: ['item'],
    });
    const had = rows.filter((row) => Number(row.get('most')) > 0).map(({ item }) => item);
    return stockLevels(
      this.settings.types,
      Object.fromEntries(rows.map(({ item, amount }) => [item, amount])),
      had,
    );
  }

  async moves(most = 100): Promise<RecordedMove[]> {
    const rows = await this.database.models.moves.findAll({ order: [['id', 'DESC']], limit: most });
    return rows.map((row) => row.get({ plain: true }));
  }

  private async write(
    { by, requestKey }: Pick<CountRequest, 'by' | 'requestKey'>,
    moves: readonly (StockMove & { why: string })[],
  ): Promise<void> {
    const at = this.clock.now();
    await once(this.database, requestKey, async (transaction) => {
      await this.database.models.moves.bulkCreate(
        moves.map((move) => ({ ...move, at, by, job: null })),
        { transaction },
      );
    });
    this.stream.tell({ kind: 'shop' });
  }

  /** @throws ProblemError for an item the shop does not keep */
  async count({ by, requestKey, ...move }: CountRequest): Promise<StockLevel[]> {
    if (!itemsFor(this.settings.types).some(({ id }) => id === move.item))
      throw new ProblemError('bad-input', `Stock: this shop keeps no “${move.item}”.`);
    await this.write({ by, requestKey }, [move]);
    return this.levels();
  }

  /** A spill or a leftover made harmless: acid and the soda it took go out together. */
  async spill({ item, ml, density25, ...asked }: SpillRequest): Promise<StockLevel[]> {
    const { sodaG } = this.soda(ml, density25);
    const why = `${ml} mL at ${density25.toFixed(3)} neutralised with ${Math.ceil(sodaG)} g of soda`;
    // What came out of a pack was counted when the pack went; loose electrolyte is counted here.
    const acid = item.startsWith('acid:') ? [{ item, amount: -ml, why }] : [];
    await this.write(asked, [...acid, { item: SODA, amount: -Math.ceil(sodaG), why }]);
    return this.levels();
  }

  private soda(ml: number, density25: number): { sodaG: number } {
    try {
      return sodaForSpill(ml, density25);
    } catch (error) {
      if (error instanceof RangeError) throw new ProblemError('bad-input', error.message);
      throw error;
    }
  }
}
