/** One plan: what it is, its cord over the hours, what comes of it and what to fear. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { CircleAlert, Flag, TriangleAlert, X } from 'lucide-react';
import { CHARGERS } from '@cork-ember/core/charge/chargers.ts';
import { PLAN_NAMES } from '@cork-ember/core/charge/library.ts';
import type { ProfileId } from '@cork-ember/core/charge/profile.ts';
import { hoursAndMinutes, type Outcome, type PlanAnswer } from '@cork-ember/core/whatif/answer.ts';
import type { PlanChoice } from '@cork-ember/core/whatif/question.ts';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { markOf } from './marks.ts';

const PLANS = PLAN_NAMES.filter(({ id }) => id !== 'donor').map(({ id, name }) => ({
  value: id,
  label: name,
}));
const CHARGER_CHOICES = CHARGERS.map(({ id, name }) => ({ value: id, label: name }));

/** A cord as on the bench: thick while charging, a knot where a stage changes, a flag when full. */
function PlanCord({ outcome, untilS, colour }: { outcome: Outcome; untilS: number; colour: string }) {
  const share = (seconds: number): number => Math.min(100, (seconds / untilS) * 100);
  const end = share(outcome.atS);
  return (
    <div className="relative h-6" aria-hidden>
      <div className="absolute top-[11px] h-0.5 w-full bg-line" />
      <div className="absolute top-[8px] h-2 rounded-full" style={{ width: `${end}%`, background: colour }} />
      {outcome.stages.slice(1).map(({ atS, name }, index) => (
        <div
          key={`${name}${index}`}
          className="absolute top-[5px] size-3.5 -translate-x-1/2 rounded-full border-2 bg-card"
          style={{ left: `${share(atS)}%`, borderColor: colour }}
        />
      ))}
      {outcome.ended === 'full' && (
        <Flag
          className="absolute top-0 size-5 text-verdigris"
          style={{ left: `min(${end}%, calc(100% - 1.25rem))` }}
        />
      )}
    </div>
  );
}

const ENDINGS: Record<Outcome['ended'], { readonly word: string; readonly tone: string }> = {
  full: { word: 'Done after', tone: 'text-verdigris' },
  stop: { word: 'Stops at', tone: 'text-clay' },
  runaway: { word: 'Runaway at', tone: 'text-clay' },
  running: { word: 'Not done in', tone: 'text-brass-ink' },
};

function Figures({ outcome }: { outcome: Outcome }) {
  const { word, tone } = ENDINGS[outcome.ended];
  const figures = [
    `${percentText(outcome.endCharge)} charged`,
    `${(outcome.mainsWh / 1000).toFixed(2)} kWh (${moneyText(outcome.cost)})`,
    `${outcome.hottestC.toFixed(0)} °C at most`,
    `${outcome.waterG.toFixed(outcome.waterG < 10 ? 1 : 0)} mL water`,
    ...(outcome.hardAtStart > 0.05
      ? [
          `hard sulfate ${(outcome.hardAtStart * 100).toFixed(0)} → ${percentText(outcome.hardLeft)} of rating`,
        ]
      : []),
  ];
  return (
    <p className="flex flex-wrap gap-x-4">
      <strong className={tone}>
        {word} <span className="reading">{hoursAndMinutes(outcome.atS)}</span>
      </strong>
      {figures.map((figure) => (
        <span key={figure} className="reading text-[15px]">
          {figure}
        </span>
      ))}
    </p>
  );
}

export interface PlanRowProps {
  readonly index: number;
  readonly choice: PlanChoice;
  readonly answer: PlanAnswer | undefined;
  readonly untilS: number;
  readonly wins: readonly string[];
  readonly onChange: (next: PlanChoice) => void;
  readonly onRemove: (() => void) | undefined;
  readonly onSend: (() => void) | undefined;
}

export function PlanRow({ index, choice, answer, untilS, wins, onChange, onRemove, onSend }: PlanRowProps) {
  const { letter, colour } = markOf(index);
  const outcome = answer?.outcome;
  return (
    <li className="border-t border-line py-3 first:border-t-0">
      <div className="flex flex-wrap items-center gap-2">
        <span
          className="grid size-9 shrink-0 place-items-center rounded-full border-3 font-bold"
          style={{ borderColor: colour }}
        >
          {letter}
        </span>
        <Combobox
          label={`Plan ${letter}`}
          className="min-w-40 flex-1 font-medium!"
          value={choice.plan}
          choices={PLANS}
          onChoose={(plan) => onChange({ ...choice, plan: plan as ProfileId })}
        />
        <Combobox
          label={`Charger of plan ${letter}`}
          className="min-w-40 flex-1"
          value={choice.charger}
          choices={CHARGER_CHOICES}
          onChoose={(charger) => onChange({ ...choice, charger })}
        />
        {onSend && outcome && <Button onClick={onSend}>Send to a job</Button>}
        {onRemove && (
          <Button tone="quiet" aria-label={`Remove plan ${letter}`} className="px-3" onClick={onRemove}>
            <X aria-hidden className="size-5" />
          </Button>
        )}
      </div>
      {answer?.refusal !== undefined && (
        <p className="mt-2 flex gap-2 text-clay">
          <CircleAlert aria-hidden className="mt-0.5 size-5 shrink-0" /> {answer.refusal}
        </p>
      )}
      {outcome && (
        <div className="mt-1 pl-11">
          <PlanCord outcome={outcome} untilS={untilS} colour={colour} />
          <Figures outcome={outcome} />
          {wins.length > 0 && <p className="font-medium text-verdigris">{wins.join(' · ')}</p>}
          <ul>
            {outcome.ended === 'stop' && (
              <li className="flex gap-2 text-clay">
                <CircleAlert aria-hidden className="mt-0.5 size-5 shrink-0" /> Stopped: {outcome.because}
              </li>
            )}
            {outcome.risks.map(({ level, words }) => (
              <li key={words} className={`flex gap-2 ${level === 'danger' ? 'text-clay' : 'text-brass-ink'}`}>
                {level === 'danger' ? (
                  <CircleAlert aria-hidden className="mt-0.5 size-5 shrink-0" />
                ) : (
                  <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0" />
                )}
                {words}
              </li>
            ))}
            {answer.isAttended && (
              <li className="flex gap-2 text-brass-ink">
                <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0" /> Stand by it: never
                unattended.
              </li>
            )}
          </ul>
        </div>
      )}
    </li>
  );
}
