/** One calculator: its fields, the answer large, the working under it, units switched in place. */
import { ArrowRightLeft, HandGrab } from 'lucide-react';
import { useId } from 'react';
import { say } from '../ui/say.ts';
import {
  isChoice,
  reckon,
  ReckonError,
  type Ask,
  type Calculator,
  type Given,
  type NumberAsk,
  type Reckoned,
  type Result,
} from '@cork-ember/core/reckoner/calculator.ts';
import { isSwitchable, shownAs } from '@cork-ember/core/units/convert.ts';
import { numberIn } from '@cork-ember/core/units/region.ts';
import { inShop, shopRegion } from '../region/shopRegion.ts';
import { pocket } from '../api/pocket.ts';
import { ReadingBox } from '../readings/ReadingBox.tsx';
import { useDraft } from '../store/drafts.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Notice } from '../ui/Notice.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { useUnits, type Units } from './useUnits.ts';
import { card } from '../ui/card.ts';

interface NumberProps {
  readonly ask: NumberAsk;
  readonly text: string;
  readonly units: Units;
  readonly problem: string | undefined;
  readonly isFirst: boolean;
  readonly onType: (text: string) => void;
  readonly onSwitch: () => void;
}

function NumberField({ ask, text, units, problem, isFirst, onType, onSwitch }: NumberProps) {
  const id = useId();
  const { unit } = shownAs(ask.unit, units.isSwitched(ask.unit));
  return (
    <div>
      <label htmlFor={id} className="font-medium">
        {ask.label}
      </label>
      <div
        className={`mt-1 flex items-center rounded-lg border-2 bg-card ${problem ? 'border-clay' : 'border-cork'}`}
      >
        <ReadingBox
          id={id}
          ref={isFirst ? focusQuietly : undefined}
          value={text}
          label={ask.label}
          unit={unit}
          aria-invalid={problem !== undefined}
          aria-describedby={problem ? `${id}-says` : undefined}
          onType={onType}
          className="min-h-14 px-3 text-xl"
        />
        {isSwitchable(ask.unit) ? (
          <button
            type="button"
            onClick={onSwitch}
            aria-label={`${ask.label} in ${shownAs(ask.unit, !units.isSwitched(ask.unit)).unit}`}
            className="reading flex min-h-14 shrink-0 items-center gap-1.5 rounded-r-md px-3 text-soft hover:bg-paper hover:text-char"
          >
            <span translate="no">{unit}</span> <ArrowRightLeft aria-hidden className="size-4" />
          </button>
        ) : (
          <span translate="no" className="reading shrink-0 px-3 text-soft">
            {unit}
          </span>
        )}
      </div>
      {problem && (
        <p id={`${id}-says`} role="alert" className="mt-1 text-clay">
          {problem}
        </p>
      )}
    </div>
  );
}

function ResultLine({ result, isFirst, units }: { result: Result; isFirst: boolean; units: Units }) {
  const way = shownAs(result.unit, units.isSwitched(result.unit));
  const shown = way.to(result.value).toFixed(result.decimals + way.moreDecimals);
  const keep = (): void => {
    pocket({ ...result });
    say(
      inShop(
        `${result.label}, ${result.value.toFixed(result.decimals)} ${result.unit}: offered at the next reading in that unit.`,
      ),
    );
  };
  return (
    <li className="flex items-center gap-3">
      <div className="min-w-0 flex-1">
        <p className="text-soft">{result.label}</p>
        <p translate="no" className={`reading font-semibold ${isFirst ? 'text-4xl' : 'text-2xl'}`}>
          {`${shown.replace('.', shopRegion().decimalMark)} ${way.unit}`}
        </p>
      </div>
      <button
        type="button"
        onClick={keep}
        aria-label={`Take ${result.label} to a reading`}
        title="Take it to a reading"
        className="flex size-12 shrink-0 items-center justify-center rounded-lg text-soft hover:bg-paper hover:text-char print:hidden"
      >
        <HandGrab aria-hidden className="size-5" />
      </button>
    </li>
  );
}

const textOf = (ask: NumberAsk, value: number, units: Units): string => {
  const way = shownAs(ask.unit, units.isSwitched(ask.unit));
  return String(Number(way.to(value).toFixed(ask.decimals + way.moreDecimals))).replace(
    '.',
    shopRegion().decimalMark,
  );
};

type Texts = Readonly<Record<string, string>>;

function textsOf(asks: readonly Ask[], given: Given, units: Units): Texts {
  return Object.fromEntries(
    asks.map((ask) => [
      ask.id,
      isChoice(ask) ? String(given[ask.id]) : textOf(ask, Number(given[ask.id]), units),
    ]),
  );
}

function givenOf(asks: readonly Ask[], texts: Texts, units: Units): Given {
  return Object.fromEntries(
    asks.map((ask) => {
      const text = texts[ask.id] ?? '';
      if (isChoice(ask)) return [ask.id, text];
      return [ask.id, shownAs(ask.unit, units.isSwitched(ask.unit)).from(numberIn(text))];
    }),
  );
}

export function CalculatorCard({ calculator, start }: { calculator: Calculator; start: Given }) {
  const { asks, title, question, source } = calculator;
  const units = useUnits();
  // What the shop knows may come in late or change; what somebody typed stays.
  const draft = useDraft(`reckoner ${calculator.id}`);
  const typed: Texts = Object.fromEntries(Object.entries(draft.fields).map(([id, { text }]) => [id, text]));
  const texts: Texts = { ...textsOf(asks, start, units), ...typed };
  const given = givenOf(asks, texts, units);
  let answer: Reckoned | undefined;
  let problem: ReckonError | undefined;
  try {
    answer = reckon(calculator, given);
  } catch (error) {
    if (!(error instanceof ReckonError)) throw error;
    problem = error;
  }
  const switchUnit = (unit: string): void => {
    const next = units.switched(unit);
    // What stands in the fields is carried over, so that the quantity stays the same.
    draft.change(
      Object.fromEntries(
        asks.flatMap((ask) => {
          if (isChoice(ask) || ask.unit !== unit || typed[ask.id] === undefined) return [];
          const value = Number(given[ask.id]);
          return Number.isNaN(value) ? [] : [[ask.id, { text: textOf(ask, value, next) }]];
        }),
      ),
    );
  };
  return (
    <article
      aria-labelledby="calculator-title"
      className={card({ pad: 'none', className: 'max-w-4xl overflow-hidden' })}
    >
      {answer?.caution !== undefined && <Notice tone="caution">{answer.caution}</Notice>}
      <div className="p-5">
        <h2 id="calculator-title" className="text-2xl font-bold">
          {title}
        </h2>
        <p className="text-soft">{question}</p>
        <div className="mt-4 grid gap-6 md:grid-cols-2">
          <div className="space-y-3">
            {asks.map((ask, index) =>
              isChoice(ask) ? (
                <Choice
                  key={ask.id}
                  legend={ask.label}
                  isNamed
                  options={Object.entries(ask.options).map(([id, label]) => ({ id, label }))}
                  chosen={texts[ask.id] ?? ask.start}
                  onChoose={(text) => draft.change({ [ask.id]: { text } })}
                />
              ) : (
                <NumberField
                  key={ask.id}
                  ask={ask}
                  text={texts[ask.id] ?? ''}
                  units={units}
                  problem={problem?.field === ask.id ? problem.message : undefined}
                  isFirst={index === 0}
                  onType={(text) => draft.change({ [ask.id]: { text } })}
                  onSwitch={() => switchUnit(ask.unit)}
                />
              ),
            )}
            {Object.keys(typed).length > 0 && (
              <Button tone="quiet" onClick={draft.clear}>
                As it began
              </Button>
            )}
          </div>
          <div aria-live="polite">
            {problem?.field === '' && <Notice tone="stop">{problem.message}</Notice>}
            {answer && (
              <ul aria-label="Results" className="space-y-3">
                {answer.results.map((result, index) => (
                  <ResultLine key={result.label} result={result} isFirst={index === 0} units={units} />
                ))}
              </ul>
            )}
          </div>
        </div>
        {answer && (
          <section aria-label="Working" className="mt-5 border-t border-line pt-4">
            <h3 className="font-semibold">Working</h3>
            <ul className="reading mt-1 space-y-1 text-[15px] text-soft">
              {answer.working.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
            <p className="mt-3 text-sm text-soft">Source: {source}.</p>
          </section>
        )}
      </div>
    </article>
  );
}
