/** The list a combobox opens, with a field to find in it where it is long, or once somebody types. */
import { Command } from 'cmdk';
import { Check, Search } from 'lucide-react';
import type { RefObject } from 'react';
import type { Findable } from './Combobox.tsx';
import { PopupPane } from './PopupPane.tsx';

/** More are not looked through by eye. */
const MANY = 8;

/** Every word typed must stand somewhere; what begins with it comes first. */
function scoreOf(value: string, search: string, keywords: readonly string[] = []): number {
  const text = [value, ...keywords].join(' ').toLowerCase();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.every((word) => text.includes(word))) return 0;
  return keywords.some((keyword) => keyword.toLowerCase().startsWith(words.join(' '))) ? 1 : 0.5;
}

/** In the order their headings first come; those without one stand first. */
function grouped(choices: readonly Findable[]): readonly (readonly [string, readonly Findable[]])[] {
  const names = [...new Set(choices.map(({ group = '' }) => group))];
  return names.map((name) => [name, choices.filter(({ group = '' }) => group === name)]);
}

export interface ComboboxPaneProps {
  readonly id: string;
  readonly name: string;
  readonly opener: RefObject<HTMLElement | null>;
  readonly chosen: string;
  readonly choices: readonly Findable[];
  /** What is typed to find one. */
  readonly search: string;
  readonly isSearched: boolean;
  readonly empty: string;
  readonly onSearch: (words: string) => void;
  readonly onChoose: (value: string) => void;
  readonly onClose: () => void;
}

export function ComboboxPane(props: ComboboxPaneProps) {
  const { name, opener, chosen, choices, search, onSearch, onChoose } = props;
  const hasField = props.isSearched || search !== '' || choices.length > MANY;
  return (
    <PopupPane
      id={props.id}
      name={name}
      kind="list"
      align="start"
      className={hasField ? 'min-w-72' : ''}
      opener={opener}
      onClose={props.onClose}
      onOpenAutoFocus={(event) => {
        // The search has the keyboard, its caret after what was typed; a list without one has it itself.
        event.preventDefault();
        const pane = event.currentTarget as HTMLElement;
        const input = pane.querySelector('input');
        (input ?? pane.querySelector<HTMLElement>('[cmdk-root]'))?.focus();
        input?.setSelectionRange(input.value.length, input.value.length);
      }}
    >
      <Command
        filter={scoreOf}
        loop
        label={name}
        {...(chosen === '' ? {} : { defaultValue: chosen })}
        onKeyDown={(event) => {
          const { key, ctrlKey, metaKey, altKey } = event;
          if (hasField || key.length !== 1 || key === ' ' || ctrlKey || metaKey || altKey) return;
          // The field that appears holds the letter already.
          event.preventDefault();
          onSearch(key);
        }}
        className="outline-none"
      >
        {hasField && (
          <div className="flex items-center gap-2 border-b border-line px-3">
            <Search aria-hidden className="size-5 text-soft" />
            <Command.Input
              value={search}
              onValueChange={onSearch}
              ref={(input) => {
                // One that appears because somebody types has the keyboard from then on.
                if (input && input.value !== '' && document.activeElement !== input) input.focus();
              }}
              placeholder="Type to find"
              className="min-h-12 w-full bg-transparent outline-none"
            />
          </div>
        )}
        <Command.List className="max-h-[min(24rem,50vh)] overflow-y-auto p-1">
          <Command.Empty className="px-3 py-4 text-soft">{props.empty}</Command.Empty>
          {grouped(choices).map(([group, rows]) => (
            <Command.Group
              key={group}
              heading={group === '' ? undefined : group}
              className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-soft"
            >
              {rows.map(({ value, label, words = [] }) => (
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
              ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </PopupPane>
  );
}
