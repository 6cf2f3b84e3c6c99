/**
 * Writes a text of the core as a region writes it: temperatures and differences of temperature, volumes, masses, decimals,
 * times, dates, money. It knows them by how the core writes them ("21 to 45 °C", "3 K warmer", "14:06", "10 Mar 2026",
 * "¤ 4.20"), and what it has written it leaves alone when it meets it again.
 *
 * What a person typed is not the core's text: it stands between “ ”, or between the marks of {@link verbatim}, and stays.
 */
import { isShownOtherwise, PLAIN_REGION, wayOf, type DateForm, type Region } from './region.ts';

/** Unicode's own marks for text set into another: first strong isolate, pop directional isolate. @see UAX #9, 2.2 */
const ISOLATE = '\u2068';
const POP = '\u2069';

/** A person's own words set into a sentence, or an identifier: no region touches them. */
export const verbatim = (typed: string): string => `${ISOLATE}${typed}${POP}`;

/** Where the shop's money is meant: the sign of a currency that is not named. @see Unicode, U+00A4 */
export const MONEY = '¤';

const NUMBER = '[−-]?\\d+(?:\\.\\d+)?';
/** Two or three numbers that share the unit behind the last: "20–25 °C", "45 or 50 °C", "400 ± 10 mL". */
const TIED = '(?: ?– ?|,? to | or | and | ± |,? and at )';
const UNITS = ['°C', 'mL', 'kg', 'K', 'L', 'g'] as const;
const AMOUNT = new RegExp(
  `(?<![\\w.,:])(${NUMBER}(?:${TIED}${NUMBER})*)([ \\u00a0\\u202f]?)(${UNITS.join('|')})(?![\\w/·²³°])`,
  'g',
);
/** The warmth of each cell: "1: 24, 2: 25, 3: 31 °C". */
const BY_CELL = /((?:\b\d+: [−-]?\d+(?:\.\d+)?(?:, )?){2,})([ \u00a0])°C/g;
/**
 * A unit without a number: all of a text, or in brackets, or last in a heading. Whoever shows the number beside it brings it
 * to the region by {@link wayOf}.
 */
const BARE = new RegExp(`^(\\s*)(${UNITS.join('|')})(\\s*)$|(?<=[(,] ?)(${UNITS.join('|')})(?=[),]|$)`, 'g');

function converted(number: string, unit: string, region: Region): string {
  const way = wayOf(unit, region);
  const decimals = (number.split('.')[1]?.length ?? 0) + way.moreDecimals;
  const shown = way.to(Number(number.replace('−', '-'))).toFixed(decimals);
  return (Number(shown) === 0 ? shown.replace('-', '') : shown).replace('-', '−');
}

function inUnits(text: string, region: Region): string {
  // Nothing to convert: most shops, and every text of theirs.
  if (!UNITS.some((unit) => isShownOtherwise(unit, region))) return text;
  return text
    .replace(BY_CELL, (whole, list: string, gap: string) =>
      isShownOtherwise('°C', region)
        ? `${list.replace(/(?<=: )[−-]?\d+(?:\.\d+)?/g, (number) => converted(number, '°C', region))}${gap}°F`
        : whole,
    )
    .replace(AMOUNT, (whole, numbers: string, gap: string, unit: string) =>
      isShownOtherwise(unit, region)
        ? `${numbers.replace(new RegExp(NUMBER, 'g'), (number, at: number) =>
            // In "20-25" the second is no negative number.
            at > 0 && number.startsWith('-') && /\d/.test(numbers[at - 1] ?? '')
              ? `-${converted(number.slice(1), unit, region)}`
              : converted(number, unit, region),
          )}${gap}${wayOf(unit, region).unit}`
        : whole,
    )
    .replace(
      BARE,
      (
        whole,
        before: string | undefined,
        alone: string | undefined,
        after: string | undefined,
        bracketed: string | undefined,
      ) => {
        const unit = alone ?? bracketed ?? whole;
        return isShownOtherwise(unit, region)
          ? `${before ?? ''}${wayOf(unit, region).unit}${after ?? ''}`
          : whole;
      },
    );
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const DATE = new RegExp(`(?<![\\w,])(\\d{1,2}) (${MONTHS.join('|')})(?: (\\d{4}))?(?!\\w)`, 'g');
const ISO_DATE = /(?<![\w-])(\d{4})-(\d{2})-(\d{2})(?![\w-])/g;

function dateAs(form: DateForm, day: number, month: number, year: string | undefined): string {
  const [dd, mm, name] = [
    String(day).padStart(2, '0'),
    String(month).padStart(2, '0'),
    MONTHS[month - 1] ?? '',
  ];
  switch (form) {
    case 'd MMM yyyy':
      return `${day} ${name}${year === undefined ? '' : ` ${year}`}`;
    case 'MMM d, yyyy':
      return `${name} ${day}${year === undefined ? '' : `, ${year}`}`;
    case 'dd.MM.yyyy':
      // Without its year "10.03." would be a number to whoever reads it next: the word joiner, unseen, says it is none.
      return year === undefined ? `${dd}.\u2060${mm}.` : `${dd}.${mm}.${year}`;
    case 'dd/MM/yyyy':
      return `${dd}/${mm}${year === undefined ? '' : `/${year}`}`;
    case 'MM/dd/yyyy':
      return `${mm}/${dd}${year === undefined ? '' : `/${year}`}`;
    case 'yyyy-MM-dd':
      return `${year === undefined ? '' : `${year}-`}${mm}-${dd}`;
  }
}

function inDates(text: string, { date }: Region): string {
  if (date === PLAIN_REGION.date) return text;
  return text
    .replace(ISO_DATE, (_, year: string, month: string, day: string) =>
      dateAs(date, Number(day), Number(month), year),
    )
    .replace(DATE, (_, day: string, month: string, year?: string) =>
      dateAs(date, Number(day), MONTHS.indexOf(month) + 1, year),
    );
}

const CLOCK = /(?<![\w:.])([01]\d|2[0-4]):([0-5]\d)(:[0-5]\d)?(?!:?\d|\u00a0[ap]m)/g;

function inHours(text: string, { clock }: Region): string {
  if (clock === '24 h') return text;
  return text.replace(CLOCK, (_, hour: string, minute: string, second = '') => {
    const h = Number(hour) % 24;
    return `${h % 12 === 0 ? 12 : h % 12}:${minute}${second}\u00a0${h < 12 ? 'am' : 'pm'}`;
  });
}

/** A number with a point that is neither part of an identifier nor of an address. */
const DECIMAL = /(?<![\w.,:/]|\w-)(\d+)\.(\d+)(?!\.?\d|[-:]\w)/g;

function inMoney(text: string, { money, decimalMark }: Region): string {
  if (!text.includes(MONEY)) return text;
  const amount = text.replace(/¤([ \u00a0])(\d+(?:\.\d+)?)/g, (_, gap: string, digits: string) => {
    const shown = Number(digits).toFixed(money.decimals).replace('.', decimalMark);
    return money.isAfter ? `${shown}${gap}${money.sign}` : `${money.sign}${gap}${shown}`;
  });
  return amount.replaceAll(MONEY, money.sign);
}

function ours(text: string, region: Region): string {
  if (text === '') return text;
  const figures = inUnits(inMoney(text, region), region);
  // Before the dates, which have points of their own.
  const marked = region.decimalMark === '.' ? figures : figures.replace(DECIMAL, `$1${region.decimalMark}$2`);
  return inHours(inDates(marked, region), region);
}

const SOMEBODYS = new RegExp(`(“[^”]*”|${ISOLATE}[^${POP}]*${POP})`);

/**
 * A text as the region writes it; the marks of {@link verbatim} are taken off.
 * @param text a sentence, a figure or a label of the core
 */
export function localised(text: string, region: Region): string {
  if (!text.includes('“') && !text.includes(ISOLATE)) return ours(text, region);
  return text
    .split(SOMEBODYS)
    .map((part, index) =>
      index % 2 === 0 ? ours(part, region) : part.replaceAll(ISOLATE, '').replaceAll(POP, ''),
    )
    .join('');
}
