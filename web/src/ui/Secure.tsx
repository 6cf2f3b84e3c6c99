/** What a browser keeps back from a page on plain http, said where it is missed, with the way to https. */
import { Link } from 'react-router';

/** https, or this machine itself. */
export const isSecure = (): boolean => window.isSecureContext;

interface WantsHttpsProps {
  /** What is missed: "The camera". */
  readonly what: string;
  /** Before it leads away, such as to close a pane. */
  readonly onGo: () => void;
}

export function WantsHttps({ what, onGo }: WantsHttpsProps) {
  return (
    <span>
      {what} is kept from a page on plain http by the browser itself.{' '}
      <Link to="/trust" onClick={onGo} className="font-medium underline underline-offset-4">
        Open the shop on https
      </Link>{' '}
      and it works.
    </span>
  );
}
