/** When a shelved battery is charged again, by the house's rule (handbook 4 and 6). */
import { rechargeLineV } from '../../../battery/shelfLines.ts';
import type { StepContext } from '../../definition/step.ts';

export function shelfWords({ opened: { rules, type } }: Pick<StepContext, 'opened'>): string {
  const due = rechargeLineV(type.construction, type.cells).toFixed(2);
  return {
    predicted: `Recharge when it rests at ${due} V or after three months, whichever is first.`,
    monthly: 'Recharge every month.',
    sixMonthly: 'Recharge every six months.',
    seasons: 'Recharge before winter and before summer.',
  }[rules.shelfRecharge];
}
