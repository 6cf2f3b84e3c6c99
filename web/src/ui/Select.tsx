/** One of several, hit with a glove: every row is 48 px high. By keyboard as a native one: arrows, letters, Enter. */
import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

export interface Choice {
  readonly value: string;
  readonly label: string;
  /** Heading it stands under, where there are several. */
  readonly group?: string;
}

export interface SelectProps {
  readonly id?: string;
  /** Its name, where no label stands beside it. */
  readonly label?: string;
  readonly value: string;
  readonly choices: readonly Choice[];
  readonly onChoose: (value: string) => void;
  /** Shown while nothing is chosen. */
  readonly placeholder?: string;
  readonly className?: string;
  readonly isInvalid?: boolean;
  readonly isDisabled?: boolean;
}

/** A select under the name it has itself. */
export function Named({
  label,
  className = '',
  children,
}: {
  readonly label: string;
  readonly className?: string;
  readonly children: ReactNode;
}) {
  return (
    <div className={`font-medium ${className}`}>
      <span aria-hidden>{label}</span>
      <div className="mt-1">{children}</div>
    </div>
  );
}

/** In the order their headings first come; those without one stand first. */
function grouped(choices: readonly Choice[]): readonly (readonly [string, readonly Choice[]])[] {
  const names = [...new Set(choices.map(({ group = '' }) => group))];
  return names.map((name) => [name, choices.filter(({ group = '' }) => group === name)]);
}

function Row({ value, label }: Choice) {
  return (
    <Radix.Item
      value={value}
      className="relative flex min-h-12 cursor-pointer items-center rounded-md py-2 pr-3 pl-9 outline-none data-highlighted:bg-cork/30 data-[state=checked]:font-semibold"
    >
      <Radix.ItemIndicator className="absolute left-2">
        <Check aria-hidden className="size-5" />
      </Radix.ItemIndicator>
      <Radix.ItemText>{label}</Radix.ItemText>
    </Radix.Item>
  );
}

export function Select(props: SelectProps) {
  const { id, label, value, choices, onChoose, placeholder = 'Choose …', className = '' } = props;
  return (
    <Radix.Root
      value={value}
      onValueChange={onChoose}
      {...(props.isDisabled === undefined ? {} : { disabled: props.isDisabled })}
    >
      <Radix.Trigger
        id={id}
        aria-label={label}
        aria-invalid={props.isInvalid}
        className={`flex min-h-12 min-w-0 items-center justify-between gap-2 rounded-lg border-2 border-cork bg-card px-3 text-left font-normal disabled:opacity-55 aria-invalid:border-clay data-placeholder:text-soft ${className}`}
      >
        <span className="min-w-0 truncate">
          <Radix.Value placeholder={placeholder} />
        </span>
        <Radix.Icon>
          <ChevronDown aria-hidden className="size-5 shrink-0" />
        </Radix.Icon>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={4}
          collisionPadding={8}
          className="z-60 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[94vw] overflow-hidden rounded-lg border border-line bg-card shadow-lg"
        >
          <Radix.Viewport className="p-1">
            {grouped(choices).map(([name, rows]) => (
              <Radix.Group key={name}>
                {name !== '' && (
                  <Radix.Label className="px-3 pt-3 pb-1 text-sm font-semibold text-soft">{name}</Radix.Label>
                )}
                {rows.map((one) => (
                  <Row key={one.value} {...one} />
                ))}
              </Radix.Group>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
