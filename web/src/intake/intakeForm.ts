/** What is asked at intake, checked as the server will check it once it is to be sent. */
import type { Resolver } from 'react-hook-form';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { Told } from '@cork-ember/core/runsheet/entries/events.ts';
import { partOf } from '../ui/later.tsx';

export interface IntakeForm {
  readonly battery: BatteryRecord;
  /** Work to be done; the usual for the kind where nothing is chosen. */
  readonly procedure?: string | undefined;
  readonly bay: number;
  readonly promisedAt: number;
  readonly fitting?: boolean | undefined;
  readonly told?: Told | undefined;
}

/** What checks the form: the view is there before it. */
export const intakeResolver = partOf(async (): Promise<Resolver<IntakeForm>> => {
  const [{ joiResolver }, { intakeFormSchema }] = await Promise.all([
    import('@hookform/resolvers/joi'),
    import('@cork-ember/core/contract/schemas.ts'),
  ]);
  return joiResolver(intakeFormSchema, { abortEarly: false });
});
