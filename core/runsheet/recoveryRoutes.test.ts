/** Each way back by itself: its steps in order, its limits, and what ends it. */
import { expect } from 'chai';
import { CHARGERS } from '../charge/chargers.ts';
import { courseOf } from '../belief/fromJob.ts';
import { brought, end, start, treatmentAtHand } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { forecast } from './forecast.ts';
import { handsOf } from './hands.ts';
import { atHand } from './atHand.ts';
import { describeEvent } from './describe.ts';
import { agmDoseMl } from './procedures/recovery/waterBack.ts';
import { contextOf, definitionOf, procedureOf } from './state.ts';
import type { HouseRules } from './houseRules.ts';
import type { MeasureStep } from './step.ts';

const DAY = 24 * 60;
const MINUTE = 60_000;

describe('high, then low', () => {
  const high = (): TestJob =>
    brought('BK-F12/70', { firstHours: 'highLow' }).triage(10.9).route('high-then-low');

  const seen = (sheet: TestJob, of: Record<number, 'silent' | 'hot'> = {}): Record<string, string> =>
    sheet.eachCell('cell', (cell) => of[cell] ?? 'bubbling');
  const bite = (sheet: TestJob, minutes = 15): TestJob => end(start(sheet, 15).wait(minutes));

  it('goes in bites of a quarter of an hour, looks at every cell, then goes gently', () => {
    const sheet = high();
    expect(treatmentAtHand(sheet)).to.include({ setA: 17.5, dueMin: 15, mostMin: 20 });
    start(sheet, 17).wait(15).read(12.9, 17, 26);
    end(sheet).measure('bite-cells', seen(sheet));
    bite(sheet).measure('bite-cells-two', seen(sheet));
    expect(treatmentAtHand(sheet)).to.include({ setA: 5, mostA: 5 });
  });

  it('all awake only after the second bite: ten minutes more, caps laid on, then low', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    bite(sheet).measure('bite-cells-two', seen(sheet));
    expect(sheet.current.stepId).to.equal('bite-last');
    expect(treatmentAtHand(sheet)).to.include({ dueMin: 10, mostMin: 15 });
    expect(bite(sheet, 10).current.stepId).to.equal('low');
  });

  it('one silent cool cell after two bites may be the last to wake: ten minutes more, not the end', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    bite(sheet).measure('bite-cells-two', seen(sheet, { 3: 'silent' }));
    expect(sheet.current.stepId).to.equal('bite-three');
    expect(bite(sheet, 10).measure('bite-cells-three', seen(sheet)).current.stepId).to.equal('low');
  });

  it('a bite left on is called out after twenty minutes', () => {
    const sheet = start(high(), 17).wait(28).read(13.4, 17, 30);
    expect(sheet.current.why).to.include('h at most');
  });

  it('a cell that stays silent through a third bite ends it', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    bite(sheet).measure('bite-cells-two', seen(sheet, { 3: 'silent' }));
    bite(sheet, 10).measure('bite-cells-three', seen(sheet, { 3: 'silent' }));
    expect(sheet.current.why).to.include('Cell 3 silent after a third bite: shorted or dead');
    expect(sheet.current.canOverride).to.equal(false);
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'cell 3 is dead' });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('a cell that heats ends it at once, and no reason passes over it', () => {
    const sheet = bite(high());
    sheet.measure('bite-cells', seen(sheet, { 5: 'hot' }));
    expect(sheet.current.why).to.include('Cell 5 heats on charge: shorted');
    expect(() => sheet.put('overridden', { step: sheet.current.key, reason: 'it is only warm' })).to.throw(
      'must be met',
    );
  });

  it('every cell is asked for, and what was seen reaches the belief as it was on charge', () => {
    const sheet = bite(high());
    expect(() => sheet.measure('bite-cells', { cell1: 'bubbling' })).to.throw('Seen, cell 2: choose bubbles');
    sheet.measure('bite-cells', seen(sheet, { 3: 'silent' }));
    const bubbles = courseOf(sheet.job.state).readings.filter(({ kind }) => kind === 'bubbles');
    expect(bubbles).to.have.length(6);
    expect(bubbles[2]).to.deep.include({ cell: 3, bubbles: 'none', midway: 15 });
  });
});

describe('constant current', () => {
  it('says at its end that this is not full, and what goes on', () => {
    for (const [typeId, ends] of [
      ['BK-F12/70', '14.50 V'],
      ['TQ-F6/11', '7.25 V'],
    ] as const) {
      const sheet = brought(typeId)
        .triage(typeId.includes('6/') ? 6 : 12)
        .route('constant-current');
      expect(treatmentAtHand(sheet).done).to.equal(
        `${ends} reached, which is not full: off, read it rested, then the slow charge goes on.`,
      );
    }
  });

  it('is done at 14.5 V, and a fifth of capacity is the most it may be set to', () => {
    const sheet = brought('BK-F12/70').triage(11.8).route('constant-current');
    expect(() => start(sheet, 15)).to.throw('outside 0.70 to 14.00 A');
    start(sheet, 7).wait(120).read(13.2, 7, 24).wait(240).read(14.49, 7, 29);
    expect(atHand(sheet.job.state, sheet.now)?.phase).to.equal('complete');
    end(sheet)
      .wait(6)
      .affirm('current-clips')
      .closed('current')
      .wait(60)
      .measure('after-charge', { ocvV: 12.6, tempC: 22 });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('is off after twelve hours whatever it reads', () => {
    const sheet = start(brought('BK-F12/70').triage(11.8).route('constant-current'), 7);
    sheet.wait(12 * 60 + 10).read(14.1, 7, 30);
    expect(sheet.current.why).to.include('expected 12 h at most');
  });
});

describe('long soak', () => {
  it('is held a tenth lower the first time than the second, and not a third time', () => {
    const sheet = brought('BK-A12/55').triage(12.2);
    for (const volts of [14.7, 14.9]) {
      sheet.route('long-soak');
      expect(treatmentAtHand(sheet).ceilingV).to.be.closeTo(volts, 1e-9);
      end(start(sheet, 5.5).wait(16 * 60 + 1));
      sheet
        .wait(6)
        .affirm('soak-clips')
        .wait(3 * DAY)
        .measure('after-charge', { ocvV: 12.7, tempC: 21 });
    }
    expect(() => sheet.route('long-soak')).to.throw('Soaked twice already');
  });

  it('its days of rest may be cut short only with a reason', () => {
    const sheet = brought('BK-A12/55').triage(12.2).route('long-soak');
    end(start(sheet, 5.5).wait(16 * 60 + 1))
      .wait(6)
      .affirm('soak-clips');
    expect(() => sheet.measure('after-charge', { ocvV: 12.7, tempC: 21 })).to.throw('not open yet');
    sheet.put('overridden', { step: 'soak-rest#1', reason: 'the ferry cannot wait' });
    expect(sheet.current.stepId).to.equal('after-charge');
  });
});

describe('equalise', () => {
  const spread = [1.24, 1.24, 1.2, 1.24, 1.24, 1.24];
  const expert: Partial<HouseRules> = { equalise: 'expert' };

  /** Charged to full here, and every cell read after it. */
  const charged = (densities: readonly number[]): TestJob => {
    const sheet = brought('BK-F12/70', expert).triage(12.5, { densities: spread }).slowCharge(12.7);
    densities.forEach((density, index) =>
      sheet.put('evidenced', { reading: { kind: 'density', cell: index + 1, density, tempC: 25 } }),
    );
    return sheet;
  };
  const onEqualise = (): TestJob => start(charged(spread).route('equalise').affirm('equalise-expert'), 2.8);
  const look = (sheet: TestJob, cellDensities: readonly number[], tempC = 25): TestJob =>
    sheet.put('chargeRead', {
      step: sheet.current.key,
      values: { voltageV: 15.6, currentA: 2.8, tempC, cellDensities },
      source: 'meter',
    });

  it('wants an expert, a level above the plates, and is over in four hours', () => {
    const sheet = charged(spread).route('equalise');
    sheet.put('denied', { step: sheet.current.key, denial: 'level-low' });
    expect(sheet.current.status).to.equal('held');
    sheet.affirm('equalise-expert');
    expect(treatmentAtHand(sheet)).to.include({ hotC: 45, mostMin: 240 });
    expect(treatmentAtHand(sheet).ceilingV).to.be.closeTo(15.8, 1e-9);
    start(sheet, 2.8).wait(60).read(15.6, 2.8, 46);
    expect(sheet.current.why).to.include('45 °C is the limit.');
  });

  it('is done once three hourly densities of every cell are alike, not before', () => {
    const sheet = onEqualise();
    const even = spread.map(() => 1.262);
    const phase = (): unknown => atHand(sheet.job.state, sheet.now)?.phase;
    look(sheet.wait(10), spread);
    for (const minutes of [15, 10, 10, 40]) look(sheet.wait(minutes), even);
    expect(phase()).to.equal('running');
    look(sheet.wait(60), even);
    expect(phase()).to.equal('complete');
  });

  it('a density of every cell is one for each, and possible', () => {
    const sheet = onEqualise().wait(60);
    expect(() => look(sheet, [1.24, 1.25])).to.throw('6 are needed, 2 came');
    expect(() => look(sheet, [1.24, 1.24, 1.24, 1.24, 1.24, 1.9])).to.throw('Density, cell 6');
  });

  it('cells that differ before a charge are no reason; after one those alike or too far apart want one', () => {
    expect(() => brought('BK-F12/70', expert).triage(12.5, { densities: spread }).route('equalise')).to.throw(
      'say nothing of their acid: charge it to full',
    );
    expect(() => charged(spread.map(() => 1.26)).route('equalise')).to.throw('nothing to even out');
    expect(() => charged([1.25, 1.25, 1.15, 1.25, 1.25, 1.25]).route('equalise')).to.throw(
      'more likely a bad cell',
    );
    expect(charged(spread).route('equalise').current.stepId).to.equal('equalise-expert');
  });
});

describe('layered acid', () => {
  const round = (sheet: TestJob, density: number): TestJob => {
    end(start(sheet, 3.5).wait(120)).wait(6).affirm('mix-clips');
    return sheet.measure('mix-density', { ...sheet.eachCell('density', () => density), acidC: 25 });
  };

  it('is mixed round after round until three are alike within 0.010, then closed', () => {
    const sheet = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    for (const density of [1.2, 1.23, 1.25, 1.258]) {
      round(sheet, density);
      expect(sheet.current.stepId, `after ${density}`).to.equal('mix');
    }
    round(sheet, 1.26);
    expect(sheet.current.stepId).to.equal('mix-to-line');
    sheet.closed('mix');
    expect(sheet.current.stepId).to.equal('choose-route');
    expect(sheet.job.state.routes?.map(({ route }) => route)).to.deep.equal([
      'slow-charge',
      ...Array.from({ length: 5 }, () => 'layered'),
    ]);
  });

  it('eight rounds are the most, and a route that is left goes no further round', () => {
    const sheet = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    for (let times = 0; times < 8; times++) round(sheet, times % 2 === 0 ? 1.2 : 1.24);
    expect(sheet.closed('mix').current.stepId).to.equal('choose-route');
    expect(() => sheet.route('layered')).to.throw('Eight rounds have not brought it level');
    const left = brought('BK-F12/70').triage(12.4).slowCharge(12.7).route('layered');
    round(left, 1.2).put('routeLeft', { step: left.current.key, reason: 'a cell leaks' });
    expect(left.current.stepId).to.equal('choose-route');
  });

  it('wants a full charge first, open cells, and only a small one is rocked', () => {
    expect(() => brought('BK-F12/70').triage(12.4).route('layered')).to.throw('not proven full yet');
    expect(() => brought('BK-A12/55').triage(12.4).route('layered')).to.throw('held in its mats');
    const small = brought('TQ-F6/11').triage(6.2).slowCharge(6.4).route('layered');
    end(start(small, 0.55).wait(120)).wait(6).affirm('mix-clips');
    expect(small.current.stepId).to.equal('mix-rock');
    expect(small.leaveOut('mix-rock').current.stepId).to.equal('mix-density');
  });
});

describe('water back', () => {
  /** An AGM open by hand, its mats looked at. */
  const mats = (typeId = 'BK-A12/55', mat = 'dry'): TestJob => {
    const sheet = brought(typeId, { agmWater: 'measured' }).triage(11.9).route('water-back');
    return sheet.affirm('agm-water-case').measure(
      'agm-mats',
      sheet.eachCell('mat', () => mat),
    );
  };

  it('left half-way it is closed before anything else flows through it, and asked no more once a way was gone', () => {
    const sheet = mats('BK-A12/55', 'wet');
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'its mats are wet' }).route('slow-charge');
    expect(sheet.current.stepId).to.equal('slow-charge-closed-first');
    expect(() => start(sheet, 2.75)).to.throw('does not take this kind of entry');
    sheet.affirm('slow-charge-closed-first');
    expect(sheet.current.stepId).to.equal('slow');
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('slow-clips')
      .wait(60);
    sheet.measure('after-charge', { ocvV: 12.7, tempC: 21 }).route('long-soak');
    expect(sheet.current.stepId).to.equal('soak');
    expect(brought('BK-A12/55').triage(12.1).route('slow-charge').current.stepId).to.equal('slow');
  });

  it('an AGM is opened by hand or not at all, its mats looked at, closed and weighed', () => {
    const sheet = brought('BK-A12/55', { agmWater: 'measured' }).triage(11.9).route('water-back');
    sheet.put('denied', { step: sheet.current.key, denial: 'must-be-pried' });
    expect(sheet.current.why).to.include('Then it stays closed');
    expect(mats('BK-A12/55', 'wet').current.why).to.include('Cell 1, 2, 3, 4, 5, 6: the mat shines');
    const dosed = mats().measure('water-mass', { deficitG: 120 }).measure('water-dose', { ml: 120 });
    expect(dosed.current.stepId).to.equal('agm-closed');
    dosed.affirm('agm-closed').measure('agm-weighed', { gainedG: 118 });
    expect(dosed.current.stepId).to.equal('choose-route');
  });

  it('into a flooded battery needs no house rule, and is recorded', () => {
    const sheet = brought('BK-F12/70').triage(11.9).route('water-back');
    sheet.put('skipped', { step: 'water-mass#1' }).measure('water-dose', { ml: 250 });
    expect(sheet.current.key).to.equal('choose-route#2');
  });

  it('cells that do not add up to all of it, and no figure at all, want another look', () => {
    const dose = (values: Record<string, number>): string =>
      brought('BK-F12/70')
        .triage(11.9)
        .route('water-back')
        .put('skipped', { step: 'water-mass#1' })
        .measure('water-dose', values).current.why ?? '';
    expect(dose({})).to.include('How much went in?');
    expect(dose({ ml1: 60, ml2: 60, ml: 250 })).to.include('add up to 120 mL');
    expect(dose({ ml1: 60, ml2: 60, ml: 125 })).to.equal('');
    expect(dose({ ml1: 60, ml2: 60 })).to.equal('');
  });

  it('an AGM’s dose follows its deficit in mass where that is known', () => {
    const sheet = mats();
    sheet.measure('water-mass', { deficitG: 180 });
    const { state } = sheet.job;
    expect(definitionOf(state, sheet.current).detail(contextOf(state, 1))).to.include(
      '180 mL in all, 30 mL a cell',
    );
    sheet.measure('water-dose', { ml: 260 });
    expect(sheet.current.why).to.include('more than the dose of 180 mL');
  });

  it('weighed, it is held against a full one of its type; heavier than that wants another look', () => {
    const weighed = (massG: number): TestJob => mats().measure('water-mass', { massG });
    const dose = ({ job: { state } }: TestJob): number => agmDoseMl(contextOf(state, 1));
    expect(dose(weighed(17_820))).to.equal(180);
    expect(dose(weighed(18_120))).to.equal(0);
    expect(weighed(18_120).current.why).to.equal(undefined);
    expect(weighed(18_250).current.why).to.include('It is 250 g heavier than a full one');
    expect(() => mats().measure('water-mass', {})).to.throw('Mass on the scale');
  });

  it('asks how much lighter it is only where no scale can say', () => {
    const asked = (typeId: string): string[] => {
      const sheet = typeId.includes('-A') ? mats(typeId) : brought(typeId).triage(11.9).route('water-back');
      const { fields } = definitionOf(sheet.job.state, sheet.current) as MeasureStep;
      const { type } = sheet.job.state.opened;
      return fields.flatMap((field) => (field.kind === 'number' && field.isFor?.(type) ? field.id : []));
    };
    expect(asked('BK-A12/55')).to.deep.equal(['massG']);
    expect(asked('BK-F12/70')).to.deep.equal(['deficitG']);
  });
});

describe('salt change', () => {
  it('shows the case against it, wants a vessel, and goes at most four times', () => {
    const sheet = brought('BK-F12/70', { additives: 'sodium' }).triage(12);
    const route = procedureOf(sheet.job.state).routes?.find(({ id }) => id === 'salt-change');
    expect(route?.against).to.include('beside plain water no gain was seen');
    for (let times = 0; times < 4; times++)
      sheet.route('salt-change').affirm('salt-case').measure('salt-in', { ml: 3000 });
    expect(() => sheet.route('salt-change')).to.throw('Four times');
  });
});

describe('cycles', () => {
  /** Drawn down to where its recharge begins. */
  const drawn = (sheet: TestJob): TestJob =>
    sheet.route('cycle').affirm('cycle-start').wait(300).measure('cycle-end', { minutes: 300, endV: 11.5 });
  /** Charged again and retested. */
  const retested = (sheet: TestJob, testerA: number): TestJob => {
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('cycle-charge-clips')
      .wait(240);
    return sheet.measure('cycle-read', { ocvV: 12.8, testerA, tempC: 25 });
  };
  const cycled = (sheet: TestJob, testerA: number): TestJob => retested(drawn(sheet), testerA);

  it('want somebody to stay, call every half hour, and end after three', () => {
    const sheet = brought('BK-A12/55').triage(12.7, { testerA: 200, tempC: 25 });
    for (const testerA of [220, 240, 260]) {
      sheet.route('cycle').affirm('cycle-start');
      expect(handsOf(sheet.job.state, sheet.now)[0]?.at).to.equal(sheet.now + 30 * MINUTE);
      expect(handsOf(sheet.job.state, sheet.now + 45 * MINUTE)[0]?.urgency).to.equal('overdue');
      retested(sheet.wait(300).measure('cycle-end', { minutes: 300, endV: 11.5 }), testerA);
    }
    expect(() => sheet.route('cycle')).to.throw('three times');
  });

  it('a discharge is followed at once by its recharge, a rest and a retest', () => {
    const sheet = drawn(brought('BK-A12/55').triage(12.7));
    expect(sheet.current.stepId).to.equal('cycle-charge');
    end(start(sheet, 2.75).wait(24 * 60))
      .wait(6)
      .affirm('cycle-charge-clips');
    expect(sheet.current.stepId).to.equal('cycle-rest');
    expect(() => sheet.wait(120).measure('cycle-read', { ocvV: 12.8, testerA: 300, tempC: 25 })).to.throw(
      '“Test it again” is not open yet',
    );
  });

  it('left before its recharge, neither a second discharge nor a proof follows: charge it first', () => {
    const sheet = drawn(brought('BK-A12/55').triage(12.7));
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'the supply is away' });
    for (const route of ['cycle', 'prove'])
      expect(() => sheet.route(route, 'it must go today')).to.throw('not charged since: charge it first');
    expect(sheet.slowCharge(12.8).route('cycle').current.stepId).to.equal('cycle-start');
  });

  it('drawn down by a capacity test and left, it is not proven again before a charge', () => {
    const sheet = brought('BK-A12/55').triage(12.2).slowCharge();
    sheet.route('prove').affirm('prove-off').wait(DAY).measure('prove-ocv', { ocvV: 12.8, tempC: 21 });
    sheet
      .leaveOut('prove-load')
      .wait(60 * 15)
      .measure('prove-capacity', { method: 'slow', drawnAh: 40 });
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'the bay is needed' });
    expect(() => sheet.route('prove', 'it was full before')).to.throw('charge it first');
  });

  it('a gain below three per cent ends it, a target met wants a reason', () => {
    const sheet = brought('BK-A12/55').triage(12.7, { testerA: 300, tempC: 25 });
    expect(() => cycled(sheet, 305).route('cycle')).to.throw('gained 1.7 %, below 3 %');
    const good = brought('BK-A12/55').triage(12.7, { testerA: 300, tempC: 25 });
    expect(() => cycled(good, 500).route('cycle')).to.throw('the target is met');
  });

  it('looks on its clock are no test of capacity to the belief', () => {
    const sheet = brought('BK-A12/55').triage(12.7).route('cycle').affirm('cycle-start').wait(30);
    sheet.put('evidenced', { reading: { kind: 'drain', amps: 5.5, minute: 30, volts: 12.4 } });
    expect(handsOf(sheet.job.state, sheet.now)[0]?.at).to.equal(sheet.now + 30 * MINUTE);
    sheet.wait(30).put('evidenced', { reading: { kind: 'drain', amps: 5.5, minute: 60, volts: 11.5 } });
    expect(atHand(sheet.job.state, sheet.now)?.title).to.equal('Load off: the discharge is at its end');
    expect(courseOf(sheet.job.state).readings.some(({ kind }) => kind === 'drain')).to.equal(false);
  });
});

describe('a 6 V battery brought back', () => {
  const six = (): TestJob => brought('LW-A6/12');

  it('has half the limits everywhere', () => {
    const sheet = six().triage(2.1).route('supply-wake').affirm('supply-polarity');
    expect(treatmentAtHand(sheet).ceilingV).to.equal(7.5);
    const strict = new TestJob('LW-A6/12', { recoverBelow: 'strict' }, undefined, 'recover-agm');
    strict
      .affirm('identify')
      .measure('label', {})
      .affirm('safety', 'inspect')
      .measure('history', { complaint: 'unknown' });
    strict.affirm('clean').measure('first-ocv', { ocvV: 5.2, tempC: 20, rested: 'yes' });
    expect(strict.current.why).to.include('below 5.25 V');
  });

  it('asks for three densities, not six', () => {
    const sheet = new TestJob('TQ-F6/11', {}, undefined, 'recover-flooded').triage(5.9);
    expect(
      Object.keys(sheet.job.state.steps.find(({ stepId }) => stepId === 'density-before')?.values ?? {}),
    ).to.have.length(4);
  });
});

describe('the cord of a recovery', () => {
  it('ends at the next choice, since what follows is not known', () => {
    const sheet = brought('BK-A12/55').triage(11.8);
    const open = forecast(sheet.job.state, sheet.now);
    expect(open.isOpenEnded).to.equal(true);
    expect(open.readyAt - sheet.now).to.be.below(10 * MINUTE);
    start(sheet.route('slow-charge'), 2.75);
    const charging = forecast(sheet.job.state, sheet.now);
    expect(charging.readyAt - sheet.now).to.be.above(24 * 60 * MINUTE);
    expect(charging.segments.some(({ kind }) => kind === 'charge')).to.equal(true);
  });

  it('keeps the charge of a route that was left', () => {
    const sheet = start(brought('BK-A12/55').triage(11.8).route('slow-charge'), 2.75).wait(90);
    const { key } = sheet.current;
    sheet.put('chargePaused', { step: key, reason: 'stopped' });
    sheet.put('routeLeft', { step: key, reason: 'cell 3 stays silent' });
    const charged = forecast(sheet.job.state, sheet.now).segments.filter((one) => one.key === key);
    const [first] = charged.filter(({ kind }) => kind === 'charge');
    expect((first?.to ?? 0) - (first?.from ?? 0)).to.equal(90 * MINUTE);
  });

  it('a charge that was stopped for good asks for another way, not for its end', () => {
    const sheet = start(brought('BK-A12/55').triage(4).route('supply-wake').affirm('supply-polarity'), 2.75);
    sheet.wait(15).read(8, 2.75, 22).wait(20).read(8, 2.75, 24);
    sheet.put('chargePaused', { step: sheet.current.key, reason: 'stopped' });
    expect(forecast(sheet.job.state, sheet.now).knots.filter(({ isDone }) => !isDone)[0]?.title).to.equal(
      'Choose another way',
    );
  });

  for (const [id, route, refused] of [
    ['bench', 'slow-charge', undefined],
    ['supply', 'pulse', undefined],
    ['bench', 'pulse', 'cannot pulse'],
    ['taper', 'slow-charge', 'by itself; 14.7 V is the most here'],
  ] as const)
    it(`“${id}” on ${route} is ${refused ?? 'kept with the charge'}`, () => {
      const charger = CHARGERS.find((one) => one.id === id);
      if (!charger) throw new Error(`no charger ${id}`);
      const sheet = brought('BK-A12/55').triage(12.1).route(route);
      const on = (): unknown =>
        sheet.put('chargeStarted', {
          step: sheet.current.key,
          currentA: route === 'pulse' ? 1 : 2.75,
          charger,
        });
      if (refused !== undefined) {
        expect(on).to.throw(refused);
        expect(sheet.current.charge).to.equal(undefined);
        return;
      }
      on();
      expect(sheet.current.charge?.charger?.id).to.equal(id);
      expect(describeEvent(sheet.job.log.at(-1) as never, sheet.job.state)).to.include(charger.name);
    });

  it('no charger is set to more than it gives', () => {
    const supply = CHARGERS.find(({ id }) => id === 'supply');
    if (!supply) throw new Error('no supply');
    const sheet = brought('BK-A12/55').triage(12.1).route('slow-charge');
    const set = (mostA: number): unknown =>
      sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75, charger: { ...supply, mostA } });
    expect(() => set(2)).to.throw('gives 2 A at most; it cannot be set to 2.75 A');
    set(2.75);
    expect(sheet.current.charge?.currentA).to.equal(2.75);
  });

  it('its log says routes and reasons in words', () => {
    const sheet = brought('BK-A12/55').triage(5).route('donor-wake', 'the supply is away');
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'no donor at hand' });
    sheet.put('evidenced', { reading: { kind: 'tester', amps: 300 } });
    const words = sheet.job.log.slice(-3).map((event) => describeEvent(event, sheet.job.state));
    expect(words).to.deep.equal([
      'Route: Wake beside a donor, “the supply is away”',
      'Route left: no donor at hand',
      'Found out: Tester shows 300 A',
    ]);
  });
});
