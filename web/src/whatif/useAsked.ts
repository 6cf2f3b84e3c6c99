/** What is asked, kept in the address; a slider that moves writes it there once it has come to rest. */
import { startTransition, useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { addressOf, askedIn, type Asked } from './address.ts';

/** A browser takes only so many addresses a second, ms. */
const REST_MS = 250;

export function useAsked(): readonly [asked: Asked, change: (change: Partial<Asked>) => void] {
  const [params, setParams] = useSearchParams();
  const [moved, setMoved] = useState<Partial<Asked>>({});
  const text = JSON.stringify({ ...askedIn(params), ...moved });
  // The same question is the same thing, written in the address or not yet.
  const asked = useMemo(
    () => JSON.parse(text, (_key, value: unknown) => (value === null ? Number.NaN : value)) as Asked,
    [text],
  );
  // A field that is empty while it is typed is no question yet.
  const isTyped = text.includes('null');
  useEffect(() => {
    if (Object.keys(moved).length === 0 || isTyped) return;
    const rest = setTimeout(() => {
      // At once, as the address is taken up: what was moved would jump back for a moment otherwise.
      startTransition(() => {
        setParams(addressOf(asked), { replace: true });
        setMoved({});
      });
    }, REST_MS);
    return () => clearTimeout(rest);
  }, [asked, isTyped, moved, setParams]);
  return [asked, (change) => setMoved((before) => ({ ...before, ...change }))];
}
