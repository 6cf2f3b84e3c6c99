import { expect } from 'chai';
import fc from 'fast-check';
import { STANDARD_RULES } from '../rules/houseRules.ts';
import { TestJob } from '../test/testJob.ts';
import { typeOf } from '../test/chargeTrial.ts';
import { CHARGERS, misfit } from './chargers.ts';
import type { Charger } from './charger.ts';
import { fitFirstCharge } from './firstChargeFit.ts';
import { chargerRefusal, type ChargeNeed } from './judge.ts';
import { planFor } from './library.ts';

const SLOW: ChargeNeed = {
  construction: 'agm',
  cells: 6,
  askedA: 2.75,
  mostA: 5.5,
  ceilingV: 14.7,
  standsV: 11.8,
  current: 'either',
  fills: true,
  isWatched: false,
};

/** One that suits everything, and what is changed of it. */
const charger = (more: Partial<Charger> = {}): Charger => ({
  id: 'shop',
  name: 'Shop charger',
  kind: 'automatic',
  leastA: 0.5,
  mostA: 8,
  mostV: 14.7,
  nominalV: [6, 12],
  startV: 2,
  efficiency: 0.85,
  because: 'A test.',
  ...more,
});

/** Put on the charge at hand as a person would put it on. */
const start = (sheet: TestJob, by: Charger, currentA: number): TestJob =>
  sheet.put('chargeStarted', { step: sheet.current.key, currentA, charger: by });

describe('the judge of chargers', () => {
  for (const [what, of, need, words] of [
    [
      'only 12 V on a 6 V battery',
      { nominalV: [12] },
      { cells: 3, ceilingV: 7.35 },
      'is for 12 V; this battery has 6 V',
    ],
    ['gel programme on AGM', { modes: ['gel'] }, {}, 'has only a gel programme; that is never for an AGM'],
    ['no programme of its kind', { modes: ['flooded', 'maintain'] }, {}, 'has no AGM programme'],
    [
      'too much at its lowest',
      { leastA: 10, mostA: 20 },
      {},
      'gives 10 A at its lowest; this charge takes 5.5 A at most',
    ],
    [
      'a keeper of 50 mA',
      { leastA: 0.05, mostA: 0.05 },
      {},
      'gives at most 0.05 A where 2.8 A are wanted: it maintains, and never reaches proof of full',
    ],
    ['a voltage that never fills', { mostV: 13.8 }, {}, 'stops at 13.8 V; this battery needs 14.4 V'],
    [
      'a voltage beyond the ceiling',
      { mostV: 15.8 },
      {},
      'goes to 15.8 V by itself; 14.7 V is the most here',
    ],
    [
      'does not see it',
      { startV: 10.5 },
      { standsV: 5.4 },
      'does not see a battery below 10.5 V; this one stands at 5.4 V',
    ],
    ['cannot pulse', { kind: 'bench' }, { current: 'pulsed' }, 'cannot pulse'],
    [
      'only pulses',
      { kind: 'pulse' },
      { current: 'steady' },
      'gives pulses; this charge wants a steady current',
    ],
    [
      'nothing regulates it',
      { kind: 'taper', openV: 15.5, taperOhm: 0.3 },
      { isWatched: true },
      'would push 12.3 A at the start; this charge takes 5.5 A at most',
    ],
    [
      'nothing switches it off',
      { kind: 'taper', mostV: 15.5, openV: 15.5, taperOhm: 2 },
      {},
      'goes to 15.5 V by itself; 14.7 V is the most here',
    ],
  ] as const satisfies readonly (readonly [string, Partial<Charger>, Partial<ChargeNeed>, string])[])
    it(`refuses in one sentence: ${what}`, () => {
      expect(
        chargerRefusal(charger(), { ...SLOW, ...need, ...(need.current ? { current: 'either' } : {}) }) ?? '',
      ).not.to.include(words);
      expect(chargerRefusal(charger(of), { ...SLOW, ...need })).to.equal(`Shop charger: ${words}.`);
    });

  it('is asked of first charges, of every way and in What-if alike', () => {
    const keeper = charger({ leastA: 0.05, mostA: 0.3 });
    const first = fitFirstCharge(keeper, {
      type: typeOf('BK-A12/55'),
      setA: 5.5,
      ceilingV: 14.7,
      rules: STANDARD_RULES,
    });
    expect('reason' in first && first.reason).to.include('gives at most 0.30 A');
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.8).route('slow-charge');
    expect(() => start(sheet, keeper, 0.3)).to.throw('gives at most 0.30 A');
    const subject = { construction: 'agm', cells: 6, capacityAh: 55 } as const;
    expect(misfit(keeper, planFor('slow', subject), subject, 11.8)).to.include('gives at most 0.30 A');
  });

  it('mistake: a 12 V charger on a 6 V battery, and a gel programme on AGM. The record of a recovery refuses them', () => {
    const six = (): TestJob =>
      new TestJob('LW-A6/12', {}, undefined, 'recover-agm').triage(5.9).route('slow-charge');
    expect(() => start(six(), charger({ nominalV: [12] }), 0.6)).to.throw(
      'is for 12 V; this battery has 6 V',
    );
    expect(start(six(), charger(), 0.6).current.charge?.currentA).to.equal(0.6);
    const agm = (): TestJob =>
      new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(11.8).route('slow-charge');
    expect(() => start(agm(), charger({ modes: ['gel'] }), 2.75)).to.throw('only a gel programme');
  });

  it('after a wake an automatic charger is judged by the newest reading, not by the one it came with', () => {
    const sheet = new TestJob('BK-A12/55', { wakeMethod: 'donor' }, undefined, 'recover-agm').triage(5.4);
    sheet
      .route('donor-wake')
      .measure('donor-check', { donorV: 12.7 })
      .affirm('donor-polarity', 'donor-leads');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 8 }).wait(60);
    sheet.put('chargeEnded', { step: sheet.current.key, fullSignal: false }).affirm('donor-off').wait(11);
    sheet.measure('donor-read', { ocvV: 11.3 }).wait(21).measure('donor-read-late', { ocvV: 11.25 });
    const automatic = charger({ startV: 10.5, leastA: 2 });
    expect(start(sheet.route('slow-charge'), automatic, 2.75).current.charge?.charger?.id).to.equal('shop');
  });

  it('never lets through what gives more than may be set, less than is wanted, or another voltage, whatever its make', () => {
    fc.assert(
      fc.property(
        fc.record({
          kind: fc.constantFrom('programmable', 'bench', 'automatic', 'taper', 'pulse'),
          leastA: fc.double({ min: 0, max: 20, noNaN: true }),
          spanA: fc.double({ min: 0, max: 20, noNaN: true }),
          mostV: fc.double({ min: 12, max: 17, noNaN: true }),
          startV: fc.double({ min: 0, max: 12, noNaN: true }),
          nominalV: fc.constantFrom([6], [12], [6, 12]),
        }),
        fc.constantFrom(3, 6),
        ({ spanA, ...made }, cells) => {
          const one = charger({ ...made, mostA: made.leastA + spanA } as Partial<Charger>);
          const need = { ...SLOW, cells, ceilingV: (14.7 * cells) / 6, standsV: (11.8 * cells) / 6 };
          if (chargerRefusal(one, need) !== undefined) return;
          expect(one.nominalV).to.include(cells * 2);
          expect(one.leastA).to.be.at.most(need.mostA * 1.05);
          expect(one.mostA).to.be.at.least(need.askedA * 0.4);
          expect(one.startV).to.be.at.most(11.8);
          if (one.kind === 'automatic') expect(one.mostV).to.be.within(14.4, 15);
        },
      ),
      { seed: 13 },
    );
  });

  it('suits some charger of the demo shop for every slow charge of its batteries', () => {
    expect(
      CHARGERS.filter((one) => chargerRefusal(one, SLOW) === undefined).map(({ id }) => id),
    ).to.include.members(['supply', 'bench']);
  });
});
