/** A charge that outlasts the shop's hours: whether it may run on, and what nobody will see. */
import { cutsOffByItself, isOfABay } from '../../charge/charger.ts';
import { openSpanFrom, nextOpenMoment } from '../../clock/shopHours.ts';
import { whenText } from '../../clock/clockText.ts';
import { isOfEdition } from '../entries/edition.ts';
import type { OpenedPayload } from '../entries/events.ts';
import type { ChargeState } from '../state/jobState.ts';

const MINUTE = 60_000;
/** The last look, or the hand that switches it off, comes this long before closing. */
const BEFORE_CLOSING_MIN = 20;

/** Whether a charge may run on when nobody is there: the charger cuts off by itself, and the house allows it; a bay's own supply by a rule of its own. */
export function mayRunOn(
  { rules }: Pick<OpenedPayload, 'rules'>,
  { charger }: Pick<ChargeState, 'charger'>,
): boolean {
  if (rules.unattended !== 'cutOffs' || charger === undefined) return false;
  return isOfABay(charger) ? rules.bayAtNight === 'cutOff' : cutsOffByItself(charger);
}

/** Why a charge may not. */
function whyNotOn({ rules }: OpenedPayload, { charger }: ChargeState): string {
  if (rules.unattended === 'never') return 'by this house’s rule nothing charges then';
  if (!charger) return 'its charger is not on record, so it is not known to cut off by itself';
  return isOfABay(charger)
    ? 'by this house’s rule no bay charges by itself then'
    : `${charger.name} does not cut off by itself`;
}

export interface Closing {
  /** When hands are needed before the shop closes, ms. */
  readonly dueAt: number;
  readonly mayStay: boolean;
  readonly note: string;
}

/**
 * What is needed of a running charge before the shop closes.
 * @param endAt when the charge is due to end, ms
 * @param lastLookAt of this charge, ms
 * @returns undefined where it ends before closing, or where it was looked at last and may stay
 */
export function beforeClosing(
  opened: OpenedPayload,
  charge: ChargeState,
  at: number,
  endAt: number,
  lastLookAt: number | undefined,
): Closing | undefined {
  if (!isOfEdition(opened, 2)) return undefined;
  const { hours } = opened;
  const span = openSpanFrom(hours, at);
  if (at < span.from || endAt <= span.to) return undefined;
  const opensAt = nextOpenMoment(hours, span.to + MINUTE);
  if (opensAt <= span.to + MINUTE) return undefined;
  const dueAt = span.to - BEFORE_CLOSING_MIN * MINUTE;
  const mayStay = mayRunOn(opened, charge);
  if (mayStay && (lastLookAt ?? 0) >= dueAt) return undefined;
  const unseen = `Nobody sees it from ${whenText(span.to, at, hours.timeZone)} to ${whenText(opensAt, at, hours.timeZone)}`;
  return {
    dueAt,
    mayStay,
    note: mayStay
      ? `${unseen}; the first look in the morning judges the whole night.`
      : `${unseen}, and ${whyNotOn(opened, charge)}.`,
  };
}
