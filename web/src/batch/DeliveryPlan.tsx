/** How a delivery would go: when each begins and is ready, what helps if it would be late, and the press that takes it in. */
import { durationText, whenText } from '@cork-ember/core/clock/clockText.ts';
import type { Assignment } from '@cork-ember/core/schedule/planner.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import type { DrawnDelivery } from './useDeliveryPlan.ts';

function PlanRow({ one, now, timeZone }: { one: Assignment; now: number; timeZone: string }) {
  const charge = one.layout.placed.find(({ kind }) => kind === 'charge');
  return (
    <tr className="border-b border-line">
      <td className="py-2.5 font-semibold">{one.id}</td>
      <td className="py-2.5">{one.bay}</td>
      <td className="reading py-2.5">{whenText(one.layout.from, now, timeZone)}</td>
      <td className="reading py-2.5">{charge ? whenText(charge.from, now, timeZone) : '—'}</td>
      <td className={`reading py-2.5 font-semibold ${one.lateMin > 0 ? 'text-clay' : 'text-verdigris'}`}>
        {whenText(one.layout.readyAt, now, timeZone)}
      </td>
      <td className="py-2.5 text-clay">
        {one.lateMin > 0 ? `${durationText(one.lateMin * 60_000)} late` : ''}
      </td>
    </tr>
  );
}

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
  readonly onAccept: () => void;
}

export function DeliveryPlan({ planned, begins, now, timeZone, isSending, onAccept }: DeliveryPlanProps) {
  return (
    <section aria-label="Plan" className="mt-5 rounded-xl border border-line bg-card p-4">
      <p className={`text-xl font-bold ${planned.plan.lateMin > 0 ? 'text-clay' : 'text-verdigris'}`}>
        {planned.plan.lateMin > 0
          ? `${planned.plan.assignments.filter(({ lateMin }) => lateMin > 0).length} of ${planned.task.batteries.length} would be late`
          : 'All can be ready when promised'}
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
      <div className="overflow-x-auto">
        <table className="mt-3 w-full min-w-140 text-left">
          <thead>
            <tr className="border-b-2 border-line text-sm text-soft">
              {['Tag', 'Bay', 'Begins', 'On charge', 'Ready', ''].map((head) => (
                <th key={head} className="py-2 font-medium">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...planned.plan.assignments]
              .sort((a, b) => a.layout.from - b.layout.from || a.bay - b.bay)
              .map((one) => (
                <PlanRow key={one.id} one={one} now={now} timeZone={timeZone} />
              ))}
          </tbody>
        </table>
      </div>
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
