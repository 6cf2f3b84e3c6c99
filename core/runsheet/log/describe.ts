/** An entry of the log in words. */
import { verbatim } from '../../units/localise.ts';
import { whenText } from '../../clock/clockText.ts';
import { inSentence } from '../../units/inSentence.ts';
import { placeText } from '../entries/place.ts';
import { readingWords } from '../../belief/words.ts';
import type { JobEvent } from '../entries/events.ts';
import type { StepValues } from '../../units/values.ts';
import { measuredWords } from '../definition/measuredWords.ts';
import { contextOf } from '../state/context.ts';
import { procedureOf, stepOf } from '../state/sheet.ts';
import type { JobState } from '../state/jobState.ts';
import type { Step } from '../definition/step.ts';

function valuesText(values: StepValues, step: Step | undefined, key: string, state: JobState): string {
  if (step?.kind !== 'measure') return Object.values(values).join(', ');
  const round = Number(key.split('#')[1] ?? 1);
  const words = measuredWords(step, values, contextOf(state, round));
  return words.length === 0 ? 'as in the catalogue' : words.join(', ');
}

function chambersText(chambers: readonly boolean[]): string {
  const failing = chambers.flatMap((isFine, index) => (isFine ? [] : [index + 1]));
  return failing.length === 0 ? 'All.' : `Not chamber ${failing.join(', ')}.`;
}

/** One line: what was recorded, without who and when. */
export function describeEvent(event: JobEvent, state: JobState): string {
  const title =
    'step' in event.payload ? (stepOf(state, event.payload.step)?.title ?? event.payload.step) : '';
  switch (event.kind) {
    case 'opened':
      return `Taken in for ${event.payload.battery.owner}`;
    case 'affirmed':
      return title;
    case 'observed':
      return event.payload.code === undefined
        ? `${title} ${chambersText(event.payload.chambers ?? [])}`
        : `${title}: ${event.payload.code}`;
    case 'denied': {
      const definition = stepOf(state, event.payload.step);
      const denials = definition && 'denials' in definition ? definition.denials : [];
      const { denial } = event.payload;
      return `${title}: ${inSentence(denials.find((one) => one.id === denial)?.label ?? denial)}`;
    }
    case 'measured':
      return `${title}: ${valuesText(event.payload.values, stepOf(state, event.payload.step), event.payload.step, state)}`;
    case 'skipped':
      return `${title}: left out`;
    case 'overridden':
      return `${title}: passed over, “${event.payload.reason}”`;
    case 'chargeStarted':
      return `Charger on at ${event.payload.currentA.toFixed(2)} A${event.payload.charger ? `: ${event.payload.charger.name}` : ''}`;
    case 'chargeLogged':
      return `Logger’s file taken in: ${event.payload.file}, ${event.payload.rows} rows`;
    case 'chargeRead': {
      const { voltageV, currentA, tempC, density, cellDensities } = event.payload.values;
      const floats =
        density === undefined
          ? (cellDensities?.map((one) => one.toFixed(3)).join(' · ') ?? '')
          : density.toFixed(3);
      return `On charge: ${voltageV.toFixed(2)} V, ${currentA.toFixed(2)} A, ${tempC.toFixed(1)} °C${floats === '' ? '' : `, density ${floats}`}`;
    }
    case 'chargeSet':
      return [
        ...(event.payload.currentA === undefined
          ? []
          : [`Current set to ${event.payload.currentA.toFixed(2)} A`]),
        ...(event.payload.voltageV === undefined
          ? []
          : [`Voltage set to ${event.payload.voltageV.toFixed(1)} V`]),
      ].join(', ');
    case 'chargePaused':
      return event.payload.reason === 'hot' ? 'Charger off: too hot' : 'Charger off: paused';
    case 'chargeResumed':
      return `Charger on again at ${event.payload.tempC.toFixed(1)} °C`;
    case 'chargeEnded':
      return event.payload.fullSignal ? 'Charger off: it showed full' : 'Charger off at the mains';
    case 'decided':
      return `Verdict: ${{ pass: 'pass', repeat: 'charge again', reject: 'reject' }[event.payload.verdict]}`;
    case 'routed': {
      const { route, reason } = event.payload;
      const taken = procedureOf(state).routes?.find(({ id }) => id === route)?.title ?? route;
      return `Route: ${taken}${reason === undefined ? '' : `, “${reason}”`}`;
    }
    case 'routeLeft':
      return `Route left: ${verbatim(event.payload.reason)}`;
    case 'noted':
      return `Note: ${verbatim(event.payload.text)}`;
    case 'photographed':
      return `Photo: ${verbatim(event.payload.caption)}`;
    case 'evidenced':
      return `Found out: ${readingWords(event.payload.reading)}`;
    case 'placed':
      return `Moved to ${placeText(event.payload.bay)}`;
    case 'arranged': {
      const { promisedAt, owner, why } = event.payload;
      const { timeZone } = state.opened.hours;
      const parts = [
        ...(promisedAt === undefined ? [] : [`promised for ${whenText(promisedAt, event.at, timeZone)}`]),
        ...(owner === undefined ? [] : [`for ${verbatim(owner)}`]),
      ];
      return `Now ${parts.join(', ')}: “${why}”`;
    }
    case 'withdrawn':
      return `Withdrawn: ${verbatim(event.payload.reason)}`;
    // Told with the entry they change (history.ts).
    case 'corrected':
      return 'Put an entry right';
    case 'undone':
      return 'Took an entry back';
    case 'amended':
      return `Amended after the papers were out: ${verbatim(event.payload.why)}`;
    case 'reopened':
      return `Ending taken back, ${placeText(event.payload.bay)}: ${verbatim(event.payload.why)}`;
  }
}
