import { expect } from 'chai';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { SOUND } from './battery.ts';
import type { CellString } from './cellString.ts';
import { postVolts, rest } from './discharge.ts';
import { makeBattery } from './faults.ts';
import { soundBattery } from './parameters.ts';
import { changeFor, OPEN } from './source.ts';
import { Stepper } from './stepper.ts';

const battery = (charge = 0.5, rating = AGM_80): CellString =>
  makeBattery({ parameters: soundBattery(rating), condition: { ...SOUND, charge } });

describe('one step', () => {
  it('holds the current it is told', () => {
    const cells = battery();
    const stepper = new Stepper(cells);
    for (const amps of [8, -20, 0, 0.3]) {
      expect(stepper.step({ hold: 'current', amps }, 30)).to.equal(true);
      expect(cells.currentA).to.be.closeTo(amps, 1e-9);
    }
  });

  it('holds the voltage it is told, as the case warms', () => {
    const cells = battery(0.9);
    const stepper = new Stepper(cells);
    stepper.step({ hold: 'current', amps: 8 }, 60);
    for (let minute = 0; minute < 30; minute++)
      stepper.step({ hold: 'voltage', voltsAt: (caseC) => 14.4 - 0.024 * (caseC - 25) }, 60);
    expect(postVolts(cells)).to.be.closeTo(14.4 - 0.024 * (cells.tempOf(0) - 25), 1e-4);
  });

  it('meets a source behind a resistance where the two lines cross', () => {
    const cells = battery();
    const stepper = new Stepper(cells);
    stepper.step({ hold: 'resistance', volts: 15.5, ohms: 0.8 }, 60);
    expect(postVolts(cells)).to.be.closeTo(15.5 - 0.8 * cells.currentA, 1e-4);
    expect(cells.currentA).to.be.above(1);
  });

  it('undone, leaves no trace', () => {
    const cells = battery();
    rest(cells, 60);
    const before = cells.state.values();
    const stepper = new Stepper(cells);
    stepper.step({ hold: 'current', amps: 30 }, 600);
    expect(cells.state.values()).not.to.deep.equal(before);
    stepper.undo();
    expect(cells.state.values()).to.deep.equal(before);
    expect(cells.currentA).to.equal(0);
  });

  it('gives up on what has no solution, and leaves the state alone', () => {
    const cells = makeBattery({ parameters: soundBattery(AGM_80), faults: [{ kind: 'open', cell: 1 }] });
    const before = cells.state.values();
    expect(new Stepper(cells).step({ hold: 'current', amps: 1e5 }, 3600)).to.equal(false);
    expect(cells.state.values()).to.deep.equal(before);
  });

  it('is of second order: half the step, a quarter of the error', () => {
    const end = (stepS: number): number => {
      const cells = battery(0.5, FLOODED_70);
      const stepper = new Stepper(cells);
      for (let atS = 0; atS < 7200; atS += stepS) stepper.step({ hold: 'current', amps: 7 }, stepS);
      return postVolts(cells);
    };
    const exact = end(15);
    const coarse = Math.abs(end(720) - exact);
    const fine = Math.abs(end(360) - exact);
    expect(coarse / fine).to.be.within(2.5, 8);
  });
});

describe('two batteries on one pair of leads', () => {
  it('share a voltage, and divide the charger’s current', () => {
    const full = battery(1);
    const low = battery(0.3);
    const stepper = new Stepper(full, low);
    for (let second = 0; second < 60; second++) stepper.step({ hold: 'current', amps: 6 }, 1);
    expect(postVolts(full)).to.be.closeTo(postVolts(low), 1e-4);
    expect(full.currentA + low.currentA).to.be.closeTo(6, 1e-6);
    expect(low.currentA).to.be.above(6);
    expect(full.currentA).to.be.below(0);
  });

  it('alike, take half each', () => {
    const one = battery(0.6);
    const other = battery(0.6);
    const stepper = new Stepper(one, other);
    stepper.step({ hold: 'current', amps: 10 }, 60);
    expect(one.currentA).to.be.closeTo(5, 1e-4);
    expect(other.currentA).to.be.closeTo(5, 1e-4);
  });
});

describe('a source', () => {
  it('answers a battery that answers linearly', () => {
    expect(changeFor(OPEN, 25, 3, 12, 0.01)).to.equal(-3);
    expect(changeFor({ hold: 'voltage', voltsAt: () => 14.4 }, 25, 0, 14.3, 0.05)).to.be.closeTo(2, 1e-9);
    // 15 V behind 1 Ω into 12 V and 0.5 Ω: 2 A.
    expect(changeFor({ hold: 'resistance', volts: 15, ohms: 1 }, 25, 0, 12, 0.5)).to.be.closeTo(2, 1e-9);
  });
});
