/**
 * One of several, by glove or by keyboard: letters typed on the closed field open it and begin the search, as a scanner's do;
 * arrows and Enter choose. Every row is 48 px high.
 */
import { ChevronDown } from 'lucide-react';
import { useEffect, useId, useRef, useState } from 'react';
import type { ComboboxPaneProps } from './ComboboxPane.tsx';
import { fetchSoon, later } from './later.tsx';
import { box } from './box.ts';

const ComboboxPane = later<ComboboxPaneProps>(async () => (await import('./ComboboxPane.tsx')).ComboboxPane);

export interface Findable {
  readonly value: string;
  readonly label: string;
  /** Heading it stands under, where there are several. */
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
  /** Shown while nothing is chosen. */
  readonly placeholder?: string;
  /** Told what is typed, where the choices are searched for elsewhere. */
  readonly onSearch?: (words: string) => void;
  /** Said where nothing is found. */
  readonly empty?: string;
  readonly className?: string;
  readonly isInvalid?: boolean;
  readonly isDisabled?: boolean;
  /** What a view begins with: it has the keyboard on arrival. */
  readonly isFirst?: boolean;
}

/** Keys that open it as a press does. */
const OPENING = ['ArrowDown', 'ArrowUp'];

export function Combobox(props: ComboboxProps) {
  const { id, label, value, choices, onChoose, onSearch, placeholder = 'Choose …', className = '' } = props;
  const { isFirst = false, empty = 'None of them is called so.' } = props;
  const pane = useId();
  const opener = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (isFirst) opener.current?.focus();
  }, [isFirst]);
  useEffect(() => void fetchSoon(ComboboxPane.part), []);
  const [isOpen, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const chosen = choices.find((one) => one.value === value);
  const find = (words: string): void => {
    setSearch(words);
    onSearch?.(words);
  };
  const close = (): void => {
    setOpen(false);
    find('');
  };
  return (
    <>
      <button
        ref={opener}
        type="button"
        id={id}
        role="combobox"
        aria-label={label}
        aria-haspopup="listbox"
        aria-expanded={isOpen}
        aria-controls={pane}
        aria-invalid={props.isInvalid}
        disabled={props.isDisabled}
        // An Enter that comes before the list does not close it.
        onClick={() => setOpen(!isOpen || ComboboxPane.part.now() === undefined)}
        onKeyDown={(event) => {
          const isLetter = event.key.length === 1 && event.key !== ' ';
          if (event.ctrlKey || event.metaKey || event.altKey) return;
          if (!isLetter && !OPENING.includes(event.key)) return;
          event.preventDefault();
          // What is typed before the list has come is not lost.
          if (isLetter) find(search + event.key);
          setOpen(true);
        }}
        className={box({ fit: 'opener', className })}
      >
        <span className={`min-w-0 truncate ${chosen ? '' : 'text-soft'}`}>
          {chosen?.label ?? placeholder}
        </span>
        <ChevronDown aria-hidden className="size-5 shrink-0" />
      </button>
      {isOpen && (
        <ComboboxPane
          id={pane}
          name={label ?? 'Find one of the list'}
          opener={opener}
          chosen={value}
          choices={choices}
          search={search}
          isSearched={onSearch !== undefined}
          empty={empty}
          onSearch={find}
          onChoose={(next) => {
            onChoose(next);
            close();
          }}
          onClose={close}
        />
      )}
    </>
  );
}
