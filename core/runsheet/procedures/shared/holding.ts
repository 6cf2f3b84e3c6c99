/** A battery held: charged, disconnected and left alone, then read; what it lost beyond self-discharge is a leak (handbook 3.2). */
import { temperatureField, voltageField } from '../../definition/fields.ts';
import type { DwellStep, MeasureStep, Step } from '../../definition/step.ts';

export const ocvAfter = (id: string, title: string, detail: string): MeasureStep => ({
  kind: 'measure',
  id,
  title,
  detail: () => detail,
  fields: [
    voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [11, 13.2], quantity: 'voltage' }),
    { ...temperatureField, optional: true },
  ],
  holds: () => undefined,
  denials: [],
  handsMin: 1,
  overdueAfterMin: 24 * 60,
  cautions: [],
});

export const wait = (
  id: string,
  title: string,
  minimum: DwellStep['minimum'],
  clockStart: DwellStep['clockStart'],
): DwellStep => ({
  kind: 'dwell',
  id,
  title,
  detail: ({ opened: { rules } }) =>
    rules.holdTest === 'fittedWeek' && id === 'week-hold'
      ? 'House rule: fitted for the week. Read the draw of the vehicle too, or a leak hides behind it.'
      : 'Disconnected, nothing on the posts. It needs no charger: move it to the shelf and the bay is free.',
  minimum,
  clockStart,
  canOverride: true,
  handsMin: 0,
  overdueAfterMin: 24 * 60,
  cautions: [],
  shows: [minimum],
});

/** Held for a day. @param from when it was read first, charged and rested */
export const heldADay = (from: DwellStep['clockStart']): readonly Step[] => [
  wait('hold', 'Hold, a day', 'holdDayMin', from),
  ocvAfter(
    'hold-read',
    'Read it after a day',
    'Nothing was connected since. Loss beyond self-discharge is a leak.',
  ),
];
