/** Puts readings on the record of a job, one after the other; what was refused is said in one sentence. */
import type { Reading } from '@cork-ember/core/observation/readings.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { useRecordAll } from '../api/record.ts';
import { useProblem } from '../ui/useProblem.ts';

/** @param onTaken called once they are on the record */
export function useTakeIn(job: Job, onTaken: () => void) {
  const record = useRecordAll(job);
  const { problem, attempt } = useProblem();
  const all = async (readings: readonly Reading[]): Promise<boolean> => {
    const { went, failed } = attempt();
    try {
      if (readings.length === 0) throw new Error('Nothing is entered yet.');
      await record(readings.map((reading) => ({ kind: 'evidenced', payload: { reading } })));
      went();
      onTaken();
      return true;
    } catch (error) {
      failed(error);
      return false;
    }
  };
  return { all, problem };
}
