/** Who is to be called about a battery, what for, and what was said last. */
import { useState } from 'react';
import { dayText } from '@cork-ember/core/clock/clockText.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { callsAt, type Call } from '@cork-ember/core/shelf/calls.ts';
import { whereOf } from '@cork-ember/core/shelf/words.ts';
import { sentenceOf } from '../api/client.ts';
import { useMinute } from '../api/clock.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { useShelf } from '../api/shelf.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';

const MOST_SAID = 500;

function CallCard({ call, now, timeZone }: { call: Call; now: number; timeZone: string }) {
  const enter = useEnterOnShelf();
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState('');
  const { one, others = [], who, why } = call;
  const record = async (): Promise<void> => {
    try {
      for (const { tag } of [one, ...others])
        await enter(tag, { kind: 'called', payload: { said: said.trim() } });
      setSaid('');
      setProblem('');
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <li className={card({ pad: 'snug' })}>
      <h2 className="text-lg font-bold">{who}</h2>
      <p>
        {[one, ...others].map(({ tag }) => tag).join(', ')}, {whereOf(one)}: <b>{why}</b>
      </p>
      <p className="text-sm text-soft">
        {one.called
          ? `Called ${dayText(one.called.at, now, timeZone)}: ${one.called.said}`
          : 'Not called about it yet.'}
      </p>
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void record();
        }}
      >
        <div className="min-w-48 flex-1">
          <TextBox label="What was said" value={said} onChange={setSaid} most={MOST_SAID} />
        </div>
        <Button type="submit" tone="go" disabled={said.trim() === ''}>
          Record the call
        </Button>
      </form>
    </li>
  );
}

function Calls({ shelved, timeZone }: { shelved: readonly Shelved[]; timeZone: string }) {
  const now = useMinute();
  const calls = callsAt(shelved, now);
  return (
    <div className="mx-auto max-w-3xl p-5">
      <Title>Who to call</Title>
      <p className="text-soft">
        {calls.length === 0
          ? 'Nobody is to be called within two weeks.'
          : 'Whoever has one of the shop’s batteries, and owners whose own is due, the soonest first.'}
      </p>
      <ul className="mt-4 space-y-3">
        {calls.map((call) => (
          <CallCard key={call.one.tag} call={call} now={now} timeZone={timeZone} />
        ))}
      </ul>
    </div>
  );
}

export function CallsPage() {
  const { shelved, shop, asked } = useShelf();
  if (!shelved || !shop) return <Waiting on={asked} />;
  return <Calls shelved={shelved} timeZone={shop.hours.timeZone} />;
}
