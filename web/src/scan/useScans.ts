/** A scanned tag opens its battery from any view; in the batch and on the round it switches to it. */
import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { sayTrouble } from '../ui/say.ts';
import { ScanCatcher, tagOf } from '@cork-ember/core/units/scanner.ts';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import { isBadge } from '@cork-ember/core/access/pins.ts';
import { Refusal, sentenceOf } from '../api/client.ts';
import { askKnown } from '../api/known.ts';
import { fetchBattery } from '../api/queries.ts';
import { signInByBadge } from '../api/session.ts';
import { retype } from '../readings/activeField.ts';

/** The code on a paper leads to the page that holds it against the record. */
const CHECK = /\/check\/([0-9A-Z]{5}-[0-9A-Z]{5})$/;

/** Whoever takes batteries through one after the other stays there. */
const BATCH = '/batch';
const ROUND = '/shelf/round';

/** A tag no battery carries may be a machine's. @throws Refusal when neither carries it */
async function pathOfMachine(tag: string, why: unknown): Promise<string> {
  if (!(why instanceof Refusal)) throw why;
  const machines = await askKnown<readonly Machine[]>('/api/machines');
  if (!machines.some((machine) => machine.tag === tag)) throw why;
  return `/shelf/machines/${tag}`;
}

/**
 * Where a tag leads: to its open run sheet, to the battery's page, or to its machine's; where a paper's code leads.
 * @throws Refusal when nothing carries it
 */
export async function pathOfTag(text: string, from = '/'): Promise<string> {
  const check = CHECK.exec(text.trim())?.[1];
  if (check !== undefined) return `/check/${check}`;
  const tag = tagOf(text);
  const battery = await fetchBattery(tag).catch((why: unknown) => pathOfMachine(tag, why));
  if (typeof battery === 'string') return battery;
  const open = battery.jobs.find((job) => job.outcome === null);
  if (!open) return from === ROUND ? `${ROUND}?tag=${tag}` : `/batteries/${tag}`;
  return from === BATCH ? `${BATCH}?job=${open.id}` : `/jobs/${open.id}`;
}

/**
 * Goes where a code leads, or lets in whose badge it is.
 * @returns where to; undefined where whoever scanned it stays where they are
 * @throws Refusal when nothing carries it
 */
export async function takeScan(text: string, from: string): Promise<string | undefined> {
  if (!isBadge(text)) return pathOfTag(text, from);
  await signInByBadge(text.trim());
  return undefined;
}

/** A field a tag is scanned into, or anything else a label's code says: it keeps what the scanner types. */
const TAKES_SCANS = '[data-scans], [data-scans] *';

/** A tag, or the address a label of the shop holds: anything else typed so fast into a field is somebody's text. */
const IS_LABEL = /^(https?:\S+\/(batteries|check)\/\S+|[A-Z]{1,4}-?\d{3,8})$/i;

const isField = (target: EventTarget | null): target is HTMLInputElement | HTMLTextAreaElement =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;

/**
 * Listens for a keyboard-wedge scanner everywhere. What it types into a field that asks for something else is taken out of it
 * again, and what stood there before stands there.
 */
export function useScans(): void {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  useEffect(() => {
    const catcher = new ScanCatcher();
    let before = '';
    const onKey = (event: KeyboardEvent): void => {
      const { target } = event;
      if (target instanceof HTMLElement && target.matches(TAKES_SCANS)) return;
      if (event.ctrlKey || event.altKey || event.metaKey) return;
      const scanned = catcher.feed(event.key, event.timeStamp);
      if (catcher.mayBegin() && isField(target)) before = target.value;
      if (scanned === undefined) return;
      if (isField(target)) {
        if (!IS_LABEL.test(scanned) && !isBadge(scanned)) return;
        retype(target, before);
      }
      // The Enter belonged to the scan, not to the button that has the keyboard.
      event.preventDefault();
      event.stopPropagation();
      takeScan(scanned, pathname).then(
        (path) => path !== undefined && void navigate(path),
        (error: unknown) => sayTrouble(sentenceOf(error)),
      );
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [navigate, pathname]);
}
