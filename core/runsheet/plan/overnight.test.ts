import { expect } from 'chai';
import { CHARGERS } from '../../charge/chargers.ts';
import { chargerOf } from '../../adapters/bayRoom.ts';
import { GENERIC_SUPPLY } from '../../devices/genericProfiles.ts';
import { TestJob } from '../../test/testJob.ts';
import { atHand } from './atHand.ts';
import { forecast } from './forecast.ts';
import type { HouseRules } from '../../rules/houseRules.ts';

const AFTERNOON = Date.parse('2026-03-10T13:00:00Z');
const charger = (id: string) => {
  const outfit = { bay: 1, source: GENERIC_SUPPLY, hasCutOff: true };
  const found = id === 'bay' ? chargerOf(outfit) : CHARGERS.find((one) => one.id === id);
  if (!found) throw new Error(`no charger ${id}`);
  return found;
};

/** A slow charge begun at one, that lasts past closing at six. */
function slow(id: string | undefined, rules: Partial<HouseRules> = {}): TestJob {
  const sheet = new TestJob('BK-A12/55', rules, AFTERNOON, 'recover-agm').triage(12).route('slow-charge');
  return sheet.put('chargeStarted', {
    step: sheet.current.key,
    currentA: 2.75,
    ...(id === undefined ? {} : { charger: charger(id) }),
  });
}
const hand = (sheet: TestJob) => atHand(sheet.job.state, sheet.now);
const toClosing = (sheet: TestJob): TestJob =>
  sheet.wait(60).read(12.6, 2.75, 21).wait(120).read(12.9, 2.75, 22).wait(110);

describe('a charge that outlasts the shop’s hours', () => {
  it('on a charger that cuts off by itself is looked at before closing, and told what nobody will see', () => {
    const sheet = toClosing(slow('supply'));
    expect(hand(sheet)).to.include({
      title: 'Last look before closing',
      dueAt: Date.parse('2026-03-10T17:40:00Z'),
    });
    expect(hand(sheet)?.note).to.equal(
      'Nobody sees it from 18:00 to Wed 08:00; the first look in the morning judges the whole night.',
    );
    sheet.read(13, 2.75, 22);
    expect(hand(sheet)?.title).not.to.include('closing');
  });

  it('in a bay with devices of its own runs on where the house lets that bay, and looks by itself', () => {
    const inBay = slow('bay', { bayAtNight: 'cutOff' });
    for (let looks = 0; looks < 20; looks++) inBay.wait(15).read(13, 2.75, 22);
    expect(inBay.now).to.be.above(Date.parse('2026-03-10T17:40:00Z'));
    expect(hand(inBay)?.title).to.equal('Charged by its bay, and off by itself');
  });

  for (const [name, sheet, because] of [
    ['a bay of a house that lets none', () => slow('bay'), 'no bay charges by itself then'],
    ['a knob', () => slow('bench'), 'Bench charger, current by knob does not cut off by itself'],
    ['an unknown charger', () => slow(undefined), 'its charger is not on record'],
    [
      'a house that lets nothing run on',
      () => slow('supply', { unattended: 'never' }),
      'by this house’s rule',
    ],
  ] as const)
    it(`with ${name} it is switched off before closing, a look does not do`, () => {
      const late = toClosing(sheet());
      expect(hand(late)?.title).to.equal('Charger off before closing');
      expect(hand(late)?.note).to.include(because);
      late.read(13, 2.75, 22);
      expect(hand(late)?.title).to.equal('Charger off before closing');
      late.put('chargePaused', { step: late.current.key, reason: 'stopped' });
      expect(hand(late)).to.include({ title: 'Resume the charge', dueAt: late.now });
    });

  it('one that ends before closing is not spoken of', () => {
    const sheet = new TestJob('BK-A12/55', {}, AFTERNOON, 'recover-agm').triage(4).route('supply-wake');
    sheet.affirm('supply-polarity').put('chargeStarted', { step: sheet.current.key, currentA: 1.1 });
    expect(hand(sheet.wait(250))?.title).not.to.include('closing');
  });

  it('looks in closed hours are one look when the shop opens', () => {
    const sheet = slow('supply');
    const looks = forecast(sheet.job.state, sheet.now).knots.filter(({ title }) =>
      title.startsWith('Read volts'),
    );
    for (const { at } of looks) expect(new Date(at).getUTCHours()).to.be.within(8, 17);
    expect(new Set(looks.map(({ at }) => at)).size).to.equal(looks.length);
  });
});

describe('looks at a running charge', () => {
  it('are hourly while the voltage is held, and twice as often near the limit of warmth', () => {
    const due = (volts: number, tempC: number): number => {
      const sheet = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(12).route('slow-charge');
      sheet.put('chargeStarted', { step: sheet.current.key, currentA: 2.75, charger: charger('supply') });
      sheet.wait(130).read(volts, 2.0, tempC);
      return ((hand(sheet)?.dueAt ?? 0) - sheet.now) / 60_000;
    };
    expect(due(13, 22)).to.be.above(60);
    expect(due(14.75, 22)).to.be.at.most(60);
    expect(due(13, 42)).to.be.at.most(30);
  });
});
