/**
 * The field that is being filled: whichever of the fields for readings had the keyboard last. The keypad, the Enter key and
 * a scanner reach it here, whatever form it stands in.
 */
import { useSyncExternalStore } from 'react';
import { cameQuietly } from '../ui/focusQuietly.ts';

/** Marks a field that the keypad fills. */
const READING = 'input[data-reading]';

const isReading = (target: unknown): target is HTMLInputElement =>
  target instanceof HTMLInputElement && target.matches(READING);

let active: HTMLInputElement | undefined;
/** What stood in it before it was reached: the first digit replaces it. */
let isUntouched = false;
/** Whether somebody reached for it, or it lies open to the eye: the pad comes up for it. */
let isCalled = false;
const watchers = new Set<() => void>();

function tell(): void {
  for (const watcher of watchers) watcher();
}

/** As high as the pad is on a phone, px. */
const PAD_PX = 300;

/** Whether it stays in sight with the pad up. */
function isInSight(field: HTMLInputElement): boolean {
  const { top, bottom } = field.getBoundingClientRect();
  return top > 0 && bottom < window.innerHeight - PAD_PX;
}

document.addEventListener('focusin', ({ target }) => {
  if (!isReading(target)) return;
  isCalled = !cameQuietly(target) || isInSight(target);
  if (active !== target) {
    active = target;
    isUntouched = true;
    target.select();
  }
  tell();
});
document.addEventListener('pointerdown', ({ target }) => {
  if (!isReading(target)) return;
  isCalled = true;
  // A second tap sets the caret: what stands there is being mended.
  if (target === active && target === document.activeElement) isUntouched = false;
  tell();
});
document.addEventListener('input', ({ target }) => {
  if (target === active) isUntouched = false;
});

/** @returns the field, while it is on the page */
const activeField = (): HTMLInputElement | undefined => (active?.isConnected === true ? active : undefined);

/** The field the pad stands for; none while it is put away. */
export function usePadField(): HTMLInputElement | undefined {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => (isCalled ? activeField() : undefined),
  );
}

/** Away until a field is reached for again. */
export function putPadAway(): void {
  isCalled = false;
  active?.blur();
  tell();
}

/** Puts a text where another stands, as if it had been typed: whoever listens to the field hears of it. */
export function retype(
  field: HTMLInputElement | HTMLTextAreaElement,
  text: string,
  caret = text.length,
): void {
  field.setRangeText(text, 0, field.value.length, 'end');
  field.setSelectionRange(caret, caret);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

/** The fields of the form it stands in, in the order one fills them. */
function row(field: HTMLInputElement): HTMLInputElement[] {
  const form = field.closest('form, [data-readings]') ?? document;
  return [...form.querySelectorAll<HTMLInputElement>(READING)];
}

/** The next field of its form that is still empty. */
function nextEmpty(field: HTMLInputElement): HTMLInputElement | undefined {
  const fields = row(field);
  return fields.slice(fields.indexOf(field) + 1).find(({ value }) => value.trim() === '');
}

/** Enter goes on to the next empty field; at the last it is left to the form. */
export function moveOnEnter(event: { key: string; target: unknown; preventDefault: () => void }): void {
  if (event.key !== 'Enter' || !isReading(event.target)) return;
  const fields = row(event.target);
  // Where nothing must be read and nothing is, Enter passes over all of it.
  if (fields.every(({ value, required }) => value.trim() === '' && !required)) return;
  const next = nextEmpty(event.target);
  if (!next) return;
  event.preventDefault();
  next.focus();
}

export type PadKey =
  | { readonly kind: 'write'; readonly text: string }
  | { readonly kind: 'put'; readonly text: string }
  | { readonly kind: 'back' | 'sign' | 'next' };

function written(field: HTMLInputElement, text: string): void {
  const { value } = field;
  const [from, to] = isUntouched
    ? [0, value.length]
    : [field.selectionStart ?? value.length, field.selectionEnd ?? value.length];
  retype(field, value.slice(0, from) + text + value.slice(to), from + text.length);
}

function takenBack(field: HTMLInputElement): void {
  const { value } = field;
  const end = field.selectionEnd ?? value.length;
  const start = field.selectionStart ?? end;
  const from = start === end ? Math.max(0, end - 1) : start;
  retype(field, value.slice(0, from) + value.slice(end), from);
}

/** One press on the pad. */
export function pressKey(key: PadKey): void {
  const field = activeField();
  if (!field) return;
  if (key.kind === 'next') {
    const fields = row(field);
    (nextEmpty(field) ?? fields[(fields.indexOf(field) + 1) % fields.length])?.focus();
    return;
  }
  field.focus();
  if (key.kind === 'write') written(field, key.text);
  else if (key.kind === 'put') retype(field, key.text);
  else if (key.kind === 'back') takenBack(field);
  else retype(field, /^[-−]/.test(field.value) ? field.value.slice(1) : `-${field.value}`);
}
