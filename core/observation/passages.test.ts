import { expect } from 'chai';
import { shownOf } from './shown.ts';
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ProfileError } from '../charge/profile.ts';
import { SOUND } from '../model/battery.ts';
import { makeBattery } from '../model/faults.ts';
import { soundBattery } from '../model/parameters.ts';
import { leastCharge } from '../model/show.ts';
import { candidate } from '../test/candidate.ts';
import { AGM_80, FLOODED_70, subjectOf } from '../test/modelBench.ts';
import { figuresOf } from '../belief/figures.ts';
import { goThrough } from './passages.ts';
import type { Passage } from '../candidate/passage.ts';
import type { Setting } from '../candidate/traits.ts';

const half = () =>
  makeBattery({ parameters: soundBattery(AGM_80), condition: { ...SOUND, charge: 0.5 }, tempC: 21 });
const chargeAfter = (passage: Passage): number => {
  const cells = half();
  goThrough(cells, passage, AGM_80, 21);
  return leastCharge(cells);
};

describe('what is done to a candidate between its readings', () => {
  it('a charge fills it by its ampere-hours, and tells what it showed', () => {
    const cells = half();
    const trace = goThrough(cells, { amps: 8, volts: 14.6, minutes: 120 }, AGM_80, 21);
    expect(leastCharge(cells) - leastCharge(half())).to.be.closeTo(16 / 88, 0.03);
    expect(trace?.at(3600, 'amps')).to.be.closeTo(8, 0.01);
    expect(trace?.at(3600, 'volts')).to.be.within(12.3, 14.6);
  });

  it('a draw empties it', () => {
    expect(chargeAfter({ amps: -8, volts: 0, minutes: 120 })).to.be.lessThan(
      chargeAfter({ amps: 0, volts: 0, minutes: 120 }) - 0.1,
    );
  });

  it('rest takes next to nothing in a day', () => {
    expect(chargeAfter({ amps: 0, volts: 0, minutes: 1440 })).to.be.closeTo(leastCharge(half()), 0.01);
  });

  it('its ceiling is kept, whatever current is set', () => {
    const cells = half();
    const trace = goThrough(cells, { amps: 16, volts: 13.8, minutes: 300 }, AGM_80, 21);
    for (let row = 0; row < (trace?.length ?? 0); row++)
      expect(trace?.value(row, 'volts')).to.be.at.most(13.801);
  });

  it('water put back is there from then on, cell by cell, and never more than was missing', () => {
    const setting: Setting = {
      rating: FLOODED_70,
      history: { construction: 'flooded', ageYears: 6, complaint: 'unknown' },
      tempC: 21,
      passages: [
        { amps: 0, volts: 0, minutes: 0, waterMl: [100, 100, 100, 100, 100, 0] },
        { amps: 0, volts: 0, minutes: 0, waterMl: [0, 0, 0, 0, 0, 5000] },
      ],
    };
    const traits = candidate({ cause: 'dry', charge: 0.6, dryShare: 0.3, cell: 1, severity: 0.5 });
    const found = shownOf(traits, setting);
    const missing = (stage: number): number => figuresOf(traits, setting, found.after(stage)).waterG;
    expect(missing(0) - missing(1)).to.be.closeTo(500, 1);
    expect(missing(2)).to.be.within(0, missing(1));
    expect(found.after(1).density(1)).to.be.below(found.density(1));
    const cranking = (stage: number): number => figuresOf(traits, setting, found.after(stage)).cranking;
    expect(cranking(1)).to.be.greaterThan(cranking(0));
  });

  it('a test leaves the candidate as it stands: it may be asked again', () => {
    const setting: Setting = {
      rating: FLOODED_70,
      history: { construction: 'flooded', ageYears: 2, complaint: 'unknown' },
      tempC: 21,
      passages: [{ amps: 7, volts: 14.6, minutes: 300 }],
    };
    const traits = candidate({ charge: 0.4, dryShare: 0.01, cell: 1, severity: 0.5 });
    const charged = shownOf(traits, setting).after(1);
    const before = charged.ocvV();
    const minutes = charged.reserveMin(25);
    charged.load(210, 15);
    expect(charged.ocvV()).to.equal(before);
    expect(charged.reserveMin(25)).to.equal(minutes);
    expect(charged.ocvV()).to.be.greaterThan(shownOf(traits, setting).ocvV() + 0.1);
  });
});

describe('a charger as a run sheet sets it', () => {
  it('is one stage, held until its clock', () => {
    const plan = heldPlan(4, 14.4, 3600, 'charge', false);
    expect(plan.stages).to.have.length(1);
    expect(plan.stages[0]?.exits).to.deep.equal([{ on: 'time', seconds: 3600, next: 'stop' }]);
  });

  it('never lifts a ceiling: an equalise is refused to an AGM whatever is set', () => {
    expect(() => new ChargeEngine(heldPlan(4, 15.8, 3600, 'equalise', false), subjectOf(AGM_80))).to.throw(
      ProfileError,
      'never equalised',
    );
  });
});
