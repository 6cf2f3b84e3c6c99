import { expect } from 'chai';
import { isStock, ownerFrom } from './owner.ts';

describe('whose a battery is', () => {
  it('the shop’s where nobody said, else as it was said', () => {
    expect(ownerFrom('  ')).to.equal('stock');
    expect(ownerFrom(' tide-gauge hut ')).to.equal('tide-gauge hut');
  });

  it('tells the shop’s own by its first word', () => {
    for (const owner of ['', 'stock', 'Stock, from the ferry']) expect(isStock(owner), owner).to.equal(true);
    for (const owner of ['stockman’s hut', 'tide-gauge hut']) expect(isStock(owner), owner).to.equal(false);
  });
});
