import { Check } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { ActStep, GateStep } from '@cork-ember/core/runsheet/definition/step.ts';
import { Button } from '../ui/Button.tsx';
import { Actions } from './Actions.tsx';
import { Denials } from './Denials.tsx';
import { SightPictures } from './SightPictures.tsx';
import type { StepActions } from './StepCard.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { box } from '../ui/box.ts';
import { Chambers } from './Chambers.tsx';

interface GateProps {
  readonly hand: AtHand;
  readonly gate: GateStep;
  readonly actions: StepActions;
}

export function Claims({ claims }: { claims: readonly string[] }) {
  return (
    <ul className="mt-4 space-y-2 px-5">
      {claims.map((claim) => (
        <li key={claim} className="flex gap-3 text-[17px]">
          <Check aria-hidden className="mt-1 size-5 shrink-0 text-cork-dark" />
          {claim}
        </li>
      ))}
    </ul>
  );
}

/** A guard stands before the step: it can only be passed over with a reason. */
const isGuarded = (hand: AtHand): boolean => hand.step.status !== 'held' && hand.hold !== undefined;

function ClaimsGate({ hand, gate, actions }: GateProps) {
  const { key } = hand.step;
  return (
    <>
      <Claims claims={gate.claims} />
      <SightPictures denials={gate.denials} />
      <Actions>
        <Button
          ref={focusQuietly}
          tone="go"
          className="min-h-16 flex-1 text-lg"
          disabled={isGuarded(hand)}
          onClick={() => void actions.record({ kind: 'affirmed', payload: { step: key } })}
        >
          {gate.affirmLabel}
        </Button>
        <Denials denials={gate.denials} stepKey={key} actions={actions} />
      </Actions>
    </>
  );
}

function CodeGate({ hand, gate, actions }: GateProps) {
  const [code, setCode] = useState('');
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    void actions.record({ kind: 'observed', payload: { step: hand.step.key, code } });
  };
  return (
    <form onSubmit={submit}>
      <label className="mt-4 block px-5">
        <span className="font-medium">{gate.code?.label}</span>
        <input
          ref={focusQuietly}
          data-scans=""
          value={code}
          maxLength={40}
          autoComplete="off"
          onChange={(event) => setCode(event.target.value)}
          className={box({ className: 'reading min-h-16 max-w-72 text-2xl uppercase' })}
        />
      </label>
      <Actions>
        <Button type="submit" tone="go" className="min-h-16 flex-1 text-lg">
          {gate.affirmLabel}
        </Button>
        <Denials denials={gate.denials} stepKey={hand.step.key} actions={actions} />
      </Actions>
    </form>
  );
}

function ChamberGate({ hand, gate, actions }: GateProps) {
  const { cells, positivePost } = hand.context.opened.type;
  const [fine, setFine] = useState<readonly boolean[]>(Array.from({ length: cells }, () => true));
  const failing = fine.flatMap((isFine, index) => (isFine ? [] : [index + 1]));
  if (!gate.chambers) return null;
  const names = gate.chambers;
  const label = failing.length === 0 ? gate.affirmLabel : `${names.name} ${failing.join(', ')}: ${names.no}`;
  return (
    <>
      <Chambers fine={fine} onChange={setFine} words={names} positivePost={positivePost} />
      <Actions>
        <Button
          ref={focusQuietly}
          tone={failing.length === 0 ? 'go' : 'danger'}
          className="min-h-16 flex-1 text-lg"
          disabled={isGuarded(hand)}
          onClick={() =>
            void actions.record({ kind: 'observed', payload: { step: hand.step.key, chambers: fine } })
          }
        >
          {label}
        </Button>
        <Denials denials={gate.denials} stepKey={hand.step.key} actions={actions} />
      </Actions>
    </>
  );
}

export function GateStepBody(props: GateProps) {
  if (props.gate.code) return <CodeGate {...props} />;
  if (props.gate.chambers) return <ChamberGate {...props} />;
  return <ClaimsGate {...props} />;
}

export function ActStepBody({ hand, act, actions }: { hand: AtHand; act: ActStep; actions: StepActions }) {
  return (
    <Actions>
      <Button
        ref={focusQuietly}
        tone="go"
        className="min-h-16 flex-1 text-lg"
        onClick={() => void actions.record({ kind: 'affirmed', payload: { step: hand.step.key } })}
      >
        {act.doneLabel}
      </Button>
    </Actions>
  );
}
