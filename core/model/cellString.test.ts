import { expect } from 'chai';
import { AGM_80 } from '../test/modelBench.ts';
import { SOUND } from './battery.ts';
import { giveBack, lend, type CellString } from './cellString.ts';
import { draw, postVolts } from './discharge.ts';
import { makeBattery, type Fault } from './faults.ts';
import { soundBattery } from './parameters.ts';
import { OPEN } from './source.ts';
import { stepperOf } from './stepper.ts';

const battery = (charge: number, ...faults: readonly Fault[]): CellString => {
  const cells = makeBattery({ parameters: soundBattery(AGM_80), condition: { ...SOUND, charge }, faults });
  stepperOf(cells).step(OPEN, 1e-3);
  return cells;
};

/** What it is and shows, in numbers. */
const told = (cells: CellString): readonly number[] => [
  postVolts(cells),
  ...cells.groupOf,
  ...cells.counts,
  ...cells.state.values(),
  ...Object.values(cells.p).flatMap((column) => [...column]),
];

describe('a string of cells that is lent', () => {
  const SHORT: Fault = { kind: 'short', cell: 2, ohms: 0.05 };

  it('is the very battery, and what is done to it is not done to the other', () => {
    const owner = battery(0.6, SHORT);
    const before = told(owner);
    const lent = lend(owner);
    expect(told(lent)).to.deep.equal(before);
    draw(lent, 20, 0, 3600);
    expect(told(lent)).to.not.deep.equal(before);
    expect(told(owner)).to.deep.equal(before);
  });

  it('goes on exactly as the other would have', () => {
    const owner = battery(0.6, SHORT);
    const lent = lend(owner);
    expect(draw(lent, 20, 0, 3600)).to.deep.equal(draw(owner, 20, 0, 3600));
    expect(told(lent)).to.deep.equal(told(owner));
  });

  it('given back, its room is another battery with nothing left of it', () => {
    const fresh = told(battery(0.9, { kind: 'weak', cell: 5, share: 0.5 }));
    const used = battery(0.2, SHORT);
    draw(used, 30, 0, 7200);
    giveBack(used);
    const again = battery(0.9, { kind: 'weak', cell: 5, share: 0.5 });
    expect(again, 'the same room').to.equal(used);
    expect(told(again)).to.deep.equal(fresh);
  });
});
