/** A slider with its name and its value in words; the thumb is wide enough for a glove. */
import { Slider } from 'radix-ui';

export interface SlideProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max: number;
  readonly step: number;
  /** "30 %". */
  readonly text: string;
  readonly onChange: (value: number) => void;
}

export function Slide({ label, value, min, max, step, text, onChange }: SlideProps) {
  return (
    <div>
      <div className="flex items-baseline justify-between gap-2">
        <span className="font-medium">{label}</span>
        <span className="reading font-semibold">{text}</span>
      </div>
      <Slider.Root
        value={[value]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        className="relative flex h-12 w-full touch-none items-center select-none"
      >
        <Slider.Track className="relative h-2 grow rounded-full bg-line">
          <Slider.Range className="absolute h-full rounded-full bg-cork" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={text}
          className="grid size-12 place-items-center rounded-full after:size-7 after:rounded-full after:border-3 after:border-ember after:bg-card"
        />
      </Slider.Root>
    </div>
  );
}
