/** A figure with its unit, where there is one: as a list, so that those that are there stand in a row. */
export const figureOf = (value: number | undefined, digits: number, unit: string): string[] =>
  value === undefined ? [] : [`${value.toFixed(digits)} ${unit}`];
