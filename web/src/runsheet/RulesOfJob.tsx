/** The house rules a job was opened under: they stay with it whatever the shop decides later. */
import {
  completeRules,
  HOUSE_RULES,
  optionText,
  RULE_IDS,
  STANDARD_RULES,
} from '@cork-ember/core/rules/houseRules.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';

export function RulesOfJob({ state }: { state: JobState }) {
  const rules = completeRules(state.opened.rules);
  const own = RULE_IDS.filter((id) => rules[id] !== STANDARD_RULES[id]);
  return (
    <details className="mt-3 border-t border-line pt-1">
      <summary className="flex min-h-12 cursor-pointer items-center text-sm font-semibold text-soft">
        House rules, version {state.opened.rulesVersion ?? 1}, of{' '}
        {dateText(state.openedAt, state.opened.hours.timeZone)}
        {own.length > 0 && `, ${own.length} of the shop’s own`}
      </summary>
      <dl className="text-sm">
        {RULE_IDS.map((id) => (
          <div key={id} className="border-t border-line py-2">
            <dt className="text-soft">{HOUSE_RULES[id].title}</dt>
            <dd className={own.includes(id) ? 'font-semibold' : ''}>
              {optionText(id, rules)}
              {own.includes(id) && <span className="font-normal text-soft"> · the shop’s own</span>}
            </dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
