/** What goes with the vehicle's papers: date, charge, next check, how long it may stand, cautions (handbook 10). */
import { addMonths } from 'date-fns';
import { chargeFromRestedVoltage } from '@cork-ember/core/battery/stateOfCharge.ts';
import { constructionOf } from '@cork-ember/core/battery/types.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { daysStanding, MONTHLY_LOSS_PCT } from '@cork-ember/core/reckoner/testing.ts';
import { latest, type JobState } from '@cork-ember/core/runsheet/state.ts';
import { dateText } from '@cork-ember/core/schedule/clockText.ts';
import { batteryRows, ownerCautions, signerOf, type DocumentContent, type Row } from './content.ts';

/** A usual draw of a parked vehicle, and one that should be looked for. */
const USUAL_MA = 25;
const HIGH_MA = 80;

function standingRows(state: JobState, percent: number): Row[] {
  const { type } = state.opened;
  const monthlyPct = MONTHLY_LOSS_PCT[constructionOf(type.kind)];
  const days = (draw: number): string =>
    `about ${daysStanding(type.capacityAh, draw, { percent, monthlyPct }).to124.toFixed(0)} days`;
  return [
    ['Parked, disconnected', `${days(0)} until it rests at the line below which it is harmed`],
    [`Parked, ${USUAL_MA} mA drawn`, `${days(USUAL_MA)}; a usual vehicle with nothing left on`],
    [`Parked, ${HIGH_MA} mA drawn`, `${days(HIGH_MA)}; that much is worth looking for with a clamp meter`],
  ];
}

/** The owner's sheet of a battery that passed. */
export function ownersSheetOf(state: JobState, shop: Shop): DocumentContent {
  const { battery, type, hours } = state.opened;
  const endedAt = state.endedAt ?? state.openedAt;
  const ocvV = latest(state, 'test-ocv')?.values?.['ocvV'];
  const charge =
    typeof ocvV === 'number'
      ? chargeFromRestedVoltage(ocvV, type.cells, constructionOf(type.kind))
      : undefined;
  const on = (months: number): string => dateText(addMonths(endedAt, months).getTime(), hours.timeZone);
  const line = ((12.4 * type.cells) / 6).toFixed(1);
  return {
    shop: shop.name,
    tag: battery.tag,
    title: 'Owner’s sheet',
    lead: 'Keep it with the vehicle’s papers.',
    sections: [
      { title: 'Your battery', rows: batteryRows(state) },
      {
        title: 'When it left the bench',
        rows: [
          ['Date', dateText(endedAt, hours.timeZone)],
          ...(charge && typeof ocvV === 'number'
            ? [['Charge', `about ${charge.mean.toFixed(0)} %; it rested at ${ocvV.toFixed(2)} V`] as const]
            : []),
        ],
      },
      {
        title: 'Next check',
        rows: [
          ['Look at it', `${on(1)}, and every month: rested overnight it should read above ${line} V`],
          ['Charge it', `at once when it reads less, and by ${on(3)} whatever it reads`],
        ],
      },
      { title: 'How long it may stand', rows: standingRows(state, charge?.mean ?? 80) },
    ],
    record: [],
    cautionsTitle: 'For your safety',
    cautions: ownerCautions(constructionOf(type.kind)),
    signature: `Handed over by ${signerOf(state)}, ${shop.name}, ${dateText(endedAt, hours.timeZone)}.`,
    photos: [],
  };
}
