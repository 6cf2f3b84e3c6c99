/** Which battery a question is about, and what is known of it before a slider moves. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { chargeAfterSoakByAge, chargeFromRestedVoltage } from '@cork-ember/core/battery/stateOfCharge.ts';
import { CONSTRUCTION } from '@cork-ember/core/battery/construction.ts';
import {
  isTaken,
  LITHIUM_REFUSAL,
  nominalV,
  shortName,
  type ListedType,
  type LithiumType,
} from '@cork-ember/core/battery/types.ts';
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import { readLabel, type LabelCheck } from '../label/readLabel.ts';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import { ratingOf } from '@cork-ember/core/model/fromType.ts';
import { subjectOfType } from '@cork-ember/core/charge/subject.ts';
import type { Rating } from '@cork-ember/core/model/parameters.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { ageInMonths } from '@cork-ember/core/battery/dateCode.ts';
import { latest } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Subject } from '@cork-ember/core/charge/profile.ts';
import type { Condition } from '@cork-ember/core/whatif/question.ts';

export interface Known {
  readonly name: string;
  readonly rating: Rating;
  readonly subject: Subject;
  readonly condition: Partial<Condition>;
  /** Where the condition comes from. */
  readonly because: string;
  /** Why nothing is forecast for it, in one sentence. */
  readonly refusal?: string;
}

/** A battery described by hand. */
export interface ByHand {
  readonly construction: Rating['construction'];
  readonly duty: Rating['duty'];
  readonly cells: number;
  readonly capacityAh: number;
}

export function knownByHand({ construction, duty, cells, capacityAh }: ByHand): Known {
  return {
    name: `${CONSTRUCTION[construction].name} ${nominalV({ cells })} V${Number.isFinite(capacityAh) ? ` ${capacityAh} Ah` : ''}`,
    rating: { construction, duty, cells, capacityAh, hourRate: 20 },
    subject: { construction, cells, capacityAh },
    condition: {},
    because: 'Described by hand; acid and cranking as usual for its kind and size.',
  };
}

/** Of a lithium battery only its refusal; what stands beside it belongs to no battery. */
function refusedType(type: LithiumType): Known {
  const { cells, capacityAh, duty } = type;
  const stand = knownByHand({ construction: 'agm', duty, cells, capacityAh });
  return { ...stand, name: `${type.id} · ${shortName(type)}`, because: '', refusal: LITHIUM_REFUSAL };
}

export function knownType(type: ListedType): Known {
  if (!isTaken(type)) return refusedType(type);
  return {
    name: `${type.id} · ${shortName(type)}`,
    rating: ratingOf(type),
    subject: subjectOfType(type),
    condition: {},
    because: 'The label of the type; the condition is yours to set.',
  };
}

/** One read off its label: what is wanted still stands instead of a forecast. */
export function knownByLabel(answers: LabelAnswers, check: LabelCheck | undefined): Known {
  const read = readLabel(answers, 'as labelled', check);
  if ('type' in read) return { ...knownType(read.type), because: read.follows.join(' ') };
  const stand = knownByHand({ construction: 'agm', duty: 'starter', cells: 6, capacityAh: 80 });
  return { ...stand, name: 'Read off a label', because: '', refusal: read.problem };
}

/** A battery of the shop: its charge by the voltage after its soak, or by the age of its stock. */
export function knownBattery(
  battery: BatteryRecord,
  type: ListedType,
  job: Pick<Outline, 'state'> | undefined,
  now: number,
): Known {
  const common = { ...knownType(type), name: `${battery.tag} · ${shortName(type)}` };
  if (!isTaken(type)) return common;
  const soaked = job && latest(job.state, STEP.ocvSoak)?.values?.['ocvV'];
  if (typeof soaked === 'number') {
    const charge = chargeFromRestedVoltage(soaked, type.cells, type.construction).mean / 100;
    return { ...common, condition: { charge }, because: `${soaked.toFixed(2)} V after its soak.` };
  }
  const months = ageInMonths(battery.dateCode, now);
  if (months === undefined)
    return { ...common, because: 'Its age is not known; the condition is yours to set.' };
  return {
    ...common,
    condition: { charge: chargeAfterSoakByAge(months) / 100 },
    because: `Filled and soaked, stock of ${Math.round(months)} months.`,
  };
}
