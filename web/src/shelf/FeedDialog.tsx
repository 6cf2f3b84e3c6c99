/** The calendar's secret address: made, copied, taken back. */
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { dayText } from '@cork-ember/core/clock/clockText.ts';
import type { FeedAnswer } from '@cork-ember/core/contract/answers.ts';
import { ask, revoke, sentenceOf } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { ShownOnce } from '../ui/ShownOnce.tsx';
import { Waiting } from '../ui/Waiting.tsx';

const FEED = ['shelf-feed'] as const;
const FEED_PATH = '/api/shelf/feed';

interface FeedDialogProps {
  readonly now: number;
  readonly timeZone: string;
  readonly onClose: () => void;
}

export function FeedDialog({ now, timeZone, onClose }: FeedDialogProps) {
  const [by] = usePerson();
  const [address, setAddress] = useState('');
  const standing = useQuery({ queryKey: FEED, queryFn: () => ask<FeedAnswer | null>(FEED_PATH) });
  const changed = (): Promise<void> => queryClient.invalidateQueries({ queryKey: FEED });
  const renewal = useMutation({
    mutationFn: () => ask<{ path: string }>(FEED_PATH, { by }),
    onSuccess: ({ path }) => {
      setAddress(`${location.origin}${path}`);
      return changed();
    },
  });
  const revocation = useMutation({
    mutationFn: () => revoke(FEED_PATH),
    onSuccess: () => {
      setAddress('');
      return changed();
    },
  });
  const failed = renewal.error ?? revocation.error;
  return (
    <Dialog
      title="Subscribe to the shelf"
      said="A calendar program asks this address for what is due. Tags and racks stand in it, no customer’s name."
      onClose={onClose}
    >
      <div className="mt-4 space-y-4">
        {failed && <Notice tone="stop">{sentenceOf(failed)}</Notice>}
        {standing.data === undefined ? (
          <Waiting on={[standing]} />
        ) : (
          <p>
            {standing.data
              ? `There is an address since ${dayText(standing.data.at, now, timeZone)}, made by ${standing.data.by}. Whoever has it sees the shelf’s month; a new one shuts it.`
              : 'There is no address yet. Whoever is given it sees the shelf’s month, and nothing else.'}
          </p>
        )}
        {address !== '' && <ShownOnce says="Shown once: copy it now." secret={address} />}
        <div className="flex flex-wrap gap-3">
          <Button tone="go" disabled={by === '' || renewal.isPending} onClick={() => renewal.mutate()}>
            {standing.data ? 'Make a new address' : 'Make an address'}
          </Button>
          {standing.data && (
            <Button tone="danger" disabled={revocation.isPending} onClick={() => revocation.mutate()}>
              Shut it
            </Button>
          )}
          <Button tone="quiet" onClick={onClose}>
            Close
          </Button>
        </div>
        {by === '' && <p className="text-soft">Say who is at the bench first, at the top right.</p>}
      </div>
    </Dialog>
  );
}
