/** One machine: the batteries that work in it as one, what the bench found of each, and which drags the others down. */
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { MachineAnswer, MachineBattery, Shop } from '@cork-ember/core/contract/answers.ts';
import { SET_LIMITS } from '@cork-ember/core/ledger/sets.ts';
import { dragging, isGone, isOnBench } from '@cork-ember/core/ledger/togetherInMachine.ts';
import { PLACES } from '@cork-ember/core/shelf/places.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { useMachine } from '../api/machines.ts';
import { useShop } from '../api/queries.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { Table, type Column } from '../ui/Table.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { FitDialog } from './FitDialog.tsx';
import { MachineDialog } from './MachineDialog.tsx';

function standingOf(one: MachineBattery): string {
  if (isOnBench(one)) return 'on the bench';
  const { place } = one;
  return place ? PLACES[place.kind].where : 'nobody has said where';
}

const COLUMNS: readonly Column<MachineBattery>[] = [
  {
    id: 'tag',
    head: 'Tag',
    cell: (one) => (
      <Link
        to={isOnBench(one) && one.job !== undefined ? `/jobs/${one.job}` : `/batteries/${one.tag}`}
        className="inline-flex min-h-12 items-center whitespace-nowrap underline decoration-cork underline-offset-4"
      >
        {one.tag}
      </Link>
    ),
  },
  { id: 'where', head: 'Where', cell: standingOf },
  {
    id: 'chargedV',
    head: 'Charged, V',
    cell: ({ chargedV }) => chargedV?.toFixed(2) ?? '·',
    isFigure: true,
  },
  {
    id: 'capacity',
    head: 'Capacity',
    cell: ({ capacityShare }) => (capacityShare === undefined ? '·' : percentText(capacityShare)),
    isFigure: true,
  },
  { id: 'milliohm', head: 'mΩ', cell: ({ milliohm }) => milliohm?.toFixed(1) ?? '·', isFigure: true },
];

/** What is to be said of its set, in a sentence. */
function saidOf(machine: MachineAnswer, drags: ReturnType<typeof dragging>): string {
  const { batteries, carries } = machine;
  const there = batteries.filter((one) => !isGone(one));
  const measured = batteries.filter(({ chargedV, outcome }) => chargedV !== undefined || outcome);
  if (batteries.length === 0) return 'Nobody has said yet which batteries work in it.';
  if (drags.length > 0) {
    if (carries === 1) return drags.map(({ tag, why }) => `${tag}: ${why}.`).join(' ');
    return drags.map(({ tag, why }) => `${tag} drags the set down: ${why}.`).join(' ');
  }
  if (there.length < carries) return `${there.length} of ${carries} are known.`;
  return measured.length < there.length
    ? 'Which one drags the others down shows once each was charged and has rested.'
    : 'None of them stands out: they are alike.';
}

function MachineView({ machine, shop }: { machine: MachineAnswer; shop: Shop }) {
  const [open, setOpen] = useState<'change' | 'fit'>();
  const { tag, name, owner, carries, typeId, batteries } = machine;
  const drags = dragging(batteries, SET_LIMITS[shop.rules.setMatch]);
  const isOut = batteries.some(isOnBench);
  const there = batteries.filter((one) => !isGone(one));
  return (
    <div className="mx-auto max-w-4xl p-5">
      <Title>{name}</Title>
      <p className="text-soft">
        {tag}, {owner === 'stock' ? 'the shop’s own' : `for ${owner}`}; carries {carries} × {typeId}.
      </p>
      <p role="status" className={`mt-4 text-xl font-bold ${drags.length > 0 ? 'text-clay' : 'text-char'}`}>
        {saidOf(machine, drags)}
      </p>
      {drags.length > 0 && carries > 1 && (
        <p className="mt-1">
          Replace the whole set: the others would be worn by it. What is good among them makes a set for
          another machine (
          <Link to="/ledger/sets" className="underline underline-offset-4">
            match it
          </Link>
          ).
        </p>
      )}
      {batteries.length > 0 && (
        <div className={card({ className: 'mt-4' })}>
          <Table
            name={`Batteries of ${name}`}
            rows={batteries}
            columns={COLUMNS}
            keyOf={(one) => one.tag}
            isDense
          />
        </div>
      )}
      <div className="mt-4 flex flex-wrap gap-3">
        {there
          .filter(({ place }) => place?.kind === 'display')
          .map((one) => (
            <Link
              key={one.tag}
              to={`/shelf?tag=${one.tag}`}
              className={buttonClass({ tone: 'go', className: 'min-h-16 text-lg' })}
            >
              It is sold: refit {one.tag}
            </Link>
          ))}
        {!isOut && (there.length > 0 || batteries.length === 0) && (
          <Link
            to={`/brought?machine=${tag}`}
            className={buttonClass({
              tone: drags.length === 0 ? 'go' : 'plain',
              className: 'min-h-16 text-lg',
            })}
          >
            {carries === 1 ? 'Bring it in' : 'Bring the set in'}
          </Link>
        )}
        <Button
          tone={drags.length > 0 ? 'go' : 'plain'}
          className="min-h-16 text-lg"
          onClick={() => setOpen('fit')}
        >
          {carries === 1 ? 'Fit a battery' : there.length === 0 ? 'Fit a set' : 'Replace the set'}
        </Button>
        <a
          href={`/api/machines/${tag}/label.pdf`}
          download
          className={buttonClass({ className: 'min-h-16' })}
        >
          Its label (PDF)
        </a>
        <Button tone="quiet" className="min-h-16" onClick={() => setOpen('change')}>
          Change it
        </Button>
      </div>
      {open === 'change' && (
        <MachineDialog
          machine={{ tag, name, owner, carries, typeId }}
          onKept={() => setOpen(undefined)}
          onClose={() => setOpen(undefined)}
        />
      )}
      {open === 'fit' && <FitDialog machine={machine} onClose={() => setOpen(undefined)} />}
    </div>
  );
}

export function MachinePage() {
  const { tag = '' } = useParams();
  const [machine, shop] = [useMachine(tag.toUpperCase()), useShop()];
  if (!machine.data || !shop.data) return <Waiting on={[machine, shop]} />;
  return <MachineView machine={machine.data} shop={shop.data} />;
}
