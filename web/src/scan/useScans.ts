/** A scanned tag opens its battery from any view; in the batch it switches to it. */
import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { ScanCatcher, tagOf } from '@cork-ember/core/units/scanner.ts';
import { sentenceOf } from '../api/client.ts';
import { fetchBattery } from '../api/queries.ts';

/** The code on a paper leads to the page that holds it against the record. */
const CHECK = /\/check\/([0-9A-Z]{5}-[0-9A-Z]{5})$/;

/**
 * Where a tag leads: to its open run sheet, or to the battery's page; where a paper's code leads.
 * @throws Refusal when no battery carries it
 */
export async function pathOfTag(text: string, isBatch = false): Promise<string> {
  const check = CHECK.exec(text.trim())?.[1];
  if (check !== undefined) return `/check/${check}`;
  const tag = tagOf(text);
  const battery = await fetchBattery(tag);
  const open = battery.jobs.find((job) => job.outcome === null);
  if (!open) return `/batteries/${tag}`;
  return isBatch ? `/batch?job=${open.id}` : `/jobs/${open.id}`;
}

/** Listens for a keyboard-wedge scanner wherever nobody is typing into a field. */
export function useScans(): void {
  const navigate = useNavigate();
  const isBatch = useLocation().pathname === '/batch';
  useEffect(() => {
    const catcher = new ScanCatcher();
    const onKey = (event: KeyboardEvent): void => {
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
      if (isTyping || event.ctrlKey || event.altKey || event.metaKey) return;
      const scanned = catcher.feed(event.key, event.timeStamp);
      if (scanned === undefined) return;
      // The Enter belonged to the scan, not to the button that has the keyboard.
      event.preventDefault();
      event.stopPropagation();
      pathOfTag(scanned, isBatch).then(
        (path) => void navigate(path),
        (error: unknown) => toast.error(sentenceOf(error)),
      );
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [navigate, isBatch]);
}
