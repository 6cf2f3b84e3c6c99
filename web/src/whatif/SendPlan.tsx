/** Takes a plan to the charge step of a job that is waiting for one. */
import { Dialog } from 'radix-ui';
import { useNavigate } from 'react-router';
import { placeText } from '@cork-ember/core/runsheet/place.ts';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { atHand } from '@cork-ember/core/runsheet/atHand.ts';
import type { Job } from '@cork-ember/core/runsheet/fold.ts';
import { hoursAndMinutes, type PlanAnswer } from '@cork-ember/core/whatif/answer.ts';
import { Button } from '../ui/Button.tsx';

/** Jobs whose charge is the next thing to start. */
function waiting(jobs: readonly Job[], now: number): Job[] {
  return jobs.filter(({ state }) => {
    const hand = atHand(state, now);
    return hand?.definition.kind === 'charge' && hand.phase === 'ready';
  });
}

interface SendPlanProps {
  readonly answer: PlanAnswer;
  readonly jobs: readonly Job[];
  readonly now: number;
  readonly onClose: () => void;
}

export function SendPlan({ answer, jobs, now, onClose }: SendPlanProps) {
  const navigate = useNavigate();
  const ready = waiting(jobs, now);
  const { name, setA, setV, outcome } = answer;
  const words = `${name}: ${setA.toFixed(2)} A up to ${setV.toFixed(1)} V${outcome ? `, done after ${hoursAndMinutes(outcome.atS)}` : ''}`;
  const send = (job: Job): void => {
    const asked = new URLSearchParams({ amps: setA.toFixed(2), plan: words });
    void navigate(`/jobs/${job.state.job}?${asked.toString()}`);
  };
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/50" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-30 w-[min(34rem,92vw)] -translate-x-1/2 -translate-y-1/2 rounded-xl border border-line bg-card p-6">
          <Dialog.Title className="text-xl font-bold">Send to a job</Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">{words}.</Dialog.Description>
          <div className="mt-4 grid gap-2">
            {ready.length === 0 && <p>No job is waiting to start its charge.</p>}
            {ready.map((job) => (
              <Button key={job.state.job} className="justify-start" onClick={() => send(job)}>
                {job.state.opened.battery.tag} · {shortName(job.state.opened.type)} ·{' '}
                {placeText(job.state.bay)}
              </Button>
            ))}
            <Dialog.Close asChild>
              <Button tone="quiet">Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
