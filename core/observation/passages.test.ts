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
import { Way } from './passages.ts';
import type { Passage } from '../candidate/passage.ts';
import { batteryFrom } from '../candidate/piece.ts';
import type { Setting, Traits } from '../candidate/traits.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { postVolts, rest } from '../model/discharge.ts';

const half = () =>
  makeBattery({ parameters: soundBattery(AGM_80), condition: { ...SOUND, charge: 0.5 }, tempC: 21 });
const chargeAfter = (passage: Passage): number => {
  const cells = half();
  new Way(cells, passage, AGM_80, 21).toEnd();
  return leastCharge(cells);
};

describe('what is done to a candidate between its readings', () => {
  it('a charge fills it by its ampere-hours, and tells what it showed', () => {
    const cells = half();
    const way = new Way(cells, { amps: 8, volts: 14.6, minutes: 120 }, AGM_80, 21);
    expect(way.onCharge(60, 'amps')).to.be.closeTo(8, 0.01);
    expect(way.onCharge(60, 'volts')).to.be.within(12.3, 14.6);
    expect(leastCharge(cells) - leastCharge(half()), 'as far as it was asked for').to.be.closeTo(
      8 / 88,
      0.02,
    );
    way.toEnd();
    expect(leastCharge(cells) - leastCharge(half())).to.be.closeTo(16 / 88, 0.03);
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
    const way = new Way(cells, { amps: 16, volts: 13.8, minutes: 300 }, AGM_80, 21);
    for (let minute = 0; minute <= 300; minute += 2)
      expect(way.onCharge(minute, 'volts'), `${minute} min`).to.be.at.most(13.801);
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

describe('steps of a candidate’s passages', () => {
  const PASSAGES: readonly Passage[] = [
    { amps: 4, volts: 14.6, minutes: 1440 },
    { amps: 0, volts: 0, minutes: 1440 },
    { amps: 0, volts: 0, minutes: 7 * 1440 },
  ];
  const FOUND: readonly (readonly [name: string, traits: Partial<Traits>])[] = [
    ['empty', { charge: 0.2 }],
    ['sulfated', { cause: 'sulfated-moderate', charge: 0.3, hardShare: 0.4, film: 0.01 }],
    ['dried out, and one cell behind', { cause: 'dry', charge: 0.5, dryShare: 0.3, low: 0.1, lowHard: 0.5 }],
    ['a leaking cell', { cause: 'shorted-cell', charge: 0.6, severity: 0.9 }],
  ];

  for (const [name, found] of FOUND)
    it(`${name}: as coarse as they are, they end where fine ones end`, () => {
      const setting: Setting = {
        rating: AGM_80,
        history: { construction: 'agm', ageYears: 4, complaint: 'unknown' },
        tempC: 21,
      };
      const coarse = batteryFrom(candidate(found), setting);
      const fine = batteryFrom(candidate(found), setting);
      fine.ambientC = 21;
      const engine = new ChargeEngine(heldPlan(4, 14.6, 1440 * 60, 'wake', false), AGM_80);
      const run = new ModelRun(fine, engine, { hasProbe: false });
      run.runUntil(1440 * 60);
      const [charge, ...rests] = PASSAGES;
      if (!charge) throw new Error('no charge');
      const way = new Way(coarse, charge, AGM_80, 21);
      for (const minute of [60, 480, 1200]) {
        expect(way.onCharge(minute, 'volts'), `${minute} min, V`).to.be.closeTo(
          run.trace.at(minute * 60, 'volts'),
          0.02,
        );
        expect(way.onCharge(minute, 'amps'), `${minute} min, A`).to.be.closeTo(
          run.trace.at(minute * 60, 'amps'),
          0.05,
        );
        expect(way.onCharge(minute, 'tempC')).to.be.closeTo(run.trace.at(minute * 60, 'tempC'), 0.3);
      }
      way.toEnd();
      for (const passage of rests) {
        new Way(coarse, passage, AGM_80, 21).toEnd();
        rest(fine, passage.minutes * 60);
        expect(postVolts(coarse), 'at rest').to.be.closeTo(postVolts(fine), 0.002);
        expect(leastCharge(coarse)).to.be.closeTo(leastCharge(fine), 0.002);
      }
    });

  it('rests in the room it is charged in, however cold it came in', () => {
    const cells = half();
    cells.ambientC = 2;
    new Way(cells, { amps: 0, volts: 0, minutes: 3 * 1440 }, AGM_80, 21).toEnd();
    expect(cells.tempOf(0)).to.be.closeTo(21, 0.1);
  });
});
