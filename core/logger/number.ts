/** Numbers as loggers write them: either decimal sign, thousands parted or not, a unit behind them or not. */
export type Decimal = '.' | ',';

const NUMBER = /^\s*([-+−]?[\d.,]+(?:e[-+]?\d+)?)\s*(?:m?v|m?a|°?\s?[cfk]|s|min|h)?\s*$/i;

export const isNumberLike = (text: string): boolean => NUMBER.test(text) && /\d/.test(text);

/** NaN where the text is no number. */
export function numberOf(text: string | undefined, decimal: Decimal): number {
  const match = NUMBER.exec(text ?? '');
  const digits = match?.[1]?.replace('−', '-');
  if (digits === undefined) return Number.NaN;
  const thousands = decimal === ',' ? /^([-+]?\d{1,3})(\.\d{3})+(?=,|$)/ : /^([-+]?\d{1,3})(,\d{3})+(?=\.|$)/;
  const parted = decimal === ',' ? /\./g : /,/g;
  const plain = thousands.test(digits) ? digits.replace(parted, '') : digits;
  const point = decimal === ',' ? plain.replace(',', '.') : plain;
  return /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(point) ? Number(point) : Number.NaN;
}

/** The decimal sign: a comma where numbers have one and no point cuts them. */
export function decimalOf(rows: readonly (readonly string[])[]): Decimal {
  const texts = rows.flat().filter(isNumberLike);
  const withComma = texts.filter((text) => /\d,\d/.test(text)).length;
  const withPoint = texts.filter((text) => /\d\.\d/.test(text)).length;
  return withComma > withPoint ? ',' : '.';
}
