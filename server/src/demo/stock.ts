/** What stands on the loft's shelves when the demo begins: enough of most, a little low on two. */
import type { Database } from '../store/database.ts';

const SHELF: readonly (readonly [item: string, amount: number])[] = [
  ['pack:P-04', 3],
  ['pack:P-05', 4],
  ['pack:P-06', 2],
  ['pack:P-09', 6],
  ['pack:P-12', 5],
  ['pack:P-14', 2],
  ['pack:P-20', 1],
  ['pack:P-30', 2],
  ['pack:P-55', 2],
  ['acid:1.265', 18_000],
  ['soda', 2400],
  ['water', 9000],
];
const WEEK = 7 * 24 * 3_600_000;

export async function seedStock(database: Database, now: number): Promise<void> {
  await database.models.moves.bulkCreate(
    SHELF.map(([item, amount]) => ({
      item,
      amount,
      at: now - WEEK,
      by: 'Solveig',
      why: 'Counted',
      job: null,
    })),
  );
}
