/** The batteries on Skerry's bench when the demo begins, and a few that left it. */
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { nextOpenMoment } from '@cork-ember/core/clock/shopHours.ts';
import type { JobStore } from '../store/jobStore.ts';
import { Calendar, DAY, MINUTE, story } from './calendar.ts';
import { backBefore, broughtBack } from './recoveries.ts';
import type { Story } from './story.ts';

/** Seven bays at work, each at another point of its run sheet. */
function onTheBench(calendar: Calendar): Story[] {
  const at = (clock: string, daysAgo = 0): number => calendar.at(clock, daysAgo);
  const tomorrow = nextOpenMoment(calendar.shop.hours, at('18:00')) + 150 * MINUTE;
  const sketch = (
    tag: string,
    typeId: string,
    owner: string,
    bay: number,
    by: string,
    opened: number,
    promisedAt: number,
    ageMonths = 4,
  ): Story => story(calendar, { tag, typeId, owner, bay, by, opened, promisedAt, ageMonths });

  const charging = sketch('SK-0139', 'LW-A12/12', 'harbour quad bike', 1, 'Ines', at('07:31'), at('17:45'));
  charging
    .checkIn()
    .pressOn()
    .drain(10)
    .wait(31)
    .affirm()
    .waitUntil(at('10:22'))
    .startCharge(1.2)
    .waitUntil(at('10:46'))
    .look();

  const hot = sketch(
    'SK-0142',
    'LW-A12/9',
    'ferry slip, emergency light 2',
    2,
    'Tarek',
    at('11:10', 1),
    tomorrow,
    16,
  );
  hot.checkIn().code('P-09').skip().affirm();
  hot.put({
    kind: 'overridden',
    payload: { step: 'pack-on#1', reason: 'The ferry needs it: charged in two parts, off overnight.' },
  });
  hot.affirm().drain(11).wait(62).affirm().wait(122).startCharge(0.9).wait(60).look();
  hot
    .waitUntil(at('17:55', 1))
    .put({ kind: 'chargePaused', payload: { step: 'charge#1', reason: 'stopped' } });
  hot
    .waitUntil(at('07:40'))
    .put({ kind: 'chargeResumed', payload: { step: 'charge#1', tempC: hot.read('temperature', 1) } });
  hot.waitUntil(at('09:05')).look().waitUntil(at('10:52')).look();
  hot.put({ kind: 'chargePaused', payload: { step: 'charge#1', reason: 'hot' } });
  hot.put({ kind: 'noted', payload: { text: 'Bay 2 stands by the stove. Moved to the door.' } });

  const draining = sketch('SK-0147', 'LW-A12/9', 'tide-gauge hut', 3, 'Ines', at('10:12'), tomorrow);
  draining.checkIn().pressOn().waitUntil(at('10:26')).drain(11);

  const soaking = sketch('SK-0144', 'TQ-A12/20', 'mobility scooter', 4, 'Solveig', at('07:44'), tomorrow, 9);
  soaking.checkIn().pressOn().drain(24).wait(62).affirm();

  const wrongPack = sketch(
    'SK-0149',
    'LW-A12/4',
    'pilot launch, bilge alarm',
    5,
    'Tarek',
    at('10:48'),
    tomorrow,
  );
  wrongPack.checkIn().code('P-09');

  const overdue = sketch(
    'SK-0136',
    'LW-A6/12',
    'channel buoy 7',
    6,
    'Solveig',
    at('08:20'),
    tomorrow + DAY,
    7,
  );
  overdue.checkIn().pressOn().drain(13);

  const resting = sketch(
    'SK-0128',
    'TQ-A12/14',
    'leading light, upper',
    7,
    'Ines',
    at('07:40', 1),
    at('16:00'),
    14,
  );
  resting
    .checkIn()
    .pressOn()
    .drain(24)
    .wait(46)
    .affirm()
    .wait(121)
    .startCharge(1.4)
    .charge(1.4)
    .waitUntil(at('10:28'))
    .affirm(2);

  return [charging, hot, draining, soaking, wrongPack, overdue, resting];
}

/** Jobs that have ended, well and otherwise. */
function goneBefore(calendar: Calendar): Story[] {
  const ended = (tag: string, typeId: string, owner: string, daysAgo: number, ageMonths: number): Story =>
    story(calendar, {
      tag,
      typeId,
      owner,
      bay: 3,
      by: 'Solveig',
      opened: calendar.at('07:35', daysAgo),
      promisedAt: calendar.at('07:35', daysAgo) + 2 * DAY,
      ageMonths,
    });
  return [
    ended('SK-0121', 'LW-A12/9', 'leading light, lower', 5, 5).certify(0.9),
    ended('SK-0117', 'LW-A12/12', 'stock', 8, 6).certify(1.2),
    ended('SK-0112', 'LW-A6/4', 'ferry slip, emergency light 1', 15, 3).certify(0.4),
    ended('SK-0119', 'TQ-A12/20', 'stock', 6, 11).affirm().measure({}).affirm().deny('foil-broken'),
    ended('SK-0109', 'LW-A12/4', 'pilot launch, compass light', 20, 34)
      .checkIn()
      .pressOn()
      .wait(6)
      .deny('never-bubbles'),
  ];
}

/** Fills an empty file with the demo shop's past, as it stands at `now`. */
export async function seedDemo(store: JobStore, shop: Shop, now: number): Promise<void> {
  const calendar = new Calendar(shop, now);
  const stories = [...goneBefore(calendar), ...backBefore(calendar), ...onTheBench(calendar)];
  for (const told of [...stories, ...broughtBack(calendar)]) {
    const { battery, summary, events } = told.rows();
    await store.createJob(battery, summary, await store.keeping(events));
  }
}
