/** What stands before any battery is fitted. */
import { Notice } from './Notice.tsx';

export const FittingCaution = () => (
  <Notice tone="caution">
    Positive on first, negative last; negative off first. Never under load. Its strap on, vent hose free.
  </Notice>
);
