import { ChevronUp } from 'lucide-react';
import { useState } from 'react';
import type { Denial } from '@cork-ember/core/runsheet/definition/step.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Popup } from '../ui/Popup.tsx';
import type { StepActions } from './StepCard.tsx';

/** The ways to say no. One that ends the job is asked about once more. */
export function Denials({
  denials,
  stepKey,
  actions,
}: {
  denials: readonly Denial[];
  stepKey: string;
  actions: StepActions;
}) {
  const [asked, setAsked] = useState<Denial>();
  const record = (denial: Denial): void => {
    setAsked(undefined);
    void actions.record({ kind: 'denied', payload: { step: stepKey, denial: denial.id } });
  };
  const deny = (denial: Denial): void => (denial.leads === 'end' ? setAsked(denial) : record(denial));
  const only = denials.length === 1 ? denials[0] : undefined;
  if (denials.length === 0) return null;
  return (
    <>
      {only ? (
        <Button className="min-h-16" onClick={() => deny(only)}>
          {only.label}
        </Button>
      ) : (
        <Popup
          name="What is wrong"
          side="top"
          align="end"
          className="min-w-64"
          openerClass={buttonClass({ className: 'min-h-16' })}
          opener={
            <>
              Something is wrong <ChevronUp aria-hidden className="size-5" />
            </>
          }
        >
          {(close) => (
            <div className="grid gap-2">
              {denials.map((denial) => (
                <Button
                  key={denial.id}
                  className="min-h-13 justify-start"
                  onClick={() => {
                    close();
                    deny(denial);
                  }}
                >
                  {denial.label}
                </Button>
              ))}
            </div>
          )}
        </Popup>
      )}
      {asked && (
        <Dialog
          title={`${asked.label}?`}
          said={`${asked.say} This ends the job; the note is written for you.`}
          onClose={() => setAsked(undefined)}
        >
          <div className="mt-5 flex gap-3">
            <Button tone="danger" className="min-h-14" onClick={() => record(asked)}>
              End the job
            </Button>
            <Button className="min-h-14" onClick={() => setAsked(undefined)}>
              Look again
            </Button>
          </div>
        </Dialog>
      )}
    </>
  );
}
