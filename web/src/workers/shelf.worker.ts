/** Foretells every battery off the bench, off the main thread: thousands of them are one question. */
import { expose } from 'comlink';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { ShelfRules } from '@cork-ember/core/shelf/due.ts';
import { overviewOf, type Shelved, type ShelfItem } from '@cork-ember/core/shelf/overview.ts';

const keeper = {
  overview: (
    items: readonly ShelfItem[],
    types: readonly ListedType[],
    rules: ShelfRules,
    now: number,
  ): readonly Shelved[] => overviewOf(items, types, rules, now),
};

export type Keeper = typeof keeper;

expose(keeper);
