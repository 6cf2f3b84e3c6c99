/** A commissioning as phases, and where they fall in shop time from a start: what the promise planner moves about. */
import { fitFirstCharge } from '../charge/firstChargeFit.ts';
import type { Charger } from '../charge/charger.ts';
import type { OpenedPayload } from '../runsheet/entries/events.ts';
import { openJob } from '../runsheet/log/reduce.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { definitionOf } from '../runsheet/state/sheet.ts';
import type { OpenTimes } from '../clock/shopHours.ts';

export interface Phase {
  readonly kind: 'hands' | 'wait' | 'charge';
  readonly minutes: number;
  readonly title: string;
  /** Acid goes in with this phase: the charge must end the same day. */
  readonly isFilling?: boolean;
  /** Of a charge, what comes after its taper, min. */
  readonly provingMin?: number;
}

export interface Placed {
  readonly kind: Phase['kind'];
  readonly title: string;
  readonly from: number;
  readonly to: number;
}

export interface Layout {
  readonly placed: readonly Placed[];
  readonly from: number;
  readonly readyAt: number;
  /** Whether some of its hands came due while the shop was closed. */
  readonly waitsForOpening: boolean;
}

const MINUTE = 60_000;

/** The phases of a battery on a charger, or the sentence why that charger does not suit. */
export function phasesOf(opened: OpenedPayload, at: number, charger: Charger): readonly Phase[] | string {
  const state = openJob({ job: 'plan', seq: 1, key: '#1', at, by: '', kind: 'opened', payload: opened });
  const context = contextOf(state, 1);
  const setting = context.chargeSetting();
  const fitting = fitFirstCharge(charger, {
    type: opened.type,
    setA: setting.current.value,
    ceilingV: setting.ceiling.value,
    rules: opened.rules,
  });
  if ('reason' in fitting && context.isCharged) return fitting.reason;
  const setA = 'fit' in fitting ? fitting.fit.amps : undefined;
  const phases: Phase[] = [];
  const doneAtMin = new Map<string, number>();
  let clockMin = 0;
  for (const step of state.steps) {
    const definition = definitionOf(state, step);
    const { title } = definition;
    if (definition.kind === 'dwell') {
      const since = doneAtMin.get(definition.clockStart(context)) ?? clockMin;
      const minutes = Math.max(0, since + context.threshold(definition.minimum).value - clockMin);
      phases.push({ kind: 'wait', minutes, title });
      clockMin += minutes;
    } else {
      const look = definition.lookAfterMin?.(context) ?? 0;
      if (look > 0) phases.push({ kind: 'wait', minutes: look, title });
      const isFilling = definition.kind === 'gate' && definition.guard !== undefined;
      phases.push({
        kind: 'hands',
        minutes: definition.handsMin,
        title,
        ...(isFilling ? { isFilling } : {}),
      });
      clockMin += look + definition.handsMin;
      if (definition.kind === 'charge') {
        const { totalMin: minutes, provingMin } = context.chargeSetting(setA);
        phases.push({ kind: 'charge', minutes, title, provingMin });
        clockMin += minutes;
      }
    }
    doneAtMin.set(step.stepId, clockMin);
  }
  return phases;
}

/**
 * Lays phases out from a start: hands wait for the shop to be open, waits and charges do not.
 * @param inLineMin how long hands that came due at night wait in line when the shop opens, min
 * @returns undefined where a battery filled that day could not be charged that day
 */
export function layOut(
  phases: readonly Phase[],
  times: OpenTimes,
  startAt: number,
  inLineMin = 0,
): Layout | undefined {
  const placed: Placed[] = [];
  let at = times.nextOpen(startAt);
  const from = at;
  let closesAt: number | undefined;
  let waitsForOpening = false;
  for (const { kind, minutes, title, isFilling, provingMin = 0 } of phases) {
    const open = kind === 'hands' ? times.nextOpen(at) : at;
    const isNight = open > at && placed.length > 0;
    waitsForOpening ||= isNight;
    // What came due at night waits its turn when the shop opens.
    const begin = isNight ? times.nextOpen(open + inLineMin * MINUTE) : open;
    if (isFilling) closesAt = times.spanFrom(begin).to;
    const end = begin + minutes * MINUTE;
    // What only proves it full may run past closing: the supply holds its voltage.
    if (kind === 'charge' && closesAt !== undefined && end - provingMin * MINUTE > closesAt) return undefined;
    if (minutes > 0) placed.push({ kind, title, from: begin, to: end });
    at = end;
  }
  return { placed, from, readyAt: at, waitsForOpening };
}
