import { expect } from 'chai';
import { Batch } from './batch.ts';

describe('group commit', () => {
  it('writes together what arrives while the disk is busy, in order', async () => {
    const writes: string[][] = [];
    const batch = new Batch<string>(async (items) => {
      await Promise.resolve();
      writes.push([...items]);
    });
    await Promise.all(['a', 'b', 'c', 'd'].map((item) => batch.add(item)));
    expect(writes).to.deep.equal([['a'], ['b', 'c', 'd']]);
  });

  it('tells only the one whose item was refused', async () => {
    const written: string[] = [];
    const batch = new Batch<string>(async (items) => {
      await Promise.resolve();
      if (items.includes('bad')) throw new Error('taken');
      written.push(...items);
    });
    const results = await Promise.allSettled(['a', 'b', 'bad', 'c'].map((item) => batch.add(item)));
    expect(results.map((result) => result.status)).to.deep.equal([
      'fulfilled',
      'fulfilled',
      'rejected',
      'fulfilled',
    ]);
    expect(written).to.deep.equal(['a', 'b', 'c']);
  });
});
