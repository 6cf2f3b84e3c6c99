/** Draws one sheet of tags in a process of its own, hands it over and ends. */
import { labelsPdf } from './labels.ts';
import type { Sheet } from './labelSheet.ts';

process.once('message', ({ labels, region }: Sheet) => {
  void labelsPdf(labels, region).then((pdf) => process.send?.(pdf, () => process.disconnect()));
});
