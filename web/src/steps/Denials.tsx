import { AlertDialog, DropdownMenu } from 'radix-ui';
import { ChevronUp } from 'lucide-react';
import { useState } from 'react';
import type { Denial } from '@cork-ember/core/runsheet/definition/step.ts';
import { Button } from '../ui/Button.tsx';
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
  const deny = (denial: Denial): void => {
    if (denial.leads === 'end' && asked !== denial) setAsked(denial);
    else {
      setAsked(undefined);
      void actions.record({ kind: 'denied', payload: { step: stepKey, denial: denial.id } });
    }
  };
  const only = denials.length === 1 ? denials[0] : undefined;
  if (denials.length === 0) return null;
  return (
    <>
      {only ? (
        <Button className="min-h-16" onClick={() => deny(only)}>
          {only.label}
        </Button>
      ) : (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="min-h-16">
              Something is wrong <ChevronUp aria-hidden className="size-5" />
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              side="top"
              align="end"
              sideOffset={8}
              className="z-30 min-w-64 rounded-lg border border-line bg-card p-1 shadow-lg"
            >
              {denials.map((denial) => (
                <DropdownMenu.Item
                  key={denial.id}
                  onSelect={() => deny(denial)}
                  className="flex min-h-13 cursor-pointer items-center rounded-md px-4 outline-none data-highlighted:bg-clay-wash data-highlighted:text-clay"
                >
                  {denial.label}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
      <AlertDialog.Root open={asked !== undefined} onOpenChange={(isOpen) => !isOpen && setAsked(undefined)}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
          <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[min(30rem,92vw)] -translate-x-1/2 -translate-y-1/2 rounded-xl border border-line bg-card p-6 shadow-xl">
            <AlertDialog.Title className="text-xl font-bold">{asked?.label}?</AlertDialog.Title>
            <AlertDialog.Description className="mt-2 text-soft">
              {asked?.say} This ends the job; the note is written for you.
            </AlertDialog.Description>
            <div className="mt-5 flex gap-3">
              <AlertDialog.Action asChild>
                <Button tone="danger" className="min-h-14" onClick={() => asked && deny(asked)}>
                  End the job
                </Button>
              </AlertDialog.Action>
              <AlertDialog.Cancel asChild>
                <Button className="min-h-14">Look again</Button>
              </AlertDialog.Cancel>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </>
  );
}
