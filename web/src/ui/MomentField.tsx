/** A day and a time of the shop's own clock, tapped rather than typed. */
import { Calendar } from 'lucide-react';
import { Popover } from 'radix-ui';
import { lazy, Suspense } from 'react';
import { clockText, dateText, weekdayText } from '@cork-ember/core/schedule/clockText.ts';
import { momentOf } from '@cork-ember/core/schedule/localTime.ts';
import type { ShopHours } from '@cork-ember/core/schedule/shopHours.ts';

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
  const { value, hours } = rest;
  const at = momentOf(value, hours.timeZone);
  const { timeZone } = hours;
  return (
    <Popover.Root>
      <Popover.Trigger
        id={id}
        aria-invalid={isInvalid}
        className="reading mt-1 flex min-h-12 w-full items-center justify-between gap-2 rounded-lg border-2 border-cork bg-card px-3 text-left text-base font-normal aria-invalid:border-clay"
      >
        <span className="min-w-0 truncate">
          {Number.isNaN(at)
            ? 'Choose …'
            : `${weekdayText(at, timeZone)} ${dateText(at, timeZone)} ${clockText(at, timeZone)}`}
        </span>
        <Calendar aria-hidden className="size-5 shrink-0" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          aria-label="Day and time"
          className="z-40 max-h-(--radix-popover-content-available-height) max-w-[96vw] overflow-auto rounded-xl border border-line bg-card p-3 shadow-lg"
        >
          <Suspense fallback={<p className="p-4 text-soft">One moment …</p>}>
            <MomentPicker {...rest} />
          </Suspense>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
