/**
 * What is typed into a form and not recorded yet. It outlives the form: a colleague's entry, a look at another view, a switch
 * of battery, a reload. Recorded, it is gone; forgotten, it goes after a week.
 */
import { useCallback, useReducer } from 'react';
import { sharedNow } from '../api/realTime.ts';
import { Shelf } from './shelf.ts';

/** What stands in one field, and how it came to stand there. */
export interface DraftField {
  readonly text: string;
  /** Confirmed as typed, however unusual. */
  readonly isKept?: boolean;
  /** The instrument that gave it. */
  readonly source?: string;
}

type Draft = Readonly<Record<string, DraftField>>;

interface KeptDraft {
  readonly at: number;
  readonly fields: Draft;
}

type Drafts = Readonly<Record<string, KeptDraft>>;

const KEPT_MS = 7 * 24 * 3_600_000;

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;

const isField = (value: unknown): value is DraftField => isObject(value) && typeof value['text'] === 'string';

function isDrafts(content: unknown): content is Drafts {
  return (
    isObject(content) &&
    Object.values(content).every(
      (draft) =>
        isObject(draft) &&
        typeof draft['at'] === 'number' &&
        isObject(draft['fields']) &&
        Object.values(draft['fields']).every(isField),
    )
  );
}

const shelf = new Shelf<Drafts>('cork-ember-drafts', 'What was typed and not recorded', 1, isDrafts);

/** Read anew each time: another tab may have written meanwhile. */
function allDrafts(): Drafts {
  const oldest = sharedNow() - KEPT_MS;
  return Object.fromEntries(Object.entries(shelf.read() ?? {}).filter(([, { at }]) => at > oldest));
}

/** Of the forms this page has shown: what stands in them even where the browser keeps nothing. */
const inHand = new Map<string, Draft>();

const NOTHING: Draft = {};

function draftOf(form: string): Draft {
  const known = inHand.get(form);
  if (known) return known;
  const kept = allDrafts()[form]?.fields ?? NOTHING;
  inHand.set(form, kept);
  return kept;
}

function keepDraft(form: string, fields: Draft): void {
  inHand.set(form, fields);
  const { [form]: _before, ...others } = allDrafts();
  const isEmpty = Object.keys(fields).length === 0;
  shelf.write(isEmpty ? others : { ...others, [form]: { at: sharedNow(), fields } });
}

type Change = Readonly<Record<string, DraftField | undefined>>;

function withChange(before: Draft, change: Change): Draft {
  const all = Object.entries({ ...before, ...change });
  return Object.fromEntries(all.filter((entry): entry is [string, DraftField] => entry[1] !== undefined));
}

export interface DraftInHand {
  readonly fields: Draft;
  /** Changes some fields; one that is undefined goes back to what it began with. */
  readonly change: (fields: Change) => void;
  readonly clear: () => void;
}

/**
 * The draft of one form.
 * @param form its name, the same for the same form of the same battery: job, step and what it asks
 */
export function useDraft(form: string): DraftInHand {
  const [, drawAnew] = useReducer((times: number) => times + 1, 0);
  const keep = useCallback(
    (fields: Draft): void => {
      keepDraft(form, fields);
      drawAnew();
    },
    [form],
  );
  const change = useCallback((fields: Change) => keep(withChange(draftOf(form), fields)), [form, keep]);
  const clear = useCallback(() => keep(NOTHING), [keep]);
  return { fields: draftOf(form), change, clear };
}
