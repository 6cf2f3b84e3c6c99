/** What a shop is called, how its tags begin, and by which clock it lives. */
import { Combobox } from '../ui/Combobox.tsx';
import { TextBox } from '../ui/TextBox.tsx';

/** Time zones as they are chosen; the one a browser knows under another name is offered too. */
const ZONES = [...new Set(['Etc/UTC', ...Intl.supportedValuesOf('timeZone')])].map((value) => ({
  value,
  label: value.replaceAll('_', ' '),
}));

interface Identity {
  readonly name: string;
  readonly tagLetters: string;
  readonly timeZone: string;
}

interface IdentityFieldsProps {
  readonly identity: Identity;
  readonly onChange: (next: Identity) => void;
}

export function IdentityFields({ identity, onChange }: IdentityFieldsProps) {
  const { name, tagLetters, timeZone } = identity;
  return (
    <div className="grid max-w-2xl items-end gap-4 sm:grid-cols-2">
      <div className="sm:col-span-2">
        <TextBox
          label="Name of the shop"
          value={name}
          most={80}
          onChange={(next) => onChange({ ...identity, name: next })}
        />
      </div>
      <TextBox
        isReading
        label="Tags begin with"
        value={tagLetters}
        most={6}
        onChange={(next) => onChange({ ...identity, tagLetters: next.toUpperCase() })}
      />
      <div className="text-sm font-medium">
        <span aria-hidden>Time zone</span>
        <Combobox
          label="Time zone"
          className="mt-1 min-h-13 w-full text-base"
          value={timeZone}
          choices={ZONES}
          empty="No zone is called so: try the largest town near you."
          onChoose={(next) => onChange({ ...identity, timeZone: next })}
        />
      </div>
    </div>
  );
}
