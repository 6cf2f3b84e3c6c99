/** Each entry under a name that was not proven, and whose word settles it. */
import { Link } from 'react-router';
import type { Claim, Person } from '@cork-ember/core/access/people.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { Button } from '../ui/Button.tsx';
import { DialogPane } from '../ui/DialogPane.tsx';
import { Notice } from '../ui/Notice.tsx';
import { useProblem } from '../ui/useProblem.ts';

export interface ClaimsDialogProps {
  readonly claims: readonly Claim[];
  readonly person: Person;
  readonly timeZone: string;
  readonly onSettle: (keys: readonly string[], isMine: boolean) => Promise<void>;
  readonly onClose: () => void;
}

export function ClaimsDialog({ claims, person, timeZone, onSettle, onClose }: ClaimsDialogProps) {
  const { problem, attempt } = useProblem();
  const settle = (keys: readonly string[], isMine: boolean): void => {
    const { went, failed } = attempt();
    onSettle(keys, isMine).then(() => {
      went();
      if (isMine && keys.length === claims.length) onClose();
    }, failed);
  };
  return (
    <DialogPane
      title="Whose are these?"
      said="They waited for the server under the name the browser knew. Until they are confirmed the log marks them; what is not theirs is told to the lead, and corrected on its run sheet."
      onClose={onClose}
    >
      <ul className="mt-3">
        {claims.map(({ key, by, sentBy, tablet, at, tag, job, says }) => (
          <li key={key} className="flex flex-wrap items-center gap-3 border-t border-line py-3">
            <p className="min-w-48 flex-1">
              <Link
                to={job === '' ? `/batteries/${tag}` : `/jobs/${job}`}
                onClick={onClose}
                className="font-semibold underline underline-offset-4"
              >
                {tag}
              </Link>{' '}
              {says}
              <span className="block text-sm text-soft">
                as {by}, {dateTimeText(at, timeZone)}, at {tablet}, sent by {sentBy}
              </span>
            </p>
            <div className="flex gap-3">
              <Button aria-label={`Confirm: ${tag} ${says}`} onClick={() => settle([key], true)}>
                Confirm
              </Button>
              <Button
                tone="quiet"
                aria-label={`Not ${by === person.name ? 'mine' : 'theirs'}: ${tag} ${says}`}
                onClick={() => settle([key], false)}
              >
                Not {by === person.name ? 'mine' : 'theirs'}
              </Button>
            </div>
          </li>
        ))}
      </ul>
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button
          tone="go"
          onClick={() =>
            settle(
              claims.map(({ key }) => key),
              true,
            )
          }
        >
          Confirm all
        </Button>
        <Button tone="quiet" onClick={onClose}>
          Later
        </Button>
      </div>
    </DialogPane>
  );
}
