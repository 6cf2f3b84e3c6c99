/** A part of the setup as it was when somebody began to change it: what a colleague saves meanwhile takes nothing away. */
import {
  createContext,
  Fragment,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';

const Keep = createContext<(isChanged: boolean) => void>(() => undefined);

/** Says whether something stands there that is not saved yet. */
export const useKeep = (): ((isChanged: boolean) => void) => useContext(Keep);

export function Held<T>({ current, children }: { current: T; children: (held: T) => ReactNode }) {
  const [held, setHeld] = useState(current);
  const isChanged = useRef(false);
  const newest = useRef(current);
  const text = useMemo(() => JSON.stringify(current), [current]);
  useEffect(() => {
    newest.current = JSON.parse(text) as T;
    if (!isChanged.current) setHeld(newest.current);
  }, [text]);
  const keep = useCallback((next: boolean): void => {
    isChanged.current = next;
    if (!next) setHeld(newest.current);
  }, []);
  return (
    <Keep value={keep}>
      <Fragment key={JSON.stringify(held)}>{children(held)}</Fragment>
    </Keep>
  );
}
