/** The reading that is entered beside the step or the argument, by the address: `?read=load`. */
import { useSearchParams } from 'react-router';

export function useReading(): readonly [kind: string | undefined, read: (kind: string | undefined) => void] {
  const [asked, setAsked] = useSearchParams();
  return [
    asked.get('read') ?? undefined,
    (kind) => setAsked(kind === undefined ? {} : { read: kind }, { replace: kind === undefined }),
  ];
}
