import { expect } from 'chai';
import { candidate } from '../test/candidate.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { dischargeAt, type UnderLoad } from './quickTests.ts';
import { shownOf, type Shown } from './shown.ts';
import { logLikelihood } from './likelihood.ts';
import type { Reading } from './readings.ts';
import type { Setting, Traits } from '../candidate/traits.ts';

const agm: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 3, complaint: 'unknown' },
  tempC: 25,
};
const flooded: Setting = {
  rating: FLOODED_70,
  history: { construction: 'flooded', ageYears: 3, complaint: 'unknown' },
  tempC: 25,
};

const traits = (more: Partial<Traits> = {}): Traits => candidate({ charge: 0.7, ...more });

const load = (truth: Traits, setting: Setting): UnderLoad =>
  shownOf(truth, setting).load(3 * setting.rating.capacityAh, 15);

describe('a load test, watched from its first second to a minute after', () => {
  for (const setting of [agm, flooded]) {
    const { construction } = setting.rating;

    it(`${construction}: a sound one falls at once, sags little, and comes back to where it stood`, () => {
      const { firstV, lowestV, backV } = load(traits(), setting);
      const rested = shownOf(traits(), setting).ocvV();
      expect(rested - firstV).to.be.greaterThan(0.5);
      expect(firstV - lowestV).to.be.within(0, 0.3);
      expect(rested - backV).to.be.within(0, 0.1);
    });

    it(`${construction}: an empty one holds at first and gives out; a film takes its volts at once and holds`, () => {
      const empty = load(traits({ charge: construction === 'agm' ? 0.02 : -0.07 }), setting);
      const filmed = load(traits({ cause: 'sulfated-moderate', film: 2e-3, charge: 0.6 }), setting);
      expect(empty.firstV - empty.lowestV).to.be.greaterThan(
        2 * Math.max(0.05, filmed.firstV - filmed.lowestV),
      );
      expect(filmed.firstV).to.be.lessThan(load(traits({ charge: 0.6 }), setting).firstV - 0.3);
    });

    it(`${construction}: through an open cell nothing flows, and nothing was lost by trying`, () => {
      const open = traits({ cause: 'open-cell', severity: 0.9 });
      const { firstV, lowestV, backV } = load(open, setting);
      expect([firstV, lowestV]).to.deep.equal([0, 0]);
      expect(backV).to.be.closeTo(shownOf(open, setting).ocvV(), 0.1);
    });
  }

  it('a weak cell drags the rest down and does not spring back with them', () => {
    const weak = traits({ cause: 'weak-cell', charge: 0.12, severity: 0 });
    const tired = load(weak, agm);
    const sound = load(traits({ charge: 0.12 }), agm);
    expect(tired.lowestV).to.be.lessThan(sound.lowestV - 0.5);
    expect(tired.backV).to.be.lessThan(sound.backV - 0.1);
  });

  it('is the same when it is asked again: a test leaves the candidate as it stands', () => {
    const shown = shownOf(traits(), agm);
    const first = shown.load(240, 15);
    shown.discharge(25);
    expect(shown.load(240, 15)).to.deep.equal(first);
  });
});

describe('a discharge to its end', () => {
  it('gives by Peukert’s law less at more current (k from 1.05 to 1.3, Peukert 1897)', () => {
    const shown = shownOf(traits({ charge: 1 }), agm);
    const [slow, fast] = [shown.discharge(4), shown.discharge(25)];
    const k = Math.log(slow.endMin / fast.endMin) / Math.log(25 / 4);
    expect(k).to.be.within(1.05, 1.3);
  });

  it('runs forwards in time, and is read between its steps', () => {
    const discharge = shownOf(traits(), flooded).discharge(25);
    const { minutes, volts } = discharge;
    for (let step = 1; step < minutes.length; step++)
      expect(minutes[step]).to.be.greaterThan(minutes[step - 1] as number);
    const middle = Math.floor(minutes.length / 2);
    const [t0 = 0, t1 = 0] = [minutes[middle], minutes[middle + 1]];
    const [v] = dischargeAt(discharge, (t0 + t1) / 2);
    expect(v).to.be.closeTo(((volts[middle] ?? 0) + (volts[middle + 1] ?? 0)) / 2, 1e-9);
  });

  it('an open cell gives nothing', () => {
    expect(shownOf(traits({ cause: 'open-cell', severity: 0.9 }), agm).reserveMin(25)).to.equal(0);
  });
});

describe('a candidate on its charge, caps off', () => {
  const charging: Setting = { ...flooded, passages: [{ amps: 7, volts: 14.4, minutes: 600 }] };
  const CELLS = [1, 2, 3, 4, 5, 6];

  it('gases in every cell once it fills, and in none before', () => {
    const sound = shownOf(traits({ charge: 0.6 }), charging);
    expect(CELLS.map((cell) => sound.at({ midway: 5 }).bubbles(cell))).to.deep.equal(CELLS.map(() => 'none'));
    for (const cell of CELLS)
      expect(sound.at({ midway: 210 }).bubbles(cell), `cell ${cell}`).not.to.equal('none');
  });

  it('a shorted cell is the warmest while the others fill, silent throughout, and the coolest once they gas', () => {
    const shorted = shownOf(traits({ cause: 'shorted-cell', charge: 0.6, cell: 3, severity: 0.5 }), charging);
    const [filling, gassing] = [shorted.at({ midway: 60 }), shorted.at({ midway: 300 })];
    for (const stage of [filling, gassing]) expect(stage.bubbles(3)).to.equal('none');
    for (const cell of [1, 2, 4, 5, 6]) {
      expect(gassing.bubbles(cell), `cell ${cell}`).to.equal('lively');
      expect(filling.warmthC(3)).to.be.greaterThan(filling.warmthC(cell) + 1);
      expect(gassing.warmthC(3)).to.be.lessThan(gassing.warmthC(cell) - 1);
    }
  });

  it('so silence and warmth speak for it, and would not at rest', () => {
    const sound = shownOf(traits({ charge: 0.6 }), charging);
    const shorted = shownOf(traits({ cause: 'shorted-cell', charge: 0.6, cell: 3, severity: 0.9 }), charging);
    const odds = (...readings: Reading[]): number =>
      readings.reduce(
        (sum, one) => sum + logLikelihood(one, shorted, charging) - logLikelihood(one, sound, charging),
        0,
      );
    const bubbles = CELLS.map((cell): Reading => ({
      kind: 'bubbles',
      cell,
      bubbles: cell === 3 ? 'none' : 'few',
    }));
    expect(odds(...bubbles.map((one) => ({ ...one, midway: 240 })))).to.be.greaterThan(0.7);
    expect(odds(...bubbles)).to.be.closeTo(0, 1e-9);
    const warmth = (shows: Shown): Reading => ({
      kind: 'warmth',
      cells: CELLS.map((cell) => ({ cell, tempC: shows.at({ midway: 90 }).warmthC(cell) })),
      midway: 90,
    });
    expect(odds(warmth(shorted))).to.be.greaterThan(2);
    expect(odds(warmth(sound))).to.be.lessThan(-2);
  });

  it('stands where its trace says, and shows a rested voltage once the charger is off', () => {
    const sound = shownOf(traits({ charge: 0.6 }), charging);
    const midway = sound.at({ midway: 120 });
    expect(midway.ocvV()).to.be.lessThan(sound.onCharge(120, 'volts'));
    expect(midway.ocvV()).to.be.greaterThan(sound.ocvV());
    expect(midway.ohm()).to.be.closeTo(12.75 / midway.testerA() / 5, 5e-4);
  });
});
