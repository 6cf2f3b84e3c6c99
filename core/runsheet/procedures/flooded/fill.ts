/** Caps, vent plug, electrolyte, filling and soaking of a flooded battery (handbook 2.2, steps 1 to 6). */
import { densityTo25 } from '../../../electrolyte/density.ts';
import { densityField, electrolyteTempField } from '../../definition/fields.ts';
import type { ChamberWords, Step } from '../../definition/step.ts';

/** How far electrolyte may be off the density asked for, g/cm³ (a hydrometer reads to ±0.003). */
const DENSITY_WITHIN = 0.01;

export const LEVELS: ChamberWords = {
  name: 'Cell',
  yes: 'at the line',
  no: 'off the line',
  remedy: 'Fill it to the UPPER line, or draw what is over back into the bottle, and look again',
};

const LEVELS_OVER_FINE: ChamberWords = {
  name: 'Cell',
  yes: 'at the line or just over',
  no: 'under the line',
  remedy: 'Fill it to the UPPER line and look again',
};

export const filling: readonly Step[] = [
  {
    kind: 'gate',
    id: 'caps-off',
    title: 'Take every cap off',
    detail: () =>
      'Press-in caps: pliers, straight up. Threaded caps: fingers or a coin. Keep them in order, upside down, clean.',
    claims: ['Every cap off and kept clean'],
    affirmLabel: 'All caps are off',
    denials: [
      {
        id: 'cap-stuck',
        label: 'A cap will not come',
        say: 'Warm the case by hand and try again; never pry against a post or the case.',
        leads: 'hold',
      },
    ],
    handsMin: 2,
    overdueAfterMin: 30,
    cautions: ['acid'],
  },
  {
    kind: 'gate',
    id: 'vent-plug',
    title: 'Bin the vent plug',
    detail: () =>
      'The coloured plug on the vent spout goes into the bin: put back on a filled battery it can burst the case. Where there is a vent at each end, the hose goes on one and the other stays closed.',
    claims: [
      'Coloured plug off the spout and in the bin',
      'Long hose kept whole for the vent; only the short one fills',
      'Never both vents plugged',
    ],
    affirmLabel: 'Plug is in the bin',
    denials: [
      {
        id: 'both-plugged',
        label: 'Both vents are plugged',
        say: 'Open one: a battery with both vents closed bursts when it gasses.',
        leads: 'hold',
      },
      {
        id: 'hose-cut',
        label: 'The vent hose was cut up to fill',
        say: 'Fit a new vent hose of the right bore before this battery goes on; fill through the short tube.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['ventPlug'],
  },
  {
    kind: 'measure',
    id: 'electrolyte',
    title: 'Check the electrolyte',
    detail: ({ threshold }) =>
      `Density ${threshold('fillDensity').value.toFixed(3)} at 25 °C, and ${threshold('fillFromC').value} to ${threshold('fillToC').value} °C. Read both; the reading is corrected to 25 °C here.`,
    fields: [
      {
        kind: 'choice',
        id: 'densityFrom',
        label: 'Density by',
        optional: true,
        options: [
          { id: 'hydrometer', label: 'Hydrometer' },
          { id: 'bag', label: 'As printed on a sealed bag' },
        ],
      },
      densityField('density', 'Density, as read'),
      electrolyteTempField,
    ],
    holds: (values, { threshold }) => {
      const { density, acidC, densityFrom } = values;
      if (typeof density !== 'number' || typeof acidC !== 'number') return undefined;
      const low = threshold('fillFromC').value;
      const high = threshold('fillToC').value;
      if (acidC < low || acidC > high)
        return {
          why: `${acidC.toFixed(1)} °C: electrolyte is filled at ${low} to ${high} °C. Let it come to the room and read again.`,
          canOverride: false,
        };
      const at25 = densityFrom === 'bag' ? density : densityTo25(density, acidC);
      const asked = threshold('fillDensity').value;
      return Math.abs(at25 - asked) <= DENSITY_WITHIN
        ? undefined
        : {
            why: `${at25.toFixed(3)} at 25 °C; this battery takes ${asked.toFixed(3)} ± ${DENSITY_WITHIN}. Take the right electrolyte.`,
            canOverride: false,
          };
    },
    denials: [],
    remark: ({ density, acidC, densityFrom }) =>
      densityFrom === 'bag'
        ? `${Number(density).toFixed(3)} is what the sealed bag prints, at 25 °C; nobody measured it.`
        : typeof density === 'number' && typeof acidC === 'number'
          ? `${density.toFixed(3)} read at ${acidC.toFixed(1)} °C is ${densityTo25(density, acidC).toFixed(3)} at 25 °C.`
          : undefined,
    handsMin: 2,
    overdueAfterMin: 30,
    cautions: ['acid'],
    shows: ['fillDensity', 'fillFromC', 'fillToC'],
  },
  ...(['toLine', 'slightlyOver'] as const).map((school): Step => ({
    kind: 'gate',
    id: school === 'toLine' ? 'fill' : 'fill-over-fine',
    title: 'Fill every cell to the upper line',
    detail: () =>
      `Through the short tube, cell by cell. When the last is full go back to the first: levels fall as air leaves. Plates are never left bare. ${school === 'toLine' ? 'At or just under the line is right.' : 'House rule: slightly over is fine.'} Acid left over is normal.`,
    claims: [],
    affirmLabel: school === 'toLine' ? 'All at the line' : 'All at the line or just over',
    chambers: school === 'toLine' ? LEVELS : LEVELS_OVER_FINE,
    denials: [
      {
        id: 'too-little-acid',
        label: 'The bottle ran out',
        say: 'Take more electrolyte of the same density before going on; never water, never stronger acid.',
        leads: 'hold',
      },
    ],
    guard: 'fill-and-charge-same-day',
    when: { rule: 'overfill', isOneOf: [school] },
    handsMin: 6,
    overdueAfterMin: 30,
    cautions: ['acid', 'acidSwallowed', 'rottenEgg'],
  })),
  {
    kind: 'dwell',
    id: 'soak',
    title: 'Let it soak',
    detail: () =>
      'Tap the case gently from time to time so that trapped bubbles rise. Levels fall as plates soak.',
    minimum: 'floodedSoakMin',
    clockStart: ({ opened }) => (opened.rules.overfill === 'slightlyOver' ? 'fill-over-fine' : 'fill'),
    canOverride: true,
    handsMin: 0,
    overdueAfterMin: 60,
    cautions: ['notReady'],
    shows: ['floodedSoakMin'],
  },
  {
    kind: 'gate',
    id: 'top-up',
    title: 'Top up with acid, the last time',
    detail: () =>
      'Levels have fallen. Fill each cell to the UPPER line with the same electrolyte. This is the last time acid goes in: from the first charge on only distilled water.',
    claims: [],
    affirmLabel: 'All at the line again',
    chambers: LEVELS,
    denials: [
      {
        id: 'leaks',
        label: 'A cell keeps falling',
        say: 'A cell that keeps falling leaks: rejected before charge.',
        leads: 'end',
        outcome: 'rejected',
      },
    ],
    handsMin: 3,
    overdueAfterMin: 30,
    cautions: ['acid', 'lastAcid'],
  },
  {
    kind: 'act',
    id: 'caps-loose',
    title: 'Lay the caps on, loose',
    detail: () => 'On the holes, not screwed or pressed: fizz and gas must get out, drops must not.',
    doneLabel: 'Caps lie loose',
    when: { rule: 'floodedCaps', isOneOf: ['loose'] },
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: [],
  },
  {
    kind: 'gate',
    id: 'caps-fitted',
    title: 'Fit the vented caps',
    detail: () => 'House rule: fitted while charging. Only caps with open vents.',
    claims: ['Every cap has an open vent'],
    affirmLabel: 'Vented caps are fitted',
    denials: [
      {
        id: 'no-vents',
        label: 'They have no vents',
        say: 'Lay them on loosely instead: closed caps hold the gas back.',
        leads: 'hold',
      },
    ],
    when: { rule: 'floodedCaps', isOneOf: ['fitted'] },
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: [],
  },
];
