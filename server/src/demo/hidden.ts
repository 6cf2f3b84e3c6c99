/** What is wrong with batteries of the demo before anybody has found out. */
import type { Hidden } from '@cork-ember/core/adapters/benchBattery.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { idOf } from './ids.ts';

/** One of a set that was replaced whole: charged and worn a little differently each. */
const ofASet = (charge: number, left: number, hardShare = 0.08): Hidden => ({
  condition: { charge, hardShare, film: 0.0003 },
  faults: [{ kind: 'worn', share: left }],
});

const DEEP_AND_SOUND: Hidden = { condition: { charge: -0.1445, hardShare: 0.05, film: 0.02 } };

const HIDDEN: Readonly<Record<string, Hidden>> = {
  // Brought back: what each really is, for whoever finds out.
  'SK-0091': ofASet(0.52, 0.83),
  'SK-0092': ofASet(0.47, 0.82),
  'SK-0093': ofASet(0.61, 0.735),
  'SK-0094': ofASet(0.55, 0.7),
  'SK-0095': ofASet(0.12, 0.9, 0.75),
  'SK-0101': { condition: { charge: 0.7, hardShare: 0.3, film: 0.002 } },
  'SK-0102': {
    condition: { charge: 0.35, hardShare: 0.7, film: 0.01 },
    faults: [{ kind: 'worn', share: 0.86 }],
  },
  'SK-0103': { condition: { charge: 0.92, film: 0.0001 }, faults: [{ kind: 'weak', cell: 5, share: 0.08 }] },
  'SK-0104': { condition: { charge: -0.1445, hardShare: 0.3, film: 0.02 } },
  'SK-0105': { condition: { charge: 0.4, hardShare: 0.5, film: 0.004 } },
  'SK-0106': {
    condition: { charge: 0.58, hardShare: 0.1, film: 0.0005 },
    faults: [{ kind: 'short', cell: 3, ohms: 0.15 }],
  },
  'SK-0107': {
    condition: { charge: 0.45, hardShare: 0.2, film: 0.001 },
    faults: [{ kind: 'dry', share: 0.3 }],
  },
  // A partial short, on the bay beside the stove: it takes its charge and heats.
  'SK-0142': { faults: [{ kind: 'short', cell: 4, ohms: 1 }], ambientC: 27 },
  // Two alike that stood empty for months, and one with a cell that takes its charge and loses it: for the week of a bay that works by itself.
  'SK-0161': DEEP_AND_SOUND,
  'SK-0162': DEEP_AND_SOUND,
  'SK-0163': { condition: { charge: 0.3, film: 0.001 }, faults: [{ kind: 'short', cell: 4, ohms: 0.5 }] },
};

/** What they were when they came before. */
const THEN: Readonly<Record<string, Hidden>> = {
  [idOf('SK-0102', 1)]: ofASet(0.6, 0.97, 0.03),
  [idOf('SK-0102', 2)]: ofASet(0.5, 0.93, 0.1),
};

export function hiddenIn(state: JobState): Hidden {
  return THEN[state.job] ?? HIDDEN[state.opened.battery.tag] ?? {};
}
