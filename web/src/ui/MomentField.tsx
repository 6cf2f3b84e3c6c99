/** A day and a time of the shop's own clock, tapped rather than typed. */
import { Calendar } from 'lucide-react';
import { useState } from 'react';
import { momentText } from '@cork-ember/core/clock/clockText.ts';
import { momentOf } from '@cork-ember/core/clock/localTime.ts';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { Button } from './Button.tsx';
import { Dialog } from './Dialog.tsx';
import { later } from './later.tsx';
import { box } from './box.ts';

const MomentPicker = later(
  async () => (await import('./MomentPicker.tsx')).MomentPicker,
  <p className="p-4 text-soft">One moment …</p>,
);

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
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        id={id}
        aria-describedby={`${id}-moment`}
        data-invalid={isInvalid}
        className={box({ fit: 'opener', className: 'reading mt-1 w-full text-base' })}
      >
        <span id={`${id}-moment`} className="min-w-0 truncate">
          {words}
        </span>
        <Calendar aria-hidden className="size-5 shrink-0" />
      </button>
      <Dialog isOpen={isOpen} onClose={() => setOpen(false)} title={words} className="w-max max-w-[98vw]">
        <MomentPicker {...rest} />
        <Button tone="go" className="mt-4 w-full" onClick={() => setOpen(false)}>
          That is it
        </Button>
      </Dialog>
    </>
  );
}
