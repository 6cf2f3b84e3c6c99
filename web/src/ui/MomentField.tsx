/** A day and a time of the shop's own clock, tapped rather than typed. */
import { Calendar } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { lazy, Suspense } from 'react';
import { momentText } from '@cork-ember/core/clock/clockText.ts';
import { momentOf } from '@cork-ember/core/clock/localTime.ts';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { Button } from './Button.tsx';
import { DialogPane } from './DialogPane.tsx';

const MomentPicker = lazy(() => import('./MomentPicker.tsx'));

export interface MomentFieldProps {
  readonly id: string;
  /** "2026-03-10T17:00" */
  readonly value: string;
  readonly now: number;
  readonly hours: ShopHours;
  readonly isInvalid?: boolean;
  readonly onChange: (value: string) => void;
}

export function MomentField({ id, isInvalid, ...rest }: MomentFieldProps) {
  const { value, now, hours } = rest;
  const { timeZone } = hours;
  const at = momentOf(value, timeZone);
  const words = Number.isNaN(at) ? 'Choose …' : momentText(at, now, timeZone);
  return (
    <Dialog.Root>
      <Dialog.Trigger
        id={id}
        aria-describedby={`${id}-moment`}
        aria-invalid={isInvalid}
        className="reading mt-1 flex min-h-12 w-full items-center justify-between gap-2 rounded-lg border-2 border-cork bg-card px-3 text-left text-base font-normal aria-invalid:border-clay"
      >
        <span id={`${id}-moment`} className="min-w-0 truncate">
          {words}
        </span>
        <Calendar aria-hidden className="size-5 shrink-0" />
      </Dialog.Trigger>
      <DialogPane title={words} className="w-max max-w-[98vw]">
        <Suspense fallback={<p className="p-4 text-soft">One moment …</p>}>
          <MomentPicker {...rest} />
        </Suspense>
        <Dialog.Close asChild>
          <Button tone="go" className="mt-4 w-full">
            That is it
          </Button>
        </Dialog.Close>
      </DialogPane>
    </Dialog.Root>
  );
}
