/** A calculator as data: what it asks, within which limits, and how it answers with its working shown. */

export interface NumberAsk {
  readonly id: string;
  readonly label: string;
  readonly unit: string;
  readonly start: number;
  readonly min: number;
  readonly max: number;
  readonly decimals: number;
}

export interface ChoiceAsk {
  readonly id: string;
  readonly label: string;
  readonly options: Readonly<Record<string, string>>;
  readonly start: string;
}

export type Ask = NumberAsk | ChoiceAsk;

export type Given = Readonly<Record<string, number | string>>;

export interface Result {
  readonly label: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals: number;
}

export interface Reckoned {
  readonly results: readonly Result[];
  /** The arithmetic, a line each. */
  readonly working: readonly string[];
  /** Said above the result. */
  readonly caution?: string;
}

/** Values of a calculator's asks, read as what they are. */
export interface Values {
  n(id: string): number;
  s(id: string): string;
}

export interface Calculator {
  readonly id: string;
  readonly group: string;
  readonly title: string;
  /** One line: what question it answers. */
  readonly question: string;
  readonly asks: readonly Ask[];
  readonly source: string;
  readonly answer: (values: Values) => Reckoned;
}

export function isChoice(ask: Ask): ask is ChoiceAsk {
  return 'options' in ask;
}

/** Impossible input, in one sentence. */
export class ReckonError extends Error {
  readonly field: string;

  constructor(field: string, message: string) {
    super(message);
    this.name = 'ReckonError';
    this.field = field;
  }
}

/** What a calculator starts with. */
export function startOf({ asks }: Calculator): Given {
  return Object.fromEntries(asks.map((ask) => [ask.id, ask.start]));
}

function check(ask: Ask, value: number | string | undefined): void {
  if (isChoice(ask)) {
    if (typeof value !== 'string' || !(value in ask.options))
      throw new ReckonError(ask.id, `${ask.label}: choose ${Object.values(ask.options).join(' or ')}.`);
    return;
  }
  const range = `${ask.min} to ${ask.max}${ask.unit === '' ? '' : ` ${ask.unit}`}`;
  if (typeof value !== 'number' || Number.isNaN(value))
    throw new ReckonError(ask.id, `${ask.label}: type a number from ${range}.`);
  if (value < ask.min || value > ask.max)
    throw new ReckonError(
      ask.id,
      `${ask.label}: ${Number(value.toPrecision(6))}${ask.unit === '' ? '' : ` ${ask.unit}`} is outside ${range}.`,
    );
}

/**
 * Answers a calculator.
 * @throws ReckonError in one sentence, naming the field
 */
export function reckon(calculator: Calculator, given: Given): Reckoned {
  for (const ask of calculator.asks) check(ask, given[ask.id]);
  try {
    return calculator.answer({ n: (id) => Number(given[id]), s: (id) => String(given[id]) });
  } catch (error) {
    if (error instanceof RangeError) throw new ReckonError('', error.message);
    throw error;
  }
}
