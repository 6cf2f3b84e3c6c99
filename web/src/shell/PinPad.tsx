/** A PIN, by glove or by keys. What is entered is seen by nobody. */
import { Delete } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { PASSPHRASE } from '@cork-ember/core/access/pins.ts';
import { sentenceOf } from '../api/client.ts';
import { box } from '../ui/box.ts';
import { Button } from '../ui/Button.tsx';

const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9'] as const;

interface PinPadProps {
  readonly name: string;
  /** Of a demo, where PINs stand on the page. */
  readonly shown: string | undefined;
  readonly onPin: (pin: string) => Promise<void>;
  readonly onBack: () => void;
}

export function PinPad({ name, shown, onPin, onBack }: PinPadProps) {
  const [pin, setPin] = useState('');
  const [problem, setProblem] = useState('');
  const [isAsking, setAsking] = useState(false);
  const press = (key: string): void => {
    setProblem('');
    setPin((before) => before + key);
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (pin === '') return;
    setAsking(true);
    try {
      await onPin(pin);
    } catch (error) {
      setProblem(sentenceOf(error));
      setPin('');
    } finally {
      setAsking(false);
    }
  };
  return (
    <form onSubmit={(event) => void submit(event)}>
      <label className="font-semibold">
        PIN of {name}
        <input
          type="password"
          inputMode="none"
          autoComplete="off"
          // Whoever opened this came to enter it.
          ref={(field) => field?.focus({ preventScroll: true })}
          maxLength={PASSPHRASE.most}
          value={pin}
          onChange={(event) => {
            setProblem('');
            setPin(event.target.value);
          }}
          className={box({ className: 'reading text-center text-2xl tracking-[0.4em]' })}
        />
      </label>
      {shown !== undefined && (
        <p className="mt-1 text-sm text-soft">
          A demo shows it: <span className="reading text-char">{shown}</span>
        </p>
      )}
      {problem !== '' && (
        <p role="alert" className="mt-1 text-clay">
          {problem}
        </p>
      )}
      <div className="mt-3 grid grid-cols-3 gap-2">
        {KEYS.map((key) => (
          <Button key={key} className="reading min-h-14 text-xl" onClick={() => press(key)}>
            {key}
          </Button>
        ))}
        <Button
          className="min-h-14"
          aria-label="Take the last digit back"
          onClick={() => setPin(pin.slice(0, -1))}
        >
          <Delete aria-hidden className="size-6" />
        </Button>
        <Button className="reading min-h-14 text-xl" onClick={() => press('0')}>
          0
        </Button>
        <Button type="submit" tone="go" className="min-h-14" disabled={pin === '' || isAsking}>
          Come
        </Button>
      </div>
      <Button tone="quiet" className="mt-1 w-full" onClick={onBack}>
        Somebody else
      </Button>
    </form>
  );
}
