/** Recoveries from the door to a grade, or to the recycler. */
import { expect } from 'chai';
import { testerSpec } from './definition/testerFields.ts';
import { TestJob } from '../test/testJob.ts';
import { chargePhase } from './plan/atHand.ts';
import { procedureById } from './procedures/procedures.ts';
import { contextOf } from './state/context.ts';
import { procedureOf } from './state/sheet.ts';

const DEEP_AGM = 'BK-A12/55';
const FLOODED = 'BK-F12/70';
const DAY = 24 * 60;

const agm = (rules: ConstructorParameters<typeof TestJob>[1] = {}): TestJob =>
  new TestJob(DEEP_AGM, rules, undefined, 'recover-agm');
const flooded = (rules: ConstructorParameters<typeof TestJob>[1] = {}): TestJob =>
  new TestJob(FLOODED, rules, undefined, 'recover-flooded');

/** Beside the donor for an hour, and what was read 10 and 30 minutes after. */
function besideDonor(sheet: TestJob, early: number, late: number): TestJob {
  sheet.route('donor-wake').measure('donor-check', { donorV: 12.6 });
  sheet.affirm('donor-polarity', 'donor-leads');
  sheet.put('chargeStarted', { step: sheet.current.key, currentA: 10 });
  sheet.wait(30).read(11.8, 8, 24).wait(31);
  sheet.put('chargeEnded', { step: sheet.current.key, fullSignal: false });
  sheet.affirm('donor-off').wait(10).measure('donor-read', { ocvV: early });
  return sheet.wait(20).measure('donor-read-late', { ocvV: late });
}

const chargedSlowly = (sheet: TestJob): TestJob => sheet.slowCharge();

interface Measured {
  readonly ocvV: number;
  readonly reserveMin?: number;
  readonly testerA: number;
  readonly dayV?: number;
  readonly weekV?: number;
}

/** Through the proof up to the grade standing open. */
function proven(sheet: TestJob, { ocvV, reserveMin, testerA, dayV, weekV }: Measured): TestJob {
  return sheet.prove({
    ocvV,
    test: { method: 'tester', testerA },
    ...(reserveMin === undefined ? {} : { capacity: { method: 'reserve', reserveMin } }),
    ...(dayV === undefined ? {} : { dayV }),
    ...(weekV === undefined ? {} : { weekV }),
    reason: 'as far as it goes',
  });
}

describe('a recovery', () => {
  it('a deep AGM wakes beside a donor, is charged, soaked, proven and graded B', () => {
    const sheet = besideDonor(agm({ wakeMethod: 'donor' }).triage(5.4), 11.2, 11.15);
    chargedSlowly(sheet);
    sheet.route('long-soak').put('chargeStarted', { step: sheet.current.key, currentA: 5.5 });
    sheet
      .wait(16 * 60)
      .read(14.7, 0.1, 26)
      .put('chargeEnded', { step: sheet.current.key, fullSignal: false });
    sheet
      .wait(6)
      .affirm('soak-clips')
      .wait(3 * DAY)
      .measure('after-charge', { ocvV: 12.8, tempC: 21 });
    const { cranking } = sheet.job.state.opened.type;
    proven(sheet, { ocvV: 12.75, reserveMin: 62, testerA: 0.86 * (cranking?.amps ?? 0) });
    sheet.decide('pass').affirm('tell-customer', 'hand-over', 'sign-recovered');
    expect(sheet.job.state.outcome).to.equal('recovered');
    expect(sheet.job.state.routes?.map(({ route }) => route)).to.deep.equal([
      'donor-wake',
      'slow-charge',
      'long-soak',
      'prove',
    ]);
  });

  it('routes chain, may be left with a reason that stays, and the charge ended before that', () => {
    const sheet = flooded().triage(11.9).route('constant-current');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 7 }).wait(60);
    const leave = (): TestJob =>
      sheet.put('routeLeft', { step: sheet.current.key, reason: 'owner wants it slow' });
    expect(leave).to.throw('The charger is on');
    sheet.put('chargePaused', { step: sheet.current.key, reason: 'stopped' });
    leave();
    expect(sheet.current.key).to.equal('choose-route#2');
    expect(sheet.job.state.routes?.[0]?.leftFor).to.equal('owner wants it slow');
    expect(sheet.route('slow-charge').current.key).to.equal('slow#2');
    expect(() =>
      flooded().triage(11.9).put('routeLeft', { step: 'choose-route#1', reason: 'nothing to leave' }),
    ).to.throw('No route is under way');
  });

  for (const [what, denial, outcome] of [
    ['a cracked case', 'cracked', 'retired'],
    ['a melted post', 'post-melted', 'retired'],
    ['a rattle inside', 'rattles', 'retired'],
  ] as const)
    it(`${what} goes straight to recycling, before any reading`, () => {
      const sheet = flooded().affirm('identify').measure('label', {}).affirm('safety');
      sheet.put('denied', { step: 'inspect#1', denial });
      expect(sheet.job.state.outcome).to.equal(outcome);
    });

  it('a frozen one waits until it is warm, and is inspected again', () => {
    const sheet = flooded().affirm('identify').measure('label', {}).affirm('safety');
    sheet.put('denied', { step: 'inspect#1', denial: 'frozen' });
    expect(sheet.current).to.include({ status: 'held', stepId: 'inspect' });
    expect(() => sheet.affirm('clean')).to.throw();
    sheet.wait(600).affirm('inspect');
    expect(sheet.current.stepId).to.equal('history');
  });

  it('a grade B battery without a capacity test says so, however well it cranks', () => {
    const sheet = chargedSlowly(agm().triage(11.8));
    const { cranking } = sheet.job.state.opened.type;
    proven(sheet, { ocvV: 12.85, testerA: cranking?.amps ?? 0, weekV: 12.83 });
    expect(sheet.current.stepId).to.equal('grade');
    expect(() => sheet.decide('reject')).not.to.throw();
  });

  it('a battery that fails its hold can only be retired', () => {
    const sheet = chargedSlowly(agm().triage(11.8));
    const { cranking } = sheet.job.state.opened.type;
    proven(sheet, { ocvV: 12.85, reserveMin: 90, testerA: cranking?.amps ?? 0, dayV: 12.5 });
    expect(() => sheet.decide('pass')).to.throw('do not allow');
    expect(sheet.decide('reject').job.state.outcome).to.equal('retired');
  });

  it('a plateau of 10.7 V after a charge ends the proof', () => {
    const sheet = chargedSlowly(agm().triage(11.8))
      .route('prove', 'as far as it goes')
      .affirm('prove-off')
      .wait(DAY);
    sheet.measure('prove-ocv', { ocvV: 10.7, tempC: 21 });
    expect(sheet.current.why).to.include('plateau of a dead cell');
    expect(() => sheet.put('overridden', { step: sheet.current.key, reason: 'it will be fine' })).to.throw();
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'dead cell found' }).route('retire');
    sheet.measure('retire-why', { why: 'deadCell' }).affirm('retire-core', 'retired');
    expect(sheet.job.state.outcome).to.equal('retired');
  });
});

describe('vetoes of routes', () => {
  const cases: readonly (readonly [string, () => TestJob, string, string])[] = [
    [
      'a donor on a small battery',
      () => new TestJob('LW-A12/9', { wakeMethod: 'donor' }, undefined, 'recover-agm').triage(5),
      'donor-wake',
      'below 30 Ah',
    ],
    [
      'a donor below half a volt',
      () => agm({ wakeMethod: 'donor' }).triage(0.2),
      'donor-wake',
      'polarity cannot be told',
    ],
    ['waking what a charger sees', () => agm().triage(11.9), 'supply-wake', 'nothing to wake'],
    ['equalising an AGM', () => agm({ equalise: 'expert' }).triage(12.3), 'equalise', 'never equalised'],
    ['equalising where the house has it off', () => flooded().triage(12.3), 'equalise', 'is off'],
    ['constant current on an AGM', () => agm().triage(12), 'constant-current', 'dries an AGM out'],
    ['a long soak of a flooded one', () => flooded().triage(12), 'long-soak', 'boil off'],
    ['high then low on an AGM', () => agm().triage(12), 'high-then-low', 'closed'],
    ['water into an AGM', () => agm().triage(12), 'water-back', 'no maker’s practice'],
    ['an additive', () => flooded().triage(12), 'salt-change', 'nothing is added but water'],
    ['an additive into an AGM', () => agm({ additives: 'sodium' }).triage(12), 'salt-change', 'never opened'],
    ['cycling an empty battery', () => agm().triage(11.2), 'cycle', 'charge it first'],
  ];
  for (const [what, make, route, sentence] of cases)
    it(`${what} is refused, reason or not`, () => {
      const sheet = make();
      expect(() => sheet.route(route)).to.throw(sentence);
      expect(() => sheet.route(route, 'I have always done it so')).to.throw(sentence);
      expect(sheet.current.stepId).to.equal('choose-route');
    });

  it('a house rule may be passed over, with a reason that stays', () => {
    const sheet = agm().triage(5);
    expect(() => sheet.route('donor-wake')).to.throw('woken by a current-limited supply');
    sheet.route('donor-wake', 'the supply is at the ferry slip');
    expect(sheet.job.state.routes?.[0]?.reason).to.equal('the supply is at the ferry slip');
  });

  it('three hours beside a donor are the most', () => {
    const sheet = agm({ wakeMethod: 'donor' }).triage(3);
    for (const volts of [5, 7, 9]) besideDonor(sheet, volts, volts);
    expect(() => sheet.route('donor-wake')).to.throw('Three hours');
  });

  it('pulsing ends after two weeks without gain', () => {
    const sheet = agm().triage(12, { testerA: 300 });
    // It came flat: the first week's figure is the first that counts.
    for (const testerA of [302, 303, 304]) {
      sheet
        .route('pulse')
        .put('chargeStarted', { step: sheet.current.key, currentA: 2.75 })
        .wait(7 * DAY);
      sheet
        .put('chargeEnded', { step: sheet.current.key, fullSignal: false })
        .wait(6)
        .affirm('pulse-clips')
        .wait(240);
      sheet.measure('pulse-read', { ocvV: 12.5, testerA, tempC: 21 });
    }
    expect(() => sheet.route('pulse')).to.throw('two consecutive tests');
  });

  it('an AGM gets its measured dose once, and not a drop over it', () => {
    const sheet = agm({ agmWater: 'measured' }).triage(12).route('water-back');
    sheet.affirm('agm-water-case').measure(
      'agm-mats',
      sheet.eachCell('mat', () => 'dry'),
    );
    sheet.leaveOut('water-mass').measure('water-dose', { ml: 600 });
    expect(sheet.current.why).to.include('more than the dose of 330 mL');
    sheet.measure('water-dose', { ml: 330 });
    expect(sheet.current.why).to.include('330 mL is 1 mL per Ah and cell, a rule of thumb');
    sheet.put('overridden', { step: sheet.current.key, reason: 'no scale carries it' });
    sheet.affirm('agm-closed').measure('agm-weighed', { gainedG: 200 });
    expect(sheet.current.why).to.include('330 mL went in, the scale gained 200 g');
    sheet.measure('agm-weighed', { gainedG: 326 });
    expect(() => sheet.route('water-back')).to.throw('has gone in once');
  });

  it('every route is known by name, and none other', () => {
    const sheet = agm().triage(12);
    expect(() => sheet.route('drill-and-drain')).to.throw('no route');
    expect(procedureOf(sheet.job.state).routes?.map(({ id }) => id)).not.to.include('drill-and-drain');
  });
});

describe('limits and stop rules where the current flows', () => {
  const onSlow = (): TestJob => {
    const sheet = agm().triage(11.8).route('slow-charge');
    return sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75 });
  };
  /** Stopped for good: off, and only another way is open. */
  function isOver(sheet: TestJob): void {
    expect(sheet.current.status).to.equal('held');
    expect(() => sheet.put('chargeEnded', { step: sheet.current.key, fullSignal: true })).to.throw('off');
    sheet.put('chargePaused', { step: sheet.current.key, reason: 'hot' });
    expect(chargePhase(sheet.job.state, sheet.current, sheet.now)).to.equal('over');
    expect(() => sheet.put('chargeResumed', { step: sheet.current.key, tempC: 20 })).to.throw(
      'not switched on again',
    );
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'stopped by the rule' });
    expect(sheet.current.stepId).to.equal('choose-route');
  }

  it('a current above the route’s is refused', () => {
    const sheet = agm().triage(11.8).route('slow-charge');
    expect(() => sheet.put('chargeStarted', { step: sheet.current.key, currentA: 12 })).to.throw(
      'outside 0.28 to 5.50 A',
    );
  });

  it('hot is a pause: off, cool, on again', () => {
    const sheet = onSlow().wait(60).read(13.2, 2.75, 52);
    expect(sheet.current.why).to.include('charger off now');
    sheet.put('chargePaused', { step: sheet.current.key, reason: 'hot' }).wait(60);
    sheet.put('chargeResumed', { step: sheet.current.key, tempC: 35 });
    expect(sheet.current.status).to.equal('open');
  });

  it('runaway: current rising at constant voltage, warmth following', () => {
    isOver(onSlow().wait(600).read(14.7, 0.6, 30).wait(60).read(14.7, 1.0, 33).wait(60).read(14.7, 1.6, 38));
  });

  it('a dead cell: the charge stalls about 2 V low', () => {
    isOver(onSlow().wait(60).read(10.4, 2.75, 22).wait(60).read(10.5, 2.75, 22));
    isOver(onSlow().wait(600).read(12.6, 2.75, 26).wait(860).read(12.9, 2.75, 28));
  });

  it('a shorted cell heats at low voltage', () => {
    isOver(onSlow().wait(10).read(11.9, 2.75, 22).wait(60).read(12.1, 2.75, 34));
  });

  it('not rising after half an hour awake: suspected short', () => {
    const sheet = agm().triage(4).route('supply-wake').affirm('supply-polarity');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75 });
    isOver(sheet.wait(15).read(8.1, 2.7, 22).wait(20).read(8.1, 2.75, 24));
  });

  it('on for longer than the route allows', () => {
    const sheet = agm().triage(12.2).route('long-soak');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 5.5 });
    isOver(sheet.wait(49 * 60).read(14.7, 0.2, 24));
  });

  it('a good charge fires none of them and may end when it is flat', () => {
    expect(chargedSlowly(agm().triage(11.8)).current.key).to.equal('choose-route#2');
  });

  it('a waking battery, falling from 15 V, fires none of them', () => {
    const sheet = agm().triage(4).route('supply-wake').affirm('supply-polarity');
    sheet.put('chargeStarted', { step: sheet.current.key, currentA: 1.1 });
    sheet.wait(10).read(15, 0.2, 21).wait(20).read(14.2, 0.9, 21).wait(30).read(12.3, 1.1, 22);
    expect(sheet.current.status).to.equal('open');
    sheet.wait(30).read(12.2, 2.72, 22);
    expect(chargePhase(sheet.job.state, sheet.current, sheet.now)).to.equal('complete');
  });
});

describe('mistakes of a recovery', () => {
  it('reversed polarity is held, and not passed over', () => {
    const sheet = agm();
    sheet
      .affirm('identify')
      .measure('label', {})
      .affirm('safety', 'inspect')
      .measure('history', { complaint: 'unknown' });
    sheet.affirm('clean').measure('first-ocv', { ocvV: -3.2, tempC: 20, rested: 'yes' });
    expect(sheet.current.why).to.include('reversed');
    expect(() =>
      sheet.put('overridden', { step: sheet.current.key, reason: 'it will turn round' }),
    ).to.throw();
  });

  it('a donor below 12 V is refused', () => {
    const sheet = agm({ wakeMethod: 'donor' })
      .triage(5)
      .route('donor-wake')
      .measure('donor-check', { donorV: 11.7 });
    expect(sheet.current.why).to.include('nothing to give');
  });

  it('clips reversed at the donor hold the job', () => {
    const sheet = agm({ wakeMethod: 'donor' })
      .triage(5)
      .route('donor-wake')
      .measure('donor-check', { donorV: 12.5 });
    sheet.put('denied', { step: sheet.current.key, denial: 'clips-reversed' });
    expect(sheet.current.status).to.equal('held');
  });

  it('a donor left on past its hour is called out', () => {
    const sheet = agm({ wakeMethod: 'donor' })
      .triage(5)
      .route('donor-wake')
      .measure('donor-check', { donorV: 12.5 });
    sheet
      .affirm('donor-polarity', 'donor-leads')
      .put('chargeStarted', { step: 'donor-hour#1', currentA: 10 });
    sheet.wait(95).read(12.9, 5, 30);
    expect(sheet.current.why).to.include('expected 1 h at most');
  });

  it('10.5 V that falls after the leads are off is a leak, not a success', () => {
    const sheet = besideDonor(agm({ wakeMethod: 'donor' }).triage(5), 11.4, 10.6);
    expect(sheet.current.why).to.include('a leak that 10.5 V alone would pass');
  });

  it('a tester’s zero on a flat battery condemns nothing by default, and does where the house says so', () => {
    expect(agm().triage(11.2, { testerA: 20 }).current.stepId).to.equal('choose-route');
    const strict = agm({ zeroHealth: 'condemn' }).triage(11.2, { testerA: 20 });
    expect(strict.current.why).to.include('condemned');
  });

  for (const [added, sentence] of [
    ['acid', 'Acid never goes into a battery in service'],
    ['tap', 'Tap water carries iron and chlorine'],
  ] as const)
    it(`${added} into a battery in service is held`, () => {
      const sheet = flooded();
      sheet
        .affirm('identify')
        .measure('label', {})
        .affirm('safety', 'inspect')
        .measure('history', { complaint: 'unknown' });
      sheet.affirm('clean').measure('first-ocv', { ocvV: 11.9, tempC: 20, rested: 'yes' });
      sheet.measure('open-cells', { caps: 'caps' });
      sheet
        .measure(
          'levels-cells',
          sheet.eachCell('level', () => 'plates-bare'),
        )
        .leaveOut('density-before');
      sheet.measure('water-cover', { added });
      expect(sheet.current.why).to.include(sentence);
    });

  it('condemned because the charger stayed dark: the ways that wake it are open, and none ends the job', () => {
    const sheet = agm().triage(4.2);
    sheet.put('evidenced', { reading: { kind: 'charger', view: 'refuses', startV: 8 } });
    expect(sheet.job.state.outcome).to.equal(undefined);
    expect(sheet.route('supply-wake').current.why).to.equal(undefined);
  });

  it('judged on surface charge: the proof opens no reading before its rest is over', () => {
    const sheet = chargedSlowly(agm().triage(11.8)).route('prove').affirm('prove-off').wait(60);
    expect(() => sheet.measure('prove-ocv', { ocvV: 13.1, tempC: 21 })).to.throw('has no step “prove-ocv');
    expect(sheet.wait(DAY).measure('prove-ocv', { ocvV: 12.8, tempC: 21 }).current.key).to.match(
      /prove-load/,
    );
  });

  it('cranking read under the wrong standard: every field names the one on the label', () => {
    const { type } = agm().job.state.opened;
    expect(testerSpec(type).label).to.include(`(${type.cranking?.standard ?? 'none'})`);
    const { cranking: _none, ...unrated } = type;
    expect(testerSpec(unrated).label).to.equal('Cranking current on the tester');
    const boxed = new TestJob('LW-A12/9', {}, undefined, undefined, { type: unrated }).job.state;
    const test = procedureById('agm-from-pack').steps.find(({ id }) => id === 'test-load');
    const fields = test?.kind === 'measure' ? test.fields : [];
    const tester = fields.find(({ id }) => id === 'testerA');
    expect(tester?.kind === 'number' && tester.spec(contextOf(boxed, 1)).label).to.equal(
      'Cranking current on the tester',
    );
  });

  it('a discharge that went below 11.5 V is called out', () => {
    const sheet = chargedSlowly(agm().triage(11.8)).route('cycle').affirm('cycle-start').wait(300);
    sheet.measure('cycle-end', { minutes: 300, endV: 10.9 });
    expect(sheet.current.why).to.include('drawn below 11.50 V');
  });
});
