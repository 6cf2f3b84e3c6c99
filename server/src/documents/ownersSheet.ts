/** What goes with the vehicle's papers: date, charge, next check, how long it may stand, cautions (handbook 10). */
import { TZDate } from '@date-fns/tz';
import { addMonths } from 'date-fns';
import { rechargeLineV } from '@cork-ember/core/battery/shelfLines.ts';
import { CONSTRUCTION } from '@cork-ember/core/battery/construction.ts';
import { nominalV, onSix } from '@cork-ember/core/battery/types.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { daysStanding } from '@cork-ember/core/reckoner/testing.ts';
import { standingLossPercent } from '@cork-ember/core/battery/selfDischarge.ts';
import { chargeNow } from '@cork-ember/core/runsheet/outcome/chargeNow.ts';
import { absoluteCeilingA } from '@cork-ember/core/charge/firstCharge.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { basisOf, contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import {
  batteryRows,
  ownerCautions,
  signerOf,
  usedCautions,
  type DocumentContent,
  type Row,
} from './content.ts';
import { verdictOf } from './figures.ts';

/** A usual draw of a parked vehicle, and one that should be looked for. */
const USUAL_MA = 25;
const HIGH_MA = 80;
/** A month as the draw is reckoned, days, and a shed's usual warmth, °C. */
const MONTH_DAYS = 30.4;
const SHED_C = 20;
/** From here on it is told in months. */
const LONG_DAYS = 90;
/** What a car charger gives, and the size it is too much for (handbook 9). */
const SMALL_AH = 30;

function standingRows(state: JobState, percent: number): Row[] {
  const { type } = state.opened;
  const construction = type.construction;
  const monthlyPct = standingLossPercent(construction, MONTH_DAYS, SHED_C).most;
  const days = (draw: number): string => {
    const found = daysStanding(type.capacityAh, draw, { percent, monthlyPct, construction }).to124;
    if (found < 1) return 'less than a day';
    return found > LONG_DAYS
      ? `about ${(found / MONTH_DAYS).toFixed(0)} months`
      : `about ${found.toFixed(0)} days`;
  };
  return [
    ['Parked, disconnected', `${days(0)} until it rests at the line below which it is harmed`],
    [`Parked, ${USUAL_MA} mA drawn`, `${days(USUAL_MA)}; a usual vehicle with nothing left on`],
    [`Parked, ${HIGH_MA} mA drawn`, `${days(HIGH_MA)}; that much is worth looking for with a clamp meter`],
  ];
}

/** How it is charged at home: what it takes at most, and what keeps it. */
function chargingRows(state: JobState): Row[] {
  const { type } = state.opened;
  const mostA = Math.max(contextOf(state, 1).chargeSetting().current.value, absoluteCeilingA(basisOf(state)));
  const { floatFromV, floatToV } = CONSTRUCTION[type.construction];
  const keeps = [floatFromV, floatToV].map((volts) => onSix(volts, type).toFixed(1)).join(' to ');
  return [
    [
      'At most',
      `${mostA.toFixed(mostA < 10 ? 1 : 0)} A, on a charger made for its kind and for ${nominalV(type)} V`,
    ],
    ...(type.capacityAh <= SMALL_AH
      ? [['Never', 'a car charger: it gives more than this small battery takes'] as const]
      : []),
    ['To keep it', `a maintainer that holds ${keeps} V, not a plain trickle`],
  ];
}

/** The owner's sheet of a battery that passed, or of a recovered one handed on as used. */
export function ownersSheetOf({ state }: Pick<Job, 'state'>, shop: Shop): DocumentContent {
  const { battery, type, hours } = state.opened;
  const endedAt = state.endedAt ?? state.openedAt;
  const charge = chargeNow(state);
  const isRecovered = state.outcome === 'recovered';
  // Months are the shop's: the same day of the month in its zone, over a change of the clocks too.
  const on = (months: number): string =>
    dateText(addMonths(new TZDate(endedAt, hours.timeZone), months).getTime(), hours.timeZone);
  const line = rechargeLineV(type.construction, type.cells).toFixed(2);
  return {
    shop: shop.name,
    tag: battery.tag,
    title: 'Owner’s sheet',
    lead: 'Keep it with the vehicle’s papers.',
    ...(isRecovered ? { verdict: verdictOf(state) } : {}),
    figures: [],
    beforeAfter: [],
    curves: [],
    cord: [],
    sections: [
      { title: 'Your battery', rows: batteryRows(state) },
      {
        title: 'When it left the bench',
        rows: [
          ['Date', dateText(endedAt, hours.timeZone)],
          ...(charge
            ? [['Charge', `${charge.words}; it rested at ${charge.ocvV.toFixed(2)} V`] as const]
            : []),
        ],
      },
      {
        title: 'Next check',
        rows: [
          ['Look at it', `${on(1)}, and every month: rested overnight it should read above ${line} V`],
          [
            'Look for',
            'cracks, a bulge, wet or white posts, a loose strap: then it is not charged, bring it in',
          ],
          ['Charge it', `at once when it reads less, and by ${on(3)} whatever it reads`],
        ],
      },
      { title: 'Charging it', rows: chargingRows(state) },
      { title: 'How long it may stand', rows: standingRows(state, charge?.low ?? 80) },
    ],
    record: [],
    cautionsTitle: 'For your safety',
    cautions: (isRecovered ? usedCautions : ownerCautions)(type.construction, type.cells),
    signature: `Handed over by ${signerOf(state)}, ${shop.name}, ${dateText(endedAt, hours.timeZone)}.`,
    photos: [],
  };
}
