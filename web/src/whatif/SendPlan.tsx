/** Takes a plan to the charge step of a job that is waiting for one. */
import { useNavigate } from 'react-router';
import { placeText } from '@cork-ember/core/runsheet/entries/place.ts';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { hoursAndMinutes, type PlanAnswer } from '@cork-ember/core/whatif/answer.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';

/** Jobs whose charge is the next thing to start. */
function waiting(jobs: readonly Outline[], now: number): Outline[] {
  return jobs.filter(({ state }) => {
    const hand = atHand(state, now);
    return hand?.definition.kind === 'charge' && hand.phase === 'ready';
  });
}

interface SendPlanProps {
  readonly answer: PlanAnswer;
  readonly jobs: readonly Outline[];
  readonly now: number;
  readonly onClose: () => void;
}

export function SendPlan({ answer, jobs, now, onClose }: SendPlanProps) {
  const navigate = useNavigate();
  const ready = waiting(jobs, now);
  const { name, setA, setV, outcome } = answer;
  const words = `${name}: ${setA.toFixed(2)} A up to ${setV.toFixed(1)} V${outcome ? `, done after ${hoursAndMinutes(outcome.atS)}` : ''}`;
  const send = (job: Outline): void => {
    const asked = new URLSearchParams({ amps: setA.toFixed(2), plan: words });
    void navigate(`/jobs/${job.state.job}?${asked.toString()}`);
  };
  return (
    <Dialog onClose={onClose} title="Send to a job" said={`${words}.`}>
      <div className="mt-4 grid gap-2">
        {ready.length === 0 && <p>No job is waiting to start its charge.</p>}
        {ready.map((job) => (
          <Button key={job.state.job} className="justify-start" onClick={() => send(job)}>
            {job.state.opened.battery.tag} · {shortName(job.state.opened.type)} · {placeText(job.state.bay)}
          </Button>
        ))}
        <Button tone="quiet" onClick={onClose}>
          Close
        </Button>
      </div>
    </Dialog>
  );
}
