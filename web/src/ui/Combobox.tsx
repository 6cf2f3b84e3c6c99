/**
 * One of many, found by typing: letters typed on the closed field open it and begin the search, as a scanner's do; arrows
 * and Enter choose. Every row is 48 px high.
 */
import { Command } from 'cmdk';
import { Check, ChevronDown, Search } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';

export interface Findable {
  readonly value: string;
  readonly label: string;
  /** Heading it stands under. */
  readonly group?: string;
  /** What else it is found by: maker, pack code, a scanned number. */
  readonly words?: readonly string[];
}

export interface ComboboxProps {
  readonly id?: string;
  /** Its name, where no label stands beside it. */
  readonly label?: string;
  readonly value: string;
  readonly choices: readonly Findable[];
  readonly onChoose: (value: string) => void;
  readonly placeholder?: string;
  /** Told what is typed, where the choices are searched for elsewhere. */
  readonly onSearch?: (words: string) => void;
  /** Said where nothing is found. */
  readonly empty: string;
  readonly className?: string;
  readonly isInvalid?: boolean;
  /** What a view begins with: it has the keyboard on arrival. */
  readonly isFirst?: boolean;
}

/** Every word typed must stand somewhere; what begins with it comes first. */
function scoreOf(value: string, search: string, keywords: readonly string[] = []): number {
  const text = [value, ...keywords].join(' ').toLowerCase();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.every((word) => text.includes(word))) return 0;
  return text.startsWith(words.join(' ')) ? 1 : 0.5;
}

function Rows({
  choices,
  chosen,
  onChoose,
}: {
  choices: readonly Findable[];
  chosen: string;
  onChoose: (value: string) => void;
}) {
  return choices.map(({ value, label, words = [] }) => (
    <Command.Item
      key={value}
      value={value}
      keywords={[label, ...words]}
      onSelect={() => onChoose(value)}
      className="relative flex min-h-12 cursor-pointer items-center rounded-md py-2 pr-3 pl-9 data-[selected=true]:bg-cork/30"
    >
      {value === chosen && <Check aria-hidden className="absolute left-2 size-5" />}
      <span className={value === chosen ? 'font-semibold' : ''}>{label}</span>
    </Command.Item>
  ));
}

export function Combobox(props: ComboboxProps) {
  const { id, label, value, choices, onChoose, placeholder = 'Choose …', empty, className = '' } = props;
  const trigger = useRef<HTMLButtonElement>(null);
  const { isFirst = false } = props;
  useEffect(() => {
    if (isFirst) trigger.current?.focus();
  }, [isFirst]);
  const [isOpen, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const chosen = choices.find((one) => one.value === value);
  const groups = [...new Set(choices.map(({ group = '' }) => group))];
  const find = (words: string): void => {
    setSearch(words);
    props.onSearch?.(words);
  };
  const open = (next: boolean): void => {
    setOpen(next);
    if (!next) find('');
  };
  const choose = (next: string): void => {
    onChoose(next);
    open(false);
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={open}>
      <Popover.Trigger
        id={id}
        role="combobox"
        aria-label={label}
        aria-expanded={isOpen}
        aria-invalid={props.isInvalid}
        ref={trigger}
        onKeyDown={(event) => {
          const isLetter = event.key.length === 1 && event.key !== ' ';
          if (!isLetter || event.ctrlKey || event.metaKey || event.altKey) return;
          event.preventDefault();
          find(event.key);
          setOpen(true);
        }}
        className={`flex min-h-12 min-w-0 items-center justify-between gap-2 rounded-lg border-2 border-cork bg-card px-3 text-left font-normal aria-invalid:border-clay ${className}`}
      >
        <span className={`min-w-0 truncate ${chosen ? '' : 'text-soft'}`}>
          {chosen?.label ?? placeholder}
        </span>
        <ChevronDown aria-hidden className="size-5 shrink-0" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          aria-label={label ?? 'Find one of the list'}
          data-scans=""
          sideOffset={4}
          collisionPadding={8}
          onOpenAutoFocus={(event) => {
            // The search has the keyboard, its caret after what was typed.
            event.preventDefault();
            const input = (event.currentTarget as HTMLElement).querySelector('input');
            input?.focus();
            input?.setSelectionRange(input.value.length, input.value.length);
          }}
          className="z-60 w-(--radix-popover-trigger-width) max-w-[94vw] min-w-72 overflow-hidden rounded-lg border border-line bg-card shadow-lg"
        >
          <Command filter={scoreOf} loop label={label ?? placeholder}>
            <div className="flex items-center gap-2 border-b border-line px-3">
              <Search aria-hidden className="size-5 text-soft" />
              <Command.Input
                value={search}
                onValueChange={find}
                placeholder="Type to find"
                className="min-h-12 w-full bg-transparent outline-none"
              />
            </div>
            <Command.List className="max-h-[min(24rem,50vh)] overflow-y-auto p-1">
              <Command.Empty className="px-3 py-4 text-soft">{empty}</Command.Empty>
              {groups.map((group) => (
                <Command.Group
                  key={group}
                  heading={group === '' ? undefined : group}
                  className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-soft"
                >
                  <Rows
                    choices={choices.filter((one) => (one.group ?? '') === group)}
                    chosen={value}
                    onChoose={choose}
                  />
                </Command.Group>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
