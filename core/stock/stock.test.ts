import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { TestJob } from '../test/testJob.ts';
import { acidIn, sodaForSpill, stockLevels } from './stock.ts';
import { movesBetween, usedByJob } from '../adapters/usedByJob.ts';

const asObject = (sheet: TestJob): Record<string, number> => Object.fromEntries(usedByJob(sheet.job.state));

describe('stock', () => {
  it('is drawn down by a pack once it is pressed on, and given back when that is taken back', () => {
    const sheet = new TestJob().checkIn();
    const before = sheet.job.state;
    expect(asObject(sheet)).to.deep.equal({});
    const on = new TestJob().pressOn();
    expect(asObject(on)).to.deep.equal({ 'pack:P-09': 1 });
    expect(movesBetween(before, on.job.state)).to.deep.equal([{ item: 'pack:P-09', amount: -1 }]);
    const last = on.job.log.at(-1)?.seq ?? 0;
    const filled = on.job.state;
    on.put('undone', { replaces: `#${last}` });
    expect(movesBetween(filled, on.job.state)).to.deep.equal([{ item: 'pack:P-09', amount: 1 }]);
  });

  it('is drawn down by electrolyte and water of a flooded battery', () => {
    const sheet = new TestJob('TQ-F12/14').checkIn().affirm('caps-off', 'vent-plug');
    sheet.measure('electrolyte', { density: 1.265, acidC: 25 }).chambers('fill');
    const used = asObject(sheet);
    // About 9 mL per Ah and cell, as packs hold too.
    expect(used['acid:1.265']).to.be.within(14 * 6 * 7, 14 * 6 * 14);
  });

  it('is low where a spare is all there is, and soda where the largest pack could not be neutralised', () => {
    const levels = stockLevels(CATALOGUE, { 'pack:P-09': 1, 'pack:P-12': 2, soda: 1000 });
    const of = (id: string) => levels.find((level) => level.id === id);
    expect(of('pack:P-09')?.isLow).to.equal(true);
    expect(of('pack:P-12')?.isLow).to.equal(false);
    // P-55: 3 L at 1.30 hold 1.53 kg of acid, which takes 2.6 kg of soda, and a tenth more.
    expect(of('soda')?.lowAt).to.be.within(2800, 3000);
    expect(of('soda')?.isLow).to.equal(true);
  });

  it('of what a shop never had nothing runs low', () => {
    expect(stockLevels(CATALOGUE, {}).filter(({ isLow }) => isLow)).to.deep.equal([]);
    const drawn = stockLevels(CATALOGUE, { soda: -200, water: 100 }, ['water']);
    expect(drawn.filter(({ isLow }) => isLow).map(({ id }) => id)).to.deep.equal(['water']);
  });

  it('reckons a spill: a litre at 1.265 holds 449 g of acid and takes 0.85 kg of soda', () => {
    expect(acidIn(1000, 1.265)).to.be.closeTo(449, 9);
    expect(sodaForSpill(1000, 1.265).sodaG).to.be.closeTo(449 * 1.713 * 1.1, 18);
    expect(() => sodaForSpill(0, 1.265)).to.throw(RangeError, 'must lie above 0');
    expect(() => sodaForSpill(100, 0.9)).to.throw(RangeError);
  });
});
