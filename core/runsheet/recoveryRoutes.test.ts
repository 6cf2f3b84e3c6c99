/** Each way back by itself: its steps in order, its limits, and what ends it. */
import { expect } from 'chai';
import { CHARGERS } from '../charge/chargers.ts';
import { brought, end, start, treatmentAtHand } from '../test/broughtIn.ts';
import { TestJob } from '../test/testJob.ts';
import { forecast } from './forecast.ts';
import { handsOf } from './hands.ts';
import { atHand } from './atHand.ts';
import { describeEvent } from './describe.ts';
import { agmDoseMl } from './procedures/recovery/otherRoutes.ts';
import { contextOf, definitionOf, procedureOf } from './state.ts';
import type { HouseRules } from './houseRules.ts';
import type { MeasureStep } from './step.ts';

const DAY = 24 * 60;
const MINUTE = 60_000;

describe('high, then low', () => {
  const high = (): TestJob =>
    brought('BK-F12/70', { firstHours: 'highLow' }).triage(10.9).route('high-then-low');

  it('goes in bites of a quarter of an hour, looks at every cell, then goes gently', () => {
    const sheet = high();
    expect(treatmentAtHand(sheet)).to.include({ setA: 17.5, dueMin: 15, mostMin: 20 });
    start(sheet, 17).wait(15).read(12.9, 17, 26);
    end(sheet).affirm('bite-look');
    end(start(sheet, 15).wait(15)).put('observed', {
      step: 'bite-all#1',
      chambers: [true, true, true, true, true, true],
    });
    expect(treatmentAtHand(sheet)).to.include({ setA: 5, mostA: 5 });
  });

  it('a bite left on is called out after twenty minutes', () => {
    const sheet = start(high(), 17).wait(28).read(13.4, 17, 30);
    expect(sheet.current.why).to.include('h at most');
  });

  it('a cell that stays silent ends it', () => {
    const sheet = high();
    end(start(sheet, 17).wait(15)).affirm('bite-look');
    end(start(sheet, 15).wait(15)).put('observed', {
      step: 'bite-all#1',
      chambers: [true, true, false, true, true, true],
    });
    expect(sheet.current.why).to.include('Cell 3: silent or hot. Stop');
    sheet.put('routeLeft', { step: 'bite-all#1', reason: 'cell 3 is dead' });
    expect(sheet.current.key).to.equal('choose-route#2');
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
    end(sheet).wait(6).affirm('current-clips').wait(60).measure('after-charge', { ocvV: 12.6, tempC: 22 });
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

  it('wants an expert, a level above the plates, and is over in four hours', () => {
    const sheet = brought('BK-F12/70', expert).triage(12.5, { densities: spread }).route('equalise');
    sheet.put('denied', { step: 'equalise-expert#1', denial: 'level-low' });
    expect(sheet.current.status).to.equal('held');
    sheet.affirm('equalise-expert');
    expect(treatmentAtHand(sheet)).to.include({ hotC: 45, mostMin: 240 });
    expect(treatmentAtHand(sheet).ceilingV).to.be.closeTo(15.8, 1e-9);
    start(sheet, 2.8).wait(60).read(15.6, 2.8, 46);
    expect(sheet.current.why).to.include('45 °C is the limit.');
  });

  it('cells that agree, or differ too much, want a reason', () => {
    const even = brought('BK-F12/70', expert).triage(12.5);
    expect(() => even.route('equalise')).to.throw('nothing to even out');
    even.route('equalise', 'acid is layered by eye');
    const far = brought('BK-F12/70', expert).triage(12.5, {
      densities: [1.25, 1.25, 1.15, 1.25, 1.25, 1.25],
    });
    expect(() => far.route('equalise')).to.throw('more likely a bad cell');
  });
});

describe('water back', () => {
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
    const sheet = brought('BK-A12/55', { agmWater: 'measured' }).triage(11.9).route('water-back');
    sheet.measure('water-mass', { deficitG: 180 });
    const { state } = sheet.job;
    expect(definitionOf(state, sheet.current).detail(contextOf(state, 1))).to.include(
      '180 mL in all, 30 mL a cell',
    );
    sheet.measure('water-dose', { ml: 260 });
    expect(sheet.current.why).to.include('more than the dose of 180 mL');
  });

  it('weighed, it is held against a full one of its type; heavier than that wants another look', () => {
    const weighed = (massG: number): TestJob =>
      brought('BK-A12/55', { agmWater: 'measured' })
        .triage(11.9)
        .route('water-back')
        .measure('water-mass', { massG });
    const dose = ({ job: { state } }: TestJob): number => agmDoseMl(contextOf(state, 1));
    expect(dose(weighed(17_820))).to.equal(180);
    expect(dose(weighed(18_120))).to.equal(0);
    expect(weighed(18_120).current.why).to.equal(undefined);
    expect(weighed(18_250).current.why).to.include('It is 250 g heavier than a full one');
    expect(() =>
      brought('BK-A12/55', { agmWater: 'measured' })
        .triage(11.9)
        .route('water-back')
        .measure('water-mass', {}),
    ).to.throw('Mass on the scale');
  });

  it('asks how much lighter it is only where no scale can say', () => {
    const asked = (typeId: string): string[] => {
      const sheet = brought(typeId, { agmWater: 'measured' }).triage(11.9).route('water-back');
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
  it('want somebody to stay, call every half hour, and end after three', () => {
    const sheet = brought('BK-A12/55').triage(12.7);
    for (let times = 0; times < 3; times++) {
      sheet.route('cycle').affirm('cycle-start');
      expect(handsOf(sheet.job.state, sheet.now)[0]?.at).to.equal(sheet.now + 30 * MINUTE);
      expect(handsOf(sheet.job.state, sheet.now + 45 * MINUTE)[0]?.urgency).to.equal('overdue');
      sheet.wait(300).measure('cycle-end', { minutes: 300, endV: 11.5 });
    }
    expect(() => sheet.route('cycle')).to.throw('three times');
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
