/** Batteries brought back to the demo shop, in every stage of finding out, bringing back and proving. */
import { DAY, story, type Calendar } from './calendar.ts';
import type { Story } from './story.ts';

interface Brought {
  readonly tag: string;
  readonly typeId: string;
  readonly owner: string;
  readonly bay: number;
  readonly opened: number;
  readonly ageMonths: number;
  readonly visit?: number;
}

function brought(calendar: Calendar, battery: Brought): Story {
  return story(calendar, {
    ...battery,
    by: 'Tarek',
    promisedAt: battery.opened + 9 * DAY,
    procedure: battery.typeId.includes('-F') ? 'recover-flooded' : 'recover-agm',
  });
}

/** On the bench now: beside a donor, on pulses, found shorted, found dry. */
export function broughtBack(calendar: Calendar): Story[] {
  const deep = brought(calendar, {
    tag: 'SK-0104',
    typeId: 'BK-A12/55',
    owner: 'winter caravan, house battery',
    bay: 9,
    opened: calendar.at('10:05'),
    ageMonths: 51,
  });
  deep.findOut({ complaint: 'parked', flatMonths: 5 });
  deep.route('donor-wake', 'The bench supply is out on the ferry until noon.');
  deep.measure({ donorV: 12.58 }, 'Bench meter').affirm(2).waitUntil(calendar.at('10:38')).chargeAt(8);
  deep.waitUntil(calendar.at('10:58')).look();

  const pulsed = brought(calendar, {
    tag: 'SK-0105',
    typeId: 'TQ-A12/30',
    owner: 'sailing school, launch 2',
    bay: 10,
    opened: calendar.at('09:10', 5),
    ageMonths: 38,
  });
  pulsed.findOut({ complaint: 'parked', flatMonths: 7 }).route('pulse').chargeAt(1.5);
  for (const daysAgo of [3, 1]) pulsed.waitUntil(calendar.at('09:30', daysAgo)).look();
  pulsed.waitUntil(calendar.at('10:40')).look();

  const shorted = brought(calendar, {
    tag: 'SK-0106',
    typeId: 'BK-F12/70',
    owner: 'harbour tractor',
    bay: 11,
    opened: calendar.at('07:40'),
    ageMonths: 63,
  });
  shorted.findOut({ complaint: 'charger-nothing' }, [1.2, 1.205, 1.09, 1.195, 1.2, 1.205]);
  shorted.route('slow-charge', 'The old garage charger starts at 6 V and sees it.').chargeAt(7);
  shorted.looks(2.5, 30);
  shorted.lookIntoCells();
  shorted.leave('Five cells gas, and cell 3 stays silent and is the warmest');

  const dry = brought(calendar, {
    tag: 'SK-0107',
    typeId: 'BK-A12/55',
    owner: 'radio mast, standby',
    bay: 12,
    opened: calendar.at('10:55'),
    ageMonths: 82,
  });
  dry.findOut({ complaint: 'slow-crank' }).weigh();
  return [deep, pulsed, shorted, dry];
}

/** The night ferry's emergency set: replaced whole because one was bad, and the good ones kept for new sets. */
function ofTheFerry(calendar: Calendar): Story[] {
  return ['SK-0091', 'SK-0092', 'SK-0093', 'SK-0094', 'SK-0095'].map((tag, index) => {
    const one = brought(calendar, {
      tag,
      typeId: 'BK-A12/55',
      owner: 'stock, from the night ferry’s set',
      bay: 9,
      opened: calendar.at('08:10', 60 + index),
      ageMonths: 44,
    });
    one.findOut({ complaint: 'parked', flatMonths: 2 });
    if (tag === 'SK-0095') return one.load().retire('collapsed');
    one.route('slow-charge').chargeAt(2.75).looks(24, 60).readRested();
    return one.prove().decide('pass').affirm(3);
  });
}

/** Proved and graded, or found finished. */
export function backBefore(calendar: Calendar): Story[] {
  const collapsed = brought(calendar, {
    tag: 'SK-0103',
    typeId: 'BK-F12/70',
    owner: 'island post van',
    bay: 11,
    opened: calendar.at('09:15', 12),
    ageMonths: 71,
  });
  collapsed.findOut({ complaint: 'slow-crank' }, [1.26, 1.265, 1.26, 1.265, 1.19, 1.26]);
  collapsed.load().retire('collapsed');

  const sound = brought(calendar, {
    tag: 'SK-0101',
    typeId: 'BK-A12/55',
    owner: 'sailing school, launch 1',
    bay: 9,
    opened: calendar.at('08:10', 24),
    ageMonths: 29,
  });
  sound.findOut({ complaint: 'lights-left', flatMonths: 1 });
  sound.route('slow-charge').chargeAt(2.75).looks(24, 60).readRested().prove().decide('pass').affirm(3);

  const caravan = {
    tag: 'SK-0102',
    typeId: 'BK-A12/55',
    owner: 'winter caravan, starter',
    bay: 10,
    ageMonths: 66,
  };
  const winters = [760, 395].map((daysAgo, index) => {
    const opened = calendar.at('08:10', daysAgo);
    const before = brought(calendar, { ...caravan, opened, visit: index + 1 });
    before.findOut({ complaint: 'lights-left', flatMonths: 0.5 }).route('slow-charge').chargeAt(2.75);
    return before.looks(24, 60).readRested().prove().decide('pass').affirm(3);
  });
  const tired = brought(calendar, { ...caravan, opened: calendar.at('08:10', 26), visit: 3 });
  tired.findOut({ complaint: 'parked', flatMonths: 9 });
  // Charged and rested before it is treated: what the tester gains after that is no charge.
  tired.route('slow-charge').chargeAt(2.75).looks(24, 60).readRested().wait(240).tester();
  tired
    .route('long-soak')
    .chargeAt(5.5)
    .looks(44, 60)
    .chargeOff()
    .wait(6)
    .affirm()
    .wait(3 * 24 * 60 + 60);
  tired.measure({ ocvV: tired.read('voltage', 2), tempC: tired.read('temperature', 1) }, 'Bench meter');
  tired.prove().decide('pass').affirm(3);
  return [...winters, ...ofTheFerry(calendar), collapsed, sound, tired];
}
