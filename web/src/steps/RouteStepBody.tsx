/** Where a recovery goes next: what is open to this battery, what speaks against it, and what is not open and why. */
import { useState, type FormEvent } from 'react';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { Route, Veto } from '@cork-ember/core/runsheet/definition/step.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Actions } from './Actions.tsx';
import type { StepActions } from './StepCard.tsx';

interface Judged {
  readonly route: Route;
  readonly veto: Veto | undefined;
}

function RouteChoice({
  judged: { route, veto },
  isChosen,
  onChoose,
}: {
  judged: Judged;
  isChosen: boolean;
  onChoose: () => void;
}) {
  return (
    <label
      className={`flex min-h-14 cursor-pointer gap-3 rounded-lg border-2 px-4 py-3 ${isChosen ? 'border-verdigris bg-paper' : 'border-line hover:bg-paper'}`}
    >
      <input
        type="radio"
        name="route"
        checked={isChosen}
        onChange={onChoose}
        className="mt-1 size-5 shrink-0 accent-(--verdigris)"
      />
      <span className="min-w-0">
        <span className="block text-[17px] font-semibold">
          {route.title}
          {veto && <span className="font-normal text-brass-ink"> · wants a reason</span>}
        </span>
        <span className="block text-soft">{route.isFor}</span>
        {isChosen && (
          <>
            <span className="mt-1 block">{route.stop}</span>
            {route.against !== undefined && (
              <span className="mt-1 block text-brass-ink">{route.against}</span>
            )}
            {veto && <span className="mt-1 block text-brass-ink">{veto.why}</span>}
          </>
        )}
      </span>
    </label>
  );
}

/** Proof and the end come last, what wants a reason after what does not. */
function placeOf({ route, veto }: Judged): number {
  if (route.id === 'prove') return 2;
  if (route.id === 'retire') return 3;
  return veto === undefined ? 0 : 1;
}

export function RouteStepBody({ hand, actions }: { hand: AtHand; actions: StepActions }) {
  const { state, context, step } = hand;
  const judged = (procedureOf(state).routes ?? []).map((route): Judged => ({
    route,
    veto: route.veto(context),
  }));
  const open = judged.filter(({ veto }) => veto === undefined || veto.canOverride);
  const closed = judged.filter(({ veto }) => veto !== undefined && !veto.canOverride);
  const [picked, setPicked] = useState('');
  const [reason, setReason] = useState('');
  const chosen = open.find(({ route: { id } }) => id === picked);
  const needsReason = chosen?.veto !== undefined;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (!chosen) return;
    void actions.record({
      kind: 'routed',
      payload: { step: step.key, route: chosen.route.id, ...(needsReason ? { reason } : {}) },
    });
  };
  return (
    <form onSubmit={submit}>
      {state.routes && state.routes.length > 0 && (
        <p className="px-5 pt-3 text-soft">
          So far:{' '}
          {state.routes
            .map(({ route, leftFor }) => {
              const title = judged.find((one) => one.route.id === route)?.route.title ?? route;
              return leftFor === undefined ? title : `${title} (left: ${leftFor})`;
            })
            .join(', ')}
          .
        </p>
      )}
      <fieldset className="mt-4 space-y-2 px-5">
        <legend className="mb-2 font-medium">Open to this battery</legend>
        {[...open]
          .sort((a, b) => placeOf(a) - placeOf(b))
          .map((one) => (
            <RouteChoice
              key={one.route.id}
              judged={one}
              isChosen={one === chosen}
              onChoose={() => setPicked(one.route.id)}
            />
          ))}
      </fieldset>
      {closed.length > 0 && (
        <details className="mx-5 mt-3">
          <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
            Not open to it, and why ({closed.length})
          </summary>
          <ul className="space-y-2 pb-2">
            {closed.map(({ route, veto }) => (
              <li key={route.id}>
                <span className="font-medium">{route.title}:</span>{' '}
                <span className="text-soft">{veto?.why}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      {needsReason && (
        <div className="mt-3">
          <Notice tone="caution">
            <label className="block font-medium" htmlFor="route-reason">
              Why all the same? It stays on the record.
            </label>
            <input
              id="route-reason"
              value={reason}
              maxLength={300}
              onChange={(event) => setReason(event.target.value)}
              className="mt-1 block min-h-12 w-full rounded-lg border-2 border-cork bg-card px-3 text-char"
            />
          </Notice>
        </div>
      )}
      <Actions>
        <Button
          type="submit"
          tone={chosen?.route.id === 'retire' ? 'danger' : 'go'}
          className="min-h-16 flex-1 text-lg"
          disabled={!chosen}
        >
          {chosen ? chosen.route.title : 'Choose one'}
        </Button>
      </Actions>
    </form>
  );
}
