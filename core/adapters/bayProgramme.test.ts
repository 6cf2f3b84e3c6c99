import { expect } from 'chai';
import type { HouseRules } from '../rules/houseRules.ts';
import { MORNING, TestJob } from '../test/testJob.ts';
import { judge } from '../runsheet/verdict/proof.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import type { Outfit } from '../devices/outfit.ts';
import { bayNext, type BayNext, type Programme } from './bayProgramme.ts';

const OUTFIT: Outfit = {
  bay: 1,
  hasSupply: true,
  hasLoad: true,
  hasCutOff: true,
  readsVolts: true,
  readsWarmth: true,
};
const FAR: Programme = { far: 'as-far-as-it-can', leavesTester: true };
const HOUR_MIN = 60;

const recovery = (rules: Partial<HouseRules> = {}): TestJob =>
  new TestJob('BK-A12/55', rules, MORNING, 'recover-agm');

const nextOf = (sheet: TestJob, programme = FAR, outfit = OUTFIT): BayNext =>
  bayNext(sheet.job.state, programme, outfit, sheet.now);

/** Charges it as a bay would: looks by the hour, full and flat in the end. */
function charge(sheet: TestJob): TestJob {
  const step = sheet.current.key;
  const { capacityAh } = sheet.job.state.opened.type;
  sheet.put('chargeStarted', { step, currentA: capacityAh / 20 });
  for (let hour = 1; hour <= 24; hour++) {
    const tail = (capacityAh / 20) * Math.exp(-Math.max(0, hour - 9));
    sheet.wait(HOUR_MIN).read(Math.min(14.4, 12.6 + 0.2 * hour), Number(tail.toFixed(2)), 25);
  }
  return sheet.put('chargeEnded', { step, fullSignal: false });
}

/** Goes on by itself until hands are asked for; what it did, in turn. */
function goOn(sheet: TestJob, volts: () => number, most = 40): { did: string[]; why: string } {
  const did: string[] = [];
  while (did.length < most) {
    const next = nextOf(sheet);
    did.push(next.does);
    switch (next.does) {
      case 'hands':
        return { did, why: next.why };
      case 'wait':
        sheet.wait((next.untilMs - sheet.now) / 60_000);
        break;
      case 'charge':
        charge(sheet);
        break;
      case 'drain':
        sheet.wait(10 * HOUR_MIN).measure('prove-capacity', { method: 'tenth', drawnAh: 51 });
        break;
      case 'read':
        sheet.put('measured', {
          step: next.step,
          values: { ocvV: volts(), tempC: 21 },
          source: 'Meter of bay 1',
        });
        break;
      case 'part':
        if (next.entry.kind === 'affirmed') sheet.put('affirmed', next.entry.payload);
        break;
      case 'write':
        if (next.entry.kind === 'routed') sheet.put('routed', next.entry.payload);
        if (next.entry.kind === 'skipped') sheet.put('skipped', next.entry.payload);
    }
  }
  throw new Error(`it never ends: ${did.join(' ')}`);
}

describe('a programme over days', () => {
  it('charges, proves it full, measures its capacity, charges again and holds it, and asks for hands to grade it', () => {
    const sheet = recovery().triage(11.4).route('slow-charge');
    const from = sheet.now;
    const { did, why } = goOn(sheet, () => 12.84);
    expect(did).to.deep.equal([
      ...['charge', 'wait', 'part', 'wait', 'read', 'write'],
      ...['part', 'wait', 'read', 'write', 'drain', 'charge', 'wait', 'part', 'wait', 'read'],
      ...['wait', 'read', 'wait', 'read', 'hands'],
    ]);
    expect(why).to.equal('Grade it, try another way, or retire it');
    const hand = sheet.current;
    expect(hand.stepId).to.equal('grade');
    const { reasons } = judge(contextOf(sheet.job.state, hand.round));
    expect(reasons.map(({ sentence }) => sentence)).to.include.members([
      'Capacity: 102 % of the rating.',
      'Grade B: Cranking was not measured, so B is the most for a starter. For a vehicle driven daily, or light stationary duty; no warranty.',
    ]);
    expect((sheet.now - from) / 86_400_000).to.be.within(9, 13);
  });

  it('reads at night too, and never sooner than the sheet lets it', () => {
    const sheet = recovery().triage(11.4).route('slow-charge');
    charge(sheet).wait(45).affirm('slow-clips');
    const next = nextOf(sheet);
    expect(next).to.include({ does: 'wait', title: 'Read it rested' });
    sheet.wait(61);
    expect(nextOf(sheet)).to.include({ does: 'read', step: 'after-charge#1' });
  });

  it('ends where somebody has to stand beside it, and where a charge was paused', () => {
    const asleep = recovery().triage(4.2).route('supply-wake');
    expect(nextOf(asleep).does).to.equal('hands');
    asleep.affirm('supply-polarity');
    expect(nextOf(asleep).does, 'attended').to.equal('hands');
    const sheet = recovery().triage(11.4).route('slow-charge');
    sheet.put('chargeStarted', { step: 'slow#1', currentA: 2.75 }).wait(30);
    sheet.put('chargePaused', { step: 'slow#1', reason: 'stopped' });
    expect(nextOf(sheet)).to.deep.equal({
      does: 'hands',
      why: 'The charger is off. The lost time is added; what was flat before proves nothing.',
    });
  });

  it('charges on once where a day did not prove it full, and then leaves it to a person', () => {
    const sheet = recovery().triage(11.4).route('slow-charge');
    const neverFlat = (): void => {
      sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75 });
      for (let hour = 4; hour <= 24; hour += 4)
        sheet.wait(240).read(Math.min(14.4, 12.9 + 0.14 * hour), 2.75 - 0.08 * hour, 25);
      sheet.put('chargeEnded', { step: sheet.current.key, fullSignal: false });
    };
    neverFlat();
    sheet.wait(45).affirm('slow-clips').wait(61).measure('after-charge', { ocvV: 12.5, tempC: 21 });
    const on = nextOf(sheet);
    expect(on).to.have.nested.property('entry.payload.route', 'slow-charge');
    sheet.route('slow-charge');
    neverFlat();
    const { did, why } = goOn(sheet, () => 12.5);
    expect(did.at(-1)).to.equal('hands');
    expect(why).to.equal('Choose how it goes on');
  });

  it('waits for nobody’s tester where it was said so, and asks for hands where not', () => {
    const sheet = recovery().triage(12.85).route('prove', 'it came charged');
    sheet.affirm('prove-off').wait(1445).measure('prove-ocv', { ocvV: 12.85, tempC: 21 });
    expect(nextOf(sheet).does).to.equal('write');
    expect(nextOf(sheet, { ...FAR, leavesTester: false })).to.deep.equal({
      does: 'hands',
      why: 'Load it, or use the tester',
    });
  });

  it('measures the resistance of one without a cranking rating, and waits for nobody’s tester either', () => {
    const type = CATALOGUE.find(({ id }) => id === 'TQ-A12/20');
    if (!type) throw new Error('no such type');
    const { cranking: _none, ...unrated } = type;
    const sheet = new TestJob(unrated, {}, MORNING, 'recover-agm')
      .triage(12.85)
      .route('prove', 'it came charged');
    sheet.affirm('prove-off').wait(1445).measure('prove-ocv', { ocvV: 12.85, tempC: 21 });
    expect(sheet.current.stepId).to.equal('prove-load');
    expect(nextOf(sheet, { ...FAR, leavesTester: false })).to.deep.equal({ does: 'drain' });
    expect(nextOf(sheet, FAR, { ...OUTFIT, hasLoad: false }).does).to.equal('write');
  });

  it('needs a cut-off to be parted, a load to be drawn down, a meter to be read', () => {
    const sheet = recovery().triage(12.85).route('prove', 'it came charged');
    expect(nextOf(sheet).does).to.equal('part');
    expect(nextOf(sheet, FAR, { ...OUTFIT, hasCutOff: false }).does).to.equal('hands');
    sheet.affirm('prove-off').wait(1445);
    expect(nextOf(sheet).does).to.equal('read');
    expect(nextOf(sheet, FAR, { ...OUTFIT, readsWarmth: false }).does).to.equal('hands');
    sheet.measure('prove-ocv', { ocvV: 12.85, tempC: 21 }).leaveOut('prove-load');
    expect(nextOf(sheet).does).to.equal('drain');
    expect(nextOf(sheet, FAR, { ...OUTFIT, hasLoad: false }).does).to.equal('hands');
    expect(nextOf(sheet, FAR, { ...OUTFIT, bay: 2 })).to.have.property(
      'why',
      'It does not stand in bay 2 any more.',
    );
  });

  it('without one, what a load drew is put back and nothing else is done', () => {
    const sheet = recovery().toCapacity();
    const recharged: Programme = { far: 'recharged', leavesTester: false };
    sheet.wait(600).measure('prove-capacity', { method: 'tenth', drawnAh: 51 });
    expect(nextOf(sheet, recharged).does).to.equal('charge');
    charge(sheet);
    expect(nextOf(sheet, recharged).does).to.equal('hands');
    const other = recovery().triage(11.4).route('slow-charge');
    expect(nextOf(other, recharged).does, 'nothing was drawn').to.equal('hands');
  });

  it('leaves a week in a vehicle to hands', () => {
    const sheet = recovery({ holdTest: 'fittedWeek' }).triage(11.4).route('slow-charge');
    expect(goOn(sheet, () => 12.84).why).to.equal('Hold, the rest of the week');
  });
});
