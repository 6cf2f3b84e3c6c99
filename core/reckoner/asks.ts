/** Questions that several calculators ask: how a battery is built, and how many cells it has. */
import { CONSTRUCTION, CONSTRUCTIONS, type Construction } from '../battery/construction.ts';
import { nominalV, USUAL_CELLS } from '../battery/types.ts';
import type { ChoiceAsk } from './calculator.ts';

export const KIND_ASK: ChoiceAsk = {
  id: 'kind',
  label: 'Kind',
  options: Object.fromEntries(CONSTRUCTIONS.map((id) => [id, CONSTRUCTION[id].name])),
  start: 'agm',
};

/** The construction that was chosen. */
export const builtAs = (chosen: string): Construction => CONSTRUCTIONS.find((id) => id === chosen) ?? 'agm';

export const CELLS_ASK: ChoiceAsk = {
  id: 'cells',
  label: 'Cells',
  options: Object.fromEntries(USUAL_CELLS.map((cells) => [cells, `${cells} (${nominalV({ cells })} V)`])),
  start: '6',
};
