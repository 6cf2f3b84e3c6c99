/** When a shelved battery is charged again, by the house's rule (handbook 4 and 6). */
import type { StepContext } from '../../step.ts';

export function shelfWords({ opened: { rules, type } }: Pick<StepContext, 'opened'>): string {
  const due = ((12.4 * type.cells) / 6).toFixed(2);
  return {
    predicted: `Recharge when ${due} V is predicted, and every three months.`,
    monthly: 'Recharge every month.',
    sixMonthly: 'Recharge every six months.',
  }[rules.shelfRecharge];
}
