/** House rules: every point practitioners differ on, its schools, the default and why. */
import { useState } from 'react';
import {
  HOUSE_RULES,
  RULE_GROUPS,
  RULE_IDS,
  type HouseRulePoint,
  type HouseRules,
} from '@cork-ember/core/rules/houseRules.ts';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';
import { card } from '../ui/card.ts';

function RulePoint({
  id,
  point,
  chosen,
  isChanged,
  onChoose,
}: {
  id: string;
  point: HouseRulePoint;
  chosen: string;
  isChanged: boolean;
  onChoose: (option: string) => void;
}) {
  return (
    <fieldset className={card({ edge: isChanged ? 'live' : 'plain' })}>
      <legend className="px-1 font-semibold">{point.title}</legend>
      <div className="space-y-1">
        {Object.entries(point.options).map(([option, text]) => (
          <label key={option} className="flex min-h-12 items-center gap-3 rounded-lg px-2 hover:bg-paper">
            <input
              type="radio"
              name={id}
              checked={chosen === option}
              onChange={() => onChoose(option)}
              className="size-5 shrink-0 accent-(--verdigris)"
            />
            <span className={chosen === option ? 'font-semibold' : ''}>
              {text}
              {option === point.standard && <span className="font-normal text-soft"> · default</span>}
            </span>
          </label>
        ))}
      </div>
      <p className="mt-1 px-2 text-sm text-soft">Why the default: {point.reason}</p>
    </fieldset>
  );
}

export function RulesPart({ rules }: { rules: HouseRules }) {
  const [draft, setDraft] = useState<HouseRules>(rules);
  const change = useShopChange();
  const changed = RULE_IDS.filter((id) => draft[id] !== rules[id]);
  const groups = Object.entries(RULE_GROUPS);
  return (
    <div>
      <p className="max-w-3xl">
        Points on which practitioners differ. A change holds for jobs taken in from now on; each job carries
        the rules it was opened under, and its paper names those that are not the defaults.
      </p>
      {groups.map(([group, name]) => (
        <section key={group} aria-labelledby={`group-${group}`} className="mt-5">
          <h2 id={`group-${group}`} className="mb-2 text-lg font-bold">
            {name}
          </h2>
          <div className="grid gap-3 lg:grid-cols-2">
            {RULE_IDS.filter((id) => HOUSE_RULES[id].group === group).map((id) => (
              <RulePoint
                key={id}
                id={id}
                point={HOUSE_RULES[id]}
                chosen={draft[id]}
                isChanged={draft[id] !== rules[id]}
                onChoose={(option) => setDraft({ ...draft, [id]: option })}
              />
            ))}
          </div>
        </section>
      ))}
      {changed.length > 0 && (
        <WhyBar
          summary={`${changed.length} point${changed.length === 1 ? '' : 's'} changed.`}
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) =>
            change.mutate({ why, rules: Object.fromEntries(changed.map((id) => [id, draft[id]])) })
          }
          onDrop={() => setDraft(rules)}
        />
      )}
    </div>
  );
}
