/** Foretells every battery off the bench, off the main thread: thousands of them are one question. */
import { expose, transfer } from 'comlink';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import { FIGURES, writeFigures } from '@cork-ember/core/shelf/figures.ts';
import { foretell } from '@cork-ember/core/shelf/foretell.ts';
import type { ShelfItem } from '@cork-ember/core/shelf/overview.ts';

const keeper = {
  /** @returns a row of figures for each, in their order */
  foretell: (items: readonly ShelfItem[], types: readonly ListedType[], now: number): Float64Array => {
    const byId = new Map(types.map((type) => [type.id, type]));
    const figures = new Float64Array(items.length * FIGURES);
    items.forEach((item, index) => {
      const type = byId.get(item.typeId);
      writeFigures(figures, index, type && foretell(item, type, now));
    });
    return transfer(figures, [figures.buffer]);
  },
};

export type Keeper = typeof keeper;

expose(keeper);
