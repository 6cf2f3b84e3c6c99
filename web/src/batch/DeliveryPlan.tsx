/** How a delivery would go: when each begins and is ready, what helps if it would be late, and the press that takes it in. */
import { useMemo } from 'react';
import { durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import type { Assignment } from '@cork-ember/core/schedule/planner.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Table, type Column } from '../ui/Table.tsx';
import type { DrawnDelivery } from './useDeliveryPlan.ts';
import { card } from '../ui/card.ts';

const chargeFrom = ({ layout }: Assignment): number | undefined =>
  layout.placed.find(({ kind }) => kind === 'charge')?.from;

const columnsOf = (now: number, timeZone: string): readonly Column<Assignment>[] => {
  const when = (at: number | undefined): string => (at === undefined ? '—' : whenText(at, now, timeZone));
  return [
    { id: 'tag', head: 'Tag', cell: ({ id }) => <b>{id}</b>, sortBy: ({ id }) => id, text: ({ id }) => id },
    {
      id: 'bay',
      head: 'Bay',
      cell: ({ bay }) => bay,
      sortBy: ({ bay }) => bay,
      text: ({ bay }) => String(bay),
    },
    {
      id: 'begins',
      head: 'Begins',
      cell: ({ layout }) => <span className="reading">{when(layout.from)}</span>,
      sortBy: ({ layout }) => layout.from,
      text: ({ layout }) => when(layout.from),
    },
    {
      id: 'charge',
      head: 'On charge',
      cell: (one) => <span className="reading">{when(chargeFrom(one))}</span>,
      sortBy: chargeFrom,
      text: (one) => when(chargeFrom(one)),
    },
    {
      id: 'ready',
      head: 'Ready',
      cell: ({ layout, lateMin }) => (
        <span className={`reading font-semibold ${lateMin > 0 ? 'text-clay' : 'text-verdigris'}`}>
          {when(layout.readyAt)}
          {lateMin > 0 && `, ${durationText(lateMin * 60_000)} late`}
        </span>
      ),
      sortBy: ({ layout }) => layout.readyAt,
      text: ({ layout }) => when(layout.readyAt),
    },
  ];
};

/** What accepting the plan does. */
function acceptWords(now: number, all: number): string {
  if (all === 0) return 'None can be done';
  if (now === all) return `Accept ${all} and open the bench for them`;
  return now === 0 ? `Accept ${all}, to begin later` : `Accept ${all}: ${now} begin now, ${all - now} wait`;
}

interface DeliveryPlanProps {
  readonly planned: DrawnDelivery;
  /** How many go into their bay at once. */
  readonly begins: number;
  readonly now: number;
  readonly timeZone: string;
  readonly isSending: boolean;
  /** What is said where nothing is late. */
  readonly calm?: string;
  readonly onAccept: () => void;
}

export function DeliveryPlan({
  planned,
  begins,
  now,
  timeZone,
  isSending,
  calm = 'All can be ready when promised',
  onAccept,
}: DeliveryPlanProps) {
  const columns = useMemo(() => columnsOf(now, timeZone), [now, timeZone]);
  const rows = useMemo(
    () => [...planned.plan.assignments].sort((a, b) => a.layout.from - b.layout.from || a.bay - b.bay),
    [planned],
  );
  return (
    <section aria-label="Plan" className={card({ className: 'mt-5' })}>
      <p className={`text-xl font-bold ${planned.plan.lateMin > 0 ? 'text-clay' : 'text-verdigris'}`}>
        {planned.plan.lateMin > 0
          ? `${planned.plan.assignments.filter(({ lateMin }) => lateMin > 0).length} of ${planned.task.batteries.length} would be late`
          : calm}
      </p>
      {planned.help && (
        <div className="mt-2">
          <Notice tone="caution">
            What helps most: {planned.help.sentence}{' '}
            {planned.help.lateMin > 0
              ? `Then ${durationText(planned.help.lateMin * 60_000)} late in all.`
              : 'Then nothing is late.'}
          </Notice>
        </div>
      )}
      {planned.plan.impossible.map(({ id, reason }) => (
        <div key={id} className="mt-2">
          <Notice tone="stop">
            {id}: {reason}
          </Notice>
        </div>
      ))}
      <Table
        name="When each begins and is ready"
        rows={rows}
        columns={columns}
        keyOf={({ id }) => id}
        file="delivery.csv"
        className="mt-3"
      />
      <Button
        tone="go"
        className="mt-4 min-h-16 w-full text-lg"
        disabled={planned.plan.assignments.length === 0 || isSending}
        onClick={onAccept}
      >
        {isSending ? 'Taking them in …' : acceptWords(begins, planned.plan.assignments.length)}
      </Button>
      {begins < planned.plan.assignments.length && (
        <p className="mt-2 text-soft">
          What begins later waits on the shelf and is called for when its start is due.
        </p>
      )}
    </section>
  );
}
