import { expect } from 'chai';
import { candidate } from '../test/candidate.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { TestJob } from '../test/testJob.ts';
import { bandAt, bandOf, type Band } from './band.ts';
import { Belief } from './belief.ts';
import { shownOf } from '../observation/shown.ts';
import { goingOn, type CourseId, type OnCharge } from './deviation.ts';
import { courseOf, settingOf } from '../adapters/fromJob.ts';
import type { Reading } from '../observation/readings.ts';
import type { Setting, Traits } from '../candidate/traits.ts';

const SLOW = { amps: 4, volts: 14.6, minutes: 24 * 60 };
const REST = { amps: 0, volts: 0, minutes: 24 * 60 };
const setting: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 3, flatMonths: 3, complaint: 'parked' },
  tempC: 21,
  passages: [SLOW, REST],
};
const truth = candidate({ charge: 0.35 });

const lookOf = (traits: Traits, minute: number): Reading => {
  const found = shownOf(traits, setting);
  return {
    kind: 'look',
    minute,
    volts: found.onCharge(minute, 'volts'),
    amps: found.onCharge(minute, 'amps'),
    tempC: found.onCharge(minute, 'tempC'),
  };
};

describe('a belief that goes through a charge', () => {
  const belief = new Belief(setting, 80, 5);
  belief.observe({ kind: 'ocv', volts: shownOf(truth, setting).ocvV(), isRested: true });
  const before = belief.summary().figures;

  it('knows the battery fuller after a charge and a rest, by going through both', () => {
    const later = new Belief(setting, 80, 5);
    const rested = shownOf(truth, setting).after(2).ocvV();
    later.observe({ kind: 'ocv', volts: shownOf(truth, setting).ocvV(), isRested: true });
    later.observe({ kind: 'ocv', stage: 2, volts: rested, isRested: true });
    expect(later.summary().figures.charge.low).to.be.greaterThan(before.charge.high);
  });

  it('learns the capacity from a capacity test as from nothing else', () => {
    const tested = new Belief(setting, 120, 5);
    const minutes = shownOf(truth, setting).after(2).reserveMin(25);
    tested.observe({ kind: 'reserve', stage: 2, amps: 25, minutes });
    tested.refine(1);
    const width = ({ low, high }: { low: number; high: number }): number => high - low;
    expect(width(tested.summary().figures.capacity)).to.be.lessThan(0.5 * width(before.capacity));
    expect(tested.summary().figures.capacity.middle).to.be.closeTo(0.95, 0.1);
  });

  it('says what charge it has reached at its latest look', () => {
    const charging = new Belief(setting, 80, 5);
    charging.observe({ kind: 'ocv', volts: shownOf(truth, setting).ocvV(), isRested: true });
    charging.observe(lookOf(truth, 360));
    const { charge } = charging.summary().figures;
    expect(charge.middle).to.be.greaterThan(before.charge.middle + 0.15);
    expect(charge.middle).to.be.lessThan(0.95);
  });

  it('says in one sentence that it was not told what was done', () => {
    expect(() => shownOf(truth, setting).after(3)).to.throw(RangeError, 'Nothing is known');
  });
});

describe('the band of a charge', () => {
  const belief = new Belief(setting, 80, 5);
  belief.observe({ kind: 'ocv', volts: shownOf(truth, setting).ocvV(), isRested: true });
  const band = bandOf(belief.spread(30), 0, SLOW.minutes, 80);

  it('stands in order, low to high, over the whole of its time', () => {
    for (const name of ['volts', 'amps', 'tempC'] as const)
      for (const { low, middle, high } of band.columns[name]) {
        expect(low).to.be.at.most(middle);
        expect(middle).to.be.at.most(high);
      }
    expect(band.minutes.at(-1)).to.equal(SLOW.minutes);
  });

  it('narrows where looks were taken, and moves to what was read', () => {
    const fast = { ...truth, charge: 0.75 };
    const wide = new Belief(setting, 80, 5);
    const unread = bandOf(wide.spread(30), 0, SLOW.minutes, 80).doneMin;
    wide.observe({ kind: 'ocv', volts: shownOf(fast, setting).ocvV(), isRested: true });
    wide.observe(lookOf(fast, 120), lookOf(fast, 300));
    const read = bandOf(wide.spread(30), 0, SLOW.minutes, 80);
    expect(bandAt(read, 'volts', 300).high - bandAt(read, 'volts', 300).low).to.be.lessThan(0.6);
    expect(read.doneMin.high).to.be.lessThan(unread.high);
  });

  it('is read between its points', () => {
    const [first, second] = band.columns.volts;
    const half = bandAt(band, 'volts', (band.minutes[1] ?? 0) / 2);
    expect(half.middle).to.be.closeTo(((first?.middle ?? 0) + (second?.middle ?? 0)) / 2, 1e-9);
  });
});

/** A forecast that takes 4 A at 13 V for ever, near 22 °C and half full. */
const flat = (value: number, spread: number) =>
  Array.from({ length: 3 }, () => ({ low: value - spread, middle: value, high: value + spread }));
const FORECAST: Band = {
  minutes: [0, 300, 600],
  columns: {
    volts: flat(13, 0.3),
    amps: flat(4, 0.2),
    tempC: flat(22, 1),
    chargeShare: flat(0.5, 0.1),
  },
  doneMin: { low: 400, middle: 500, high: 600 },
};
const FULL: Band = {
  ...FORECAST,
  columns: { ...FORECAST.columns, chargeShare: flat(0.97, 0.01), volts: flat(14.5, 0.2) },
};

type Look = readonly [minute: number, voltageV: number, currentA: number, tempC: number];

describe('how a charge goes, named within one reading', () => {
  const question = (looks: readonly Look[]): OnCharge => ({
    looks: looks.map(([minute, voltageV, currentA, tempC]) => ({
      minute,
      at: minute * 60_000,
      voltageV,
      currentA,
      tempC,
    })),
    setA: 4,
    ceilingV: 14.6,
    cells: 6,
    capacityAh: 80,
  });
  for (const [name, course, band, looks] of [
    ['as forecast', 'on-course', FORECAST, [[60, 13.1, 4, 22]]],
    [
      'waking: voltage falls, current rises',
      'waking',
      FORECAST,
      [
        [10, 14.9, 0.4, 21],
        [40, 13.6, 2.6, 22],
      ],
    ],
    [
      'a sulfated rise: the voltage at once, almost no current',
      'sulfated-rise',
      FORECAST,
      [[20, 14.6, 0.3, 22]],
    ],
    [
      'one that took its current for hours and then no more is not asleep',
      'full-or-sulfated',
      FORECAST,
      [
        [60, 12.9, 4, 22],
        [180, 13.2, 4, 22],
        [300, 14.6, 0.3, 22],
      ],
    ],
    ['a dead cell: two volts low at full current', 'dead-cell', FORECAST, [[120, 11.1, 4, 22]]],
    ['a short: hot and low', 'short-heating', FORECAST, [[120, 12.1, 4, 30]]],
    ['warm, the voltage as it should be: no short is named', 'warmer', FORECAST, [[120, 13, 4, 36]]],
    ['a room eight kelvin warmer than it came: nothing is said', 'on-course', FORECAST, [[120, 13, 4, 30]]],
    ['21 °C where 18 was forecast: nothing at all', 'on-course', FORECAST, [[120, 13, 4, 25]]],
    ['full: the current gone at the voltage held', 'full', FULL, [[500, 14.6, 0.5, 23]]],
    [
      'otherwise: twice off the forecast by no known pattern',
      'otherwise',
      FORECAST,
      [
        [60, 14, 4, 22],
        [120, 14.05, 4, 22],
      ],
    ],
    ['once off the forecast is nothing yet: the forecast follows', 'on-course', FORECAST, [[60, 14, 4, 22]]],
    [
      'once above and once below is no course either',
      'on-course',
      FORECAST,
      [
        [60, 14, 4, 22],
        [120, 12.4, 4, 22],
      ],
    ],
    [
      'a small current is neither called full nor sulfated where it may be either',
      'full-or-sulfated',
      { ...FULL, columns: { ...FULL.columns, chargeShare: flat(0.7, 0.1) } },
      [[500, 14.6, 0.5, 23]],
    ],
  ] as const satisfies readonly (readonly [string, CourseId, Band, readonly Look[]])[])
    it(name, () => {
      const found = goingOn(question(looks), band);
      expect(found?.course).to.equal(course);
      expect(found?.words).to.match(/[.]$/);
    });

  it('a stop rule’s word stands above everything else', () => {
    const stopped = { ...question([[60, 13.1, 4, 22]]), stopped: 'Thermal runaway.' };
    expect(goingOn(stopped, FORECAST)).to.include({ course: 'stopped', words: 'Thermal runaway.' });
  });

  it('one cell’s voltage short is one cell’s on three cells too', () => {
    const half = { ...question([[120, 11.4, 4, 22]]), cells: 3 };
    expect(goingOn(half, FORECAST)?.course).to.equal('dead-cell');
  });

  it('says nothing before the first look', () => {
    expect(goingOn(question([]), FORECAST)).to.equal(undefined);
  });
});

describe('what was done, told from a run sheet', () => {
  const agm = (): TestJob => new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(12.0);

  it('nothing was done before the first charge, however long it stood', () => {
    const sheet = agm().wait(600);
    sheet.put('evidenced', { reading: { kind: 'tester', amps: 300 } });
    expect(courseOf(sheet.job.state).passages).to.deep.equal([]);
    expect(settingOf(sheet.job.state)).not.to.have.property('passages');
  });

  it('a charge still on is run to its end, and its looks fall within it', () => {
    const sheet = agm().route('slow-charge').put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
    sheet.wait(120).read(12.9, 2.75, 22);
    const { readings, passages, isOn } = courseOf(sheet.job.state);
    expect(isOn).to.equal(true);
    expect(passages).to.have.length(1);
    expect(passages[0]?.amps).to.equal(2.75);
    expect(readings.at(-1)).to.deep.equal({ kind: 'look', minute: 120, volts: 12.9, amps: 2.75, tempC: 22 });
  });

  it('a charge whose current was raised is one passage after the other, each at its own current', () => {
    const job = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(5.4).route('supply-wake');
    job.affirm('supply-polarity').put('chargeStarted', { step: job.current.key, currentA: 1.1 });
    job.wait(30).read(14.1, 1.09, 22).put('chargeSet', { step: job.current.key, currentA: 2.75 });
    job.wait(20).read(13.3, 2.74, 23).put('chargeEnded', { step: job.current.key, fullSignal: false });
    const { passages } = courseOf(job.job.state);
    expect(passages.map(({ amps, minutes }) => [amps, minutes])).to.deep.equal([
      [1.1, 30],
      [2.75, 20],
    ]);
  });

  it('after it, the hours at rest count, and a reading knows what lies behind it', () => {
    const sheet = agm().route('slow-charge').put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
    sheet.wait(1440).put('chargeEnded', { step: 'slow#1', fullSignal: false });
    sheet.wait(6).affirm('slow-clips').wait(90).measure('after-charge', { ocvV: 12.8, tempC: 21 });
    const { readings, passages } = courseOf(sheet.job.state);
    expect(passages.map(({ amps, minutes }) => [amps, Math.round(minutes)])).to.deep.equal([
      [2.75, 1440],
      [0, 96],
    ]);
    expect(readings.at(-1)).to.deep.equal({ kind: 'ocv', stage: 2, volts: 12.8, isRested: true });
  });

  it('of many looks it learns from a few, the first and the last among them', () => {
    const sheet = agm().route('slow-charge').put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
    for (let look = 0; look < 30; look++) sheet.wait(20).read(12.5 + look / 30, 2.75, 22);
    const minutes = (): number[] =>
      courseOf(sheet.job.state).readings.flatMap((one) => (one.kind === 'look' ? one.minute : []));
    expect(minutes()).to.deep.equal([20, 180, 340, 500, 600]);
    // One more leaves those between what they are.
    sheet.wait(20).read(13.5, 2.75, 22);
    expect(minutes()).to.deep.equal([20, 180, 340, 500, 620]);
  });

  it('what is seen of it while its charger is on is of that very minute, in its turn among the looks', () => {
    const sheet = agm().route('slow-charge').put('chargeStarted', { step: 'slow#1', currentA: 2.75 });
    sheet.wait(60).read(12.7, 2.75, 22).wait(30);
    const cells = [{ cell: 3, tempC: 31 }];
    sheet.put('evidenced', { reading: { kind: 'warmth', cells } });
    sheet.put('evidenced', { reading: { kind: 'ocv', volts: 12.4, isRested: true } });
    sheet.wait(30).read(12.9, 2.75, 22);
    const seen = (): Reading[] => courseOf(sheet.job.state).readings.slice(-4);
    expect(seen().map(({ kind }) => kind)).to.deep.equal(['look', 'warmth', 'ocv', 'look']);
    expect(seen()[1]).to.deep.equal({ kind: 'warmth', cells, midway: 90 });
    // Nothing is rested whose charger is on.
    expect(seen()[2]).to.deep.equal({ kind: 'ocv', volts: 12.4, isRested: false, midway: 90 });
    const before = seen();
    sheet.put('chargePaused', { step: 'slow#1', reason: 'stopped' });
    expect(seen()).to.deep.equal(before);
  });

  it('what the scale said before the water went in is a reading', () => {
    const read = (values: Record<string, number>): Reading | undefined => {
      const sheet = new TestJob('BK-A12/55', { agmWater: 'measured' }, undefined, 'recover-agm').triage(12.0);
      sheet.route('water-back').affirm('agm-water-case');
      sheet
        .measure(
          'agm-mats',
          sheet.eachCell('mat', () => 'dry'),
        )
        .measure('water-mass', values);
      return courseOf(sheet.job.state).readings.at(-1);
    };
    expect(read({ deficitG: 420 })).to.deep.equal({ kind: 'mass', deficitG: 420 });
    expect(read({ massG: 17_580 })).to.deep.equal({ kind: 'mass', deficitG: 420 });
  });

  it('a reading made again while it rests replaces the one before: a second look is no second witness', () => {
    const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(12.0);
    const say = (reading: Reading): TestJob => sheet.wait(10).put('evidenced', { reading });
    const seen = (kind: Reading['kind']): Reading[] =>
      courseOf(sheet.job.state).readings.filter((reading) => reading.kind === kind);
    say({ kind: 'tester', amps: 300 });
    say({ kind: 'mass', deficitG: 500 });
    say({ kind: 'tester', amps: 320 });
    expect(seen('tester')).to.deep.equal([{ kind: 'tester', amps: 320 }]);
    sheet.route('slow-charge').put('chargeStarted', { step: sheet.current.key, currentA: 2.75 });
    say({ kind: 'warmth', cells: [{ cell: 3, tempC: 30 }] });
    say({ kind: 'warmth', cells: [{ cell: 3, tempC: 33 }] });
    sheet.wait(1440).put('chargeEnded', { step: 'slow#1', fullSignal: false });
    say({ kind: 'tester', amps: 390 });
    say({ kind: 'tester', amps: 400 });
    // Before the charge and after it are two; on it every minute tells of its own.
    expect(seen('tester').map((one) => one.kind === 'tester' && one.amps)).to.deep.equal([320, 400]);
    expect(seen('warmth')).to.have.length(2);
    // A piece that was made light stays light.
    say({ kind: 'mass', deficitG: 480 });
    expect(seen('mass').map((one) => one.kind === 'mass' && one.deficitG)).to.deep.equal([480]);
  });

  it('readings of two cells, of two chargers, rested and not, repeat nothing', () => {
    const sheet = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded').triage(12.0);
    const before = courseOf(sheet.job.state).readings.length;
    const say = (reading: Reading): TestJob => sheet.wait(10).put('evidenced', { reading });
    say({ kind: 'charger', view: 'refuses', startV: 8 });
    say({ kind: 'charger', view: 'stuck', startV: 6 });
    say({ kind: 'ocv', volts: 12.4, isRested: false });
    expect(courseOf(sheet.job.state).readings).to.have.length(before + 3);
    // Two cells of the triage are read again, the other four stand.
    say({ kind: 'density', cell: 1, density: 1.2 });
    say({ kind: 'density', cell: 2, density: 1.21 });
    const { readings } = courseOf(sheet.job.state);
    expect(readings).to.have.length(before + 3);
    expect(readings.filter(({ kind }) => kind === 'density')).to.have.length(6);
  });

  it('water counted cell by cell goes into its own cells', () => {
    const sheet = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded').triage(12.0);
    sheet.route('water-back').put('skipped', { step: 'water-mass#1' });
    sheet.measure('water-dose', { ml2: 80, ml3: 40, ml: 120 });
    expect(courseOf(sheet.job.state).passages[0]?.waterMl).to.deep.equal([0, 80, 40, 0, 0, 0]);
  });

  it('mistake: density of a battery whose acid was changed for a salt says nothing, charged or not', () => {
    const rules = { additives: 'sodium' } as const;
    const sheet = new TestJob('BK-F12/70', rules, undefined, 'recover-flooded').triage(12.0);
    sheet.route('salt-change').affirm('salt-case').measure('salt-in', { ml: 3000 });
    sheet.route('slow-charge').put('chargeStarted', { step: sheet.current.key, currentA: 3.5 });
    sheet.wait(1440).put('chargeEnded', { step: sheet.current.key, fullSignal: false });
    sheet.wait(20).put('evidenced', { reading: { kind: 'density', cell: 1, density: 1.1 } });
    expect(courseOf(sheet.job.state).readings.at(-1)).to.include({ isMixed: false });
  });

  it('mistake: density read after water went in says nothing until a charge has mixed it', () => {
    const sheet = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded').triage(12.0);
    sheet.route('water-back').put('skipped', { step: 'water-mass#1' }).measure('water-dose', { ml: 300 });
    const density = { kind: 'density', cell: 1, density: 1.1 } as const;
    sheet.wait(10).put('evidenced', { reading: density });
    expect(courseOf(sheet.job.state).readings.at(-1)).to.deep.equal({ ...density, stage: 1, isMixed: false });
    expect(courseOf(sheet.job.state).passages).to.deep.equal([
      { amps: 0, volts: 0, minutes: 0, waterMl: [50, 50, 50, 50, 50, 50] },
    ]);
    sheet.route('slow-charge').put('chargeStarted', { step: sheet.current.key, currentA: 3.5 });
    sheet.wait(1440).put('chargeEnded', { step: sheet.current.key, fullSignal: false });
    sheet.wait(20).put('evidenced', { reading: density });
    expect(courseOf(sheet.job.state).readings.at(-1)).not.to.have.property('isMixed');
  });
});
