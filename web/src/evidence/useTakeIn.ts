/** Puts readings on the record of a job, one after the other; what was refused is said in one sentence. */
import { useState } from 'react';
import type { Reading } from '@cork-ember/core/belief/readings.ts';
import type { Job } from '@cork-ember/core/runsheet/fold.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecordAll } from '../api/record.ts';

export function useTakeIn(job: Job) {
  const record = useRecordAll(job);
  const [problem, setProblem] = useState('');
  const all = async (readings: readonly Reading[]): Promise<boolean> => {
    if (readings.length === 0) {
      setProblem('Nothing is entered yet.');
      return false;
    }
    try {
      await record(readings.map((reading) => ({ kind: 'evidenced', payload: { reading } })));
      setProblem('');
      return true;
    } catch (error) {
      setProblem(sentenceOf(error));
      return false;
    }
  };
  return { all, problem };
}
