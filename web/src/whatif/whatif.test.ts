import { expect } from 'chai';
import { CATALOGUE, LISTED } from '@cork-ember/core/demo/catalogue.ts';
import { TestJob } from '@cork-ember/core/test/testJob.ts';
import type { Outcome } from '@cork-ember/core/whatif/answer.ts';
import { knownBattery, knownByHand, knownType } from './choice.ts';
import { markOf, MARKS } from './marks.ts';
import { csvOf } from './csv.ts';
import { QUANTITIES, valueAt } from './quantities.ts';

const outcome: Outcome = {
  seconds: [0, 3600, 7200],
  columns: {
    volts: [12.4, 13, 14.4],
    amps: [8, 8, 2],
    hottestC: [21, 24, 26],
    chargeShare: [0.3, 0.5, 0.9],
    density: [1.16, 1.2, 1.26],
    gasL: [0, 0, 0.4],
    waterLostG: [0, 0, 0.3],
  },
  stages: [{ atS: 0, name: 'Bulk' }],
  ended: 'full',
  because: '',
  atS: 7200,
  chargedAh: 14,
  mainsWh: 240,
  cost: 0.07,
  waterG: 0.3,
  hottestC: 26,
  endCharge: 0.9,
  hardLeft: 0,
  hardAtStart: 0,
  risks: [],
};

describe('What-if figures', () => {
  it('are read straight between points, and not at all after the end', () => {
    expect(valueAt(outcome, 'volts', 0)).to.equal(12.4);
    expect(valueAt(outcome, 'volts', 1800)).to.be.closeTo(12.7, 1e-9);
    expect(valueAt(outcome, 'volts', 7200)).to.equal(14.4);
    expect(valueAt(outcome, 'volts', 7300)).to.equal(undefined);
    expect(valueAt({ ...outcome, seconds: [] }, 'volts', 0)).to.equal(undefined);
  });

  it('are saved as CSV, a row for each point of each plan, in the units shown', () => {
    const plan = { name: 'Tenth, by the clock', charger: 'Programmable supply', outcome };
    const lines = csvOf('LW-A12/9 · AGM 12 V 9 Ah', [
      { index: 0, ...plan },
      { index: 2, ...plan },
    ]).split('\r\n');
    expect(lines).to.have.length(7);
    expect(lines[0]).to.equal(
      'battery,plan,name,charger,hours,Voltage (V),Current (A),Hottest cell (°C),"Charge, weakest cell (%)",Acid density at 25 °C (kg/L),Hydrogen given off (L),Water lost (mL)',
    );
    expect(lines[2]).to.equal(
      'LW-A12/9 · AGM 12 V 9 Ah,A,"Tenth, by the clock",Programmable supply,1.0000,13.000,8.000,24.00,50.0,1.2000,0.00,0.00',
    );
    expect(lines[6]).to.match(/,C,"Tenth, by the clock",Programmable supply,2.0000,14.400/);
  });

  it('each have a unit, and each plan a letter, a colour and a stroke of its own', () => {
    for (const { unit, decimals } of QUANTITIES) {
      expect(unit).to.match(/\S/);
      expect(decimals).to.be.within(0, 3);
    }
    expect(new Set(MARKS.map(({ colour }) => colour)).size).to.equal(MARKS.length);
    expect(new Set(MARKS.map(({ dash }) => dash)).size).to.equal(MARKS.length);
    expect(markOf(1).letter).to.equal('B');
    expect(markOf(9).letter).to.equal('?');
  });
});

describe('the battery in question', () => {
  const type = CATALOGUE.find(({ id }) => id === 'LW-A12/9');
  if (!type) throw new Error('no such type');
  const battery = {
    tag: 'SK-0200',
    typeId: type.id,
    serial: '',
    dateCode: '2025-03',
    owner: 'stock',
    jobs: [],
  };
  const yearLater = Date.parse('2026-03-15T00:00:00Z');

  it('described by hand, is no more than its kind, voltage and capacity', () => {
    const known = knownByHand({
      construction: 'flooded',
      duty: 'starter',
      cells: 3,
      capacityAh: 11,
    });
    expect(known.name).to.equal('Flooded 6 V 11 Ah');
    expect(known.rating).to.deep.equal({
      construction: 'flooded',
      duty: 'starter',
      cells: 3,
      capacityAh: 11,
      hourRate: 20,
    });
    expect(known.condition).to.deep.equal({});
    expect(
      knownByHand({ construction: 'agm', duty: 'starter', cells: 6, capacityAh: Number.NaN }).name,
    ).to.equal('AGM 12 V');
  });

  it('a lithium battery is refused with its sentence, by its type and by its tag', () => {
    const lithium = LISTED.find(({ construction }) => construction === 'lithium');
    if (!lithium) throw new Error('no lithium battery');
    for (const known of [knownType(lithium), knownBattery(battery, lithium, undefined, yearLater)])
      expect(known.refusal).to.match(/^A lithium battery is not taken/);
    expect(knownType(type).refusal).to.equal(undefined);
  });

  it('of a type, brings its acid and its rating', () => {
    expect(knownType(type).rating).to.include({ acidDensity: 1.32, crankingA: 130, crankingStandard: 'EN' });
  });

  it('of the shop, is as charged as its stock is old, until it was measured', () => {
    const byAge = knownBattery(battery, type, undefined, yearLater);
    expect(byAge.condition.charge).to.be.closeTo(0.75, 0.01);
    expect(byAge.because).to.equal('Filled and soaked, stock of 12 months.');
    const soaked = new TestJob('LW-A12/9').soak(12.3).job;
    const measured = knownBattery(battery, type, soaked, yearLater);
    expect(measured.condition.charge).to.be.closeTo(0.42, 0.02);
    expect(measured.because).to.equal('12.30 V after its soak.');
  });
});
