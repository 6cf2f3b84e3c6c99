/** What a shop of another region must never meet: units, decimals, hours and dates of the core as they are kept. */
import { expect, type Page } from '@playwright/test';

const KEPT = [
  ['degrees Celsius', /°C|\d\s?K\b/],
  ['millilitres, litres', /\d\s(mL|L)\b(?!\/)/],
  ['grams, kilograms', /\d\s(kg|g)\b(?![/·])/],
  ['a decimal point', /(?<![\w.:/])\d+\.\d+(?![\w.]*\.\d)/],
  ['24 hours', /(?<![\d:])\d\d:\d\d(?!:?\d|\s?[ap]m)/],
  ['a day before its month', /\b\d{1,2} (Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)\b/],
  ['an unnamed currency', /¤/],
] as const;

/** The check code of a paper, drawn from its record's hash: “SK85K” is no temperature. */
const CODE = /\b[0-9A-Z]{5}-[0-9A-Z]{5}\b/g;

/** What of a text is not as a shop in °F, pounds, comma and am and pm writes it. */
export const strangeIn = (text: string): string[] =>
  text
    .replaceAll(CODE, '')
    .split('\n')
    .flatMap((line) =>
      KEPT.filter(([, pattern]) => pattern.test(line)).map(([what]) => `${what}: ${line.trim()}`),
    );

/** Everything the page shows, says to a screen reader, or has in its fields, but for what somebody typed. */
async function shownOn(page: Page): Promise<string> {
  return page.evaluate(() => {
    const lines: string[] = [];
    const typed = [...document.querySelectorAll('[translate="no"]')].filter(
      (element) => !element.matches('html'),
    );
    const isTyped = (node: Node): boolean => typed.some((element) => element.contains(node));
    const blocks = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = blocks.nextNode(); node; node = blocks.nextNode())
      if (!isTyped(node) && node.parentElement?.closest('script, style') === null)
        lines.push(node.textContent ?? '');
    for (const element of document.querySelectorAll('*')) {
      if (isTyped(element)) continue;
      for (const name of ['aria-label', 'title', 'placeholder', 'aria-valuetext'])
        lines.push(element.getAttribute(name) ?? '');
      if (element instanceof HTMLInputElement && element.inputMode === 'decimal') lines.push(element.value);
    }
    return lines.join('\n');
  });
}

export async function expectNothingStrange(page: Page): Promise<void> {
  expect(strangeIn(await shownOn(page)), page.url()).toEqual([]);
}
