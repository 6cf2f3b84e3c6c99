import { expect } from 'chai';
import { lastOfRow, nextTag, tagOf } from './tags.ts';

describe('tags', () => {
  it('go on in the shop’s own row, whatever else is tagged', () => {
    expect(nextTag(['SK-0149', 'SK-0003', 'X-0900', 'SK-OLD', 'SK-12'], 'SK')).to.equal('SK-0150');
    expect(nextTag([], 'B')).to.equal('B-0001');
    expect(lastOfRow(['B-10000'], 'B')).to.equal(10_000);
    expect(tagOf('B', 10_001)).to.equal('B-10001');
  });
});
