/** What is wrong with batteries of the demo before anybody has found out. */
import type { Hidden } from '@cork-ember/core/instruments/benchBattery.ts';
import type { JobState } from '@cork-ember/core/runsheet/state.ts';

const HIDDEN: Readonly<Record<string, Hidden>> = {
  // A partial short, on the bay beside the stove: it takes its charge and heats.
  'SK-0142': { faults: [{ kind: 'short', cell: 4, ohms: 1 }], ambientC: 27 },
};

export function hiddenIn(state: JobState): Hidden {
  return HIDDEN[state.opened.battery.tag] ?? {};
}
