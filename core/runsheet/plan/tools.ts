/** What a job needs on the bench before it begins, read off the steps of its run sheet. */
import { STEP } from '../definition/stepIds.ts';
import { electrolyteFor } from '../../stock/stock.ts';
import type { OpenedPayload } from '../entries/events.ts';
import { procedureById } from '../procedures/procedures.ts';
import { applicableSteps } from '../state/sheet.ts';
import type { InstrumentQuantity } from '../../observation/instrument.ts';
import type { Step } from '../definition/step.ts';

const BY_QUANTITY: Readonly<Record<InstrumentQuantity, string>> = {
  voltage: 'Multimeter',
  current: 'Multimeter',
  temperature: 'Thermometer',
  mass: 'Scale',
  loadVoltage: 'Load tester or conductance tester',
  cranking: 'Load tester or conductance tester',
};

/** Worn and within reach, whatever the job. */
const ALWAYS = ['Goggles, acid gloves, apron', 'Eyewash, running water, baking soda'] as const;

function toolsOf(step: Step): readonly string[] {
  switch (step.kind) {
    case 'measure':
      return step.fields.flatMap((field) => {
        if (field.kind === 'choice') return [];
        if (field.id.startsWith('density')) return ['Hydrometer'];
        if (field.id.startsWith('dip')) return ['Dip probes, two of one metal'];
        return field.quantity ? [BY_QUANTITY[field.quantity]] : [];
      });
    case 'charge':
      return ['Charger of its bay'];
    case 'gate':
      return step.shows?.includes('postTorqueNm') ? ['Torque spanner, terminal grease'] : [];
    default:
      return [];
  }
}

/** Tools and stuff for a job, each once, in the order the hands come to them. */
export function toolsFor(opened: OpenedPayload): readonly string[] {
  const procedure = procedureById(opened.procedure, opened.edition ?? 1);
  const steps = applicableSteps(procedure, opened);
  const { type } = opened;
  const isFilled = (id: string): boolean => steps.some((step) => step.id === id);
  const stuff = [
    ...(isFilled(STEP.packOn) && type.pack ? [`Acid pack ${type.pack.code}, its own`] : []),
    ...(isFilled(STEP.electrolyte)
      ? [`${Math.ceil(electrolyteFor(type) / 100) * 100} mL of electrolyte, a funnel tube`]
      : []),
    ...(procedure.routes && type.construction === 'flooded' ? ['Distilled water, a lamp'] : []),
  ];
  return [...new Set([...ALWAYS, ...stuff, ...steps.flatMap(toolsOf)])];
}
