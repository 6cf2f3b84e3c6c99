/** A browser the shop does not know: made one of its own by a lead's code, or let in by a lead's passphrase. */
import { useId, useState, type FormEvent, type ReactNode } from 'react';
import { PASSPHRASE } from '@cork-ember/core/access/pins.ts';
import { ask } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { useProblem } from '../ui/useProblem.ts';
import { box } from '../ui/box.ts';

/** The code a camera brought along: it stands behind the #, which no server ever sees. */
const codeInAddress = (): string => /^#enrol=([A-Z0-9]+)$/i.exec(location.hash)?.[1] ?? '';

/** Everything was asked for in vain so far: begun anew as one of the shop's. */
async function comeIn(path: string, body: unknown): Promise<void> {
  await ask(path, body);
  location.replace('/');
}

export function LetIn() {
  return (
    <div className="mx-auto grid max-w-4xl gap-8 p-5 md:grid-cols-2" data-scans="">
      <div className="md:col-span-2">
        <h1 className="text-2xl font-bold">This browser is not one of the shop’s yet</h1>
        <p className="mt-1 max-w-prose text-soft">
          Nothing of the shop is shown here until a lead lets it in. Once is enough; who stands at it is asked
          by PIN from then on.
        </p>
      </div>
      <Enrol />
      <ByPassphrase />
    </div>
  );
}

interface WayInProps {
  readonly title: string;
  readonly said: string;
  readonly does: string;
  readonly tone?: 'go';
  /** Where it is asked for, and with what. */
  readonly path: string;
  readonly body: object;
  readonly children: ReactNode;
}

function WayIn({ title, said, does, tone, path, body, children }: WayInProps) {
  const titleId = useId();
  const { problem, attempt } = useProblem();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const { went, failed } = attempt();
    comeIn(path, body).then(went, failed);
  };
  return (
    <section aria-labelledby={titleId}>
      <h2 id={titleId} className="text-lg font-bold">
        {title}
      </h2>
      <p className="mb-3 text-soft">{said}</p>
      <form onSubmit={submit} className="space-y-3">
        {children}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <Button type="submit" tone={tone} className="min-h-14 w-full">
          {does}
        </Button>
      </form>
    </section>
  );
}

function Enrol() {
  const [code, setCode] = useState(codeInAddress);
  const [name, setName] = useState('');
  return (
    <WayIn
      title="A tablet of the shop"
      said="A lead makes a code for it under Setup, People; it is good for ten minutes, once."
      does="Make it one of the shop’s"
      tone="go"
      path="/api/tablets"
      body={{ code, name }}
    >
      <TextBox label="Code" value={code} onChange={setCode} isReading />
      <TextBox label="What it is called" value={name} onChange={setName} placeholder="Acid bench" />
    </WayIn>
  );
}

function ByPassphrase() {
  const [name, setName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  return (
    <WayIn
      title="A lead, from anywhere else"
      said="For twelve hours at most. A PIN alone opens no browser that is not the shop’s."
      does="Come in"
      path="/api/session/passphrase"
      body={{ name, passphrase }}
    >
      <TextBox label="Your name" value={name} onChange={setName} />
      <label className="block font-medium">
        Passphrase
        <input
          type="password"
          autoComplete="current-password"
          maxLength={PASSPHRASE.most}
          value={passphrase}
          onChange={(event) => setPassphrase(event.target.value)}
          className={box()}
        />
      </label>
    </WayIn>
  );
}
