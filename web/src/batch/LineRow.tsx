/** A line of a delivery: which type, how many, how old, for whom, and when they are wanted. */
import { Trash2 } from 'lucide-react';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { DateCodeField } from '../label/DateCodeField.tsx';
import { LabelPhotos } from '../label/LabelPhotos.tsx';
import { typeChoices } from '../label/typeChoices.ts';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { MomentField } from '../ui/MomentField.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Tick } from '../ui/Tick.tsx';
import { Named } from '../ui/Named.tsx';
import type { Line } from './deliveryLines.ts';
import { later } from '../ui/later.tsx';
import { card } from '../ui/card.ts';
import { box } from '../ui/box.ts';

const LabelForm = later(async () => (await import('../label/LabelForm.tsx')).LabelForm);

const BOX = box();

export function LineRow({
  line,
  mark,
  index,
  types,
  wanted,
  hours,
  now,
  onChange,
  onRemove,
}: {
  line: Line;
  /** Names a type that is read off its label. */
  mark: string;
  index: number;
  types: readonly ListedType[];
  /** What it still wants before it can be planned. */
  wanted: string | undefined;
  hours: ShopHours;
  now: number;
  onChange: (next: Line) => void;
  onRemove: () => void;
}) {
  const { answers, isJustThese, photos = [], ...plain } = line;
  return (
    <li className={card({ pad: 'snug' })}>
      <div className="grid grid-cols-2 gap-3 lg:grid-cols-[2fr_5rem_7rem_1fr_15.5rem_auto]">
        <Named label={`Type ${index + 1}`} className="text-sm max-lg:col-span-2">
          {answers ? (
            <p className="flex min-h-12 items-center text-base font-normal text-soft">
              As its label says, below.
            </p>
          ) : (
            <Combobox
              label={`Type ${index + 1}`}
              className="w-full text-base"
              value={line.typeId}
              choices={typeChoices(types, line.typeId)}
              empty="Nothing of the list is called so: read it off the label."
              onChoose={(typeId) => onChange({ ...line, typeId })}
            />
          )}
        </Named>
        <NumberField
          label="How many"
          unit=""
          value={line.count}
          onChange={(count) => onChange({ ...line, count: count ?? 0 })}
        />
        <div className="text-sm font-medium">
          <label htmlFor={`date-code-${line.id}`}>Date code</label>
          <DateCodeField
            id={`date-code-${line.id}`}
            now={now}
            className={`reading ${BOX}`}
            isInvalid={wanted?.startsWith('Date code') ?? false}
            value={line.dateCode}
            onChange={(dateCode) => onChange({ ...line, dateCode })}
          />
        </div>
        <label className="text-sm font-medium">
          For
          <input
            className={BOX}
            value={line.owner}
            placeholder="stock"
            maxLength={80}
            onChange={(event) => onChange({ ...line, owner: event.target.value })}
          />
        </label>
        <div className="text-sm font-medium max-sm:col-span-2">
          <label htmlFor={`promised-${line.id}`}>Promised</label>
          <MomentField
            id={`promised-${line.id}`}
            value={line.promised}
            now={now}
            hours={hours}
            onChange={(promised) => onChange({ ...line, promised })}
          />
        </div>
        <Button className="self-end max-lg:w-14" aria-label={`Remove line ${index + 1}`} onClick={onRemove}>
          <Trash2 aria-hidden className="size-5" />
        </Button>
      </div>
      <Button
        tone="quiet"
        className="mt-1"
        onClick={() => onChange(answers ? plain : { ...plain, typeId: '', answers: {} })}
      >
        {answers ? 'Back to the list' : 'Not in the list: read it off the label'}
      </Button>
      {answers && (
        <div className="space-y-3">
          <LabelForm
            types={types}
            mark={mark}
            answers={answers}
            onAnswers={(next) => onChange({ ...line, answers: next })}
          />
          <LabelPhotos photos={photos} onPhotos={(next) => onChange({ ...line, photos: next })} />
          <Tick
            label="Keep the type in the list for the next one"
            isOn={!isJustThese}
            onChange={(isKept) =>
              onChange({ ...plain, answers, photos, ...(isKept ? {} : { isJustThese: true }) })
            }
          />
        </div>
      )}
      {wanted !== undefined && (
        <p role="status" className="mt-2 text-clay">
          {wanted}
        </p>
      )}
    </li>
  );
}
