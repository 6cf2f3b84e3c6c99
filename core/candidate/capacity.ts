/**
 * What a battery gives at the twenty-hour rate to 1.75 V a cell at 25 °C, charged as far as it goes. The model is drawn once for each of a
 * few cells between a worn-out and an ample one, and what another gives is read between them: a test of its own for every candidate
 * would take a hundred times as long (`capacity.test.ts` holds the two against each other).
 */
import { SOUND } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { draw } from '../model/discharge.ts';
import { makeBattery } from '../model/faults.ts';
import { soundBattery, soundCell, twentyHourAh, type Rating } from '../model/parameters.ts';
import { get } from '../model/state.ts';
import { settled } from './piece.ts';

const HOUR_RATE = 20;
const END_CELL_V = 1.75;
/** What a cell comes down to while the others of the string, a fifth of a volt above their end, hold it up, V. */
const HELD_UP_CELL_V = 0.75;
const OTHERS_ABOVE_V = 0.2;
/** Others that have this much more to give still stand so high when it is empty, share of the rating. */
const AHEAD = 0.03;
/** With water gone the acid that is left is stronger, and gives a little more of what the plates hold (trial). */
const DRY_GIVES = 0.022;
/** A cell stands at about so much through a discharge, V: what a leak then takes. */
const DRAWN_CELL_V = 2;

/**
 * Cells that are drawn: what could react, as shares of a sound one; acid, as shares of what such plates usually have; and what of the
 * plates is sulfate already.
 */
const PLATES = [0.1, 0.4, 0.7, 1, 1.3] as const;
const ACID = [0.4, 0.5, 0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.1, 1.25, 1.5, 2, 3, 5] as const;
const SULFATE = [0, 0.2, 0.4, 0.6, 0.8, 0.95] as const;

/** What is given to the usual end, and until it is held up by others, share of the rating. */
interface Given {
  readonly toEnd: number;
  readonly heldUp: number;
}

function givenBy(rating: Rating, plates: number, acid: number, sulfate: number): Given {
  const cell = soundCell(rating);
  const parameters = {
    ...soundBattery(rating),
    rating: { ...rating, cells: 1 },
    cells: [{ ...cell, convertibleAh: cell.convertibleAh * plates, acidG: cell.acidG * plates * acid }],
  };
  const missing =
    (cell.convertibleAh * plates * sulfate) / Math.min(cell.ratedAh, cell.convertibleAh * plates);
  const cells = settled(
    makeBattery({ parameters, condition: { ...SOUND, charge: 1 - missing, hardShare: 1 } }),
  );
  const ratedAh = twentyHourAh(rating);
  const amps = ratedAh / HOUR_RATE;
  let [beforeS, beforeV, endS] = [0, Number.POSITIVE_INFINITY, Number.NaN];
  const { seconds } = draw(cells, amps, HELD_UP_CELL_V, 3 * HOUR_RATE * 3600, {
    told: (atS, volts) => {
      if (Number.isNaN(endS) && volts <= END_CELL_V)
        endS = Number.isFinite(beforeV)
          ? beforeS + ((beforeV - END_CELL_V) / (beforeV - volts)) * (atS - beforeS)
          : atS;
      [beforeS, beforeV] = [atS, volts];
    },
  });
  const share = (s: number): number => (amps * s) / 3600 / ratedAh;
  return { toEnd: share(Number.isNaN(endS) ? seconds : endS), heldUp: share(seconds) };
}

/** What was drawn, by place among plates, acid and sulfate; each when it is first asked for. */
const drawn = new WeakMap<Rating, Map<number, Given>>();

function nodeOf(rating: Rating, row: number, column: number, layer: number): Given {
  const nodes = drawn.get(rating) ?? new Map<number, Given>();
  drawn.set(rating, nodes);
  const key = (row * ACID.length + column) * SULFATE.length + layer;
  const known = nodes.get(key);
  if (known) return known;
  const given = givenBy(rating, PLATES[row] as number, ACID[column] as number, SULFATE[layer] as number);
  nodes.set(key, given);
  return given;
}

/** Places and weights of the three nodes about a value. @see Abramowitz & Stegun 1964, 25.2.11 (Lagrange) */
function curved(
  nodes: readonly number[],
  value: number,
): readonly (readonly [place: number, weight: number])[] {
  const first = Math.min(nodes.length - 3, Math.max(0, nodes.findIndex((node) => node > value) - 2));
  const three = [first, first + 1, first + 2].map((place) => [place, nodes[place] as number] as const);
  return three.map(([place, node]) => [
    place,
    three.reduce(
      (product, [other, far]) => (other === place ? product : (product * (value - far)) / (node - far)),
      1,
    ),
  ]);
}

/** Of the two nodes beside a value: where plates run out of acid the answer has a kink, which no curve follows. */
function straight(
  nodes: readonly number[],
  value: number,
): readonly (readonly [place: number, weight: number])[] {
  const inside = Math.min(nodes.at(-1) ?? value, Math.max(nodes[0] ?? value, value));
  const next = Math.max(
    1,
    nodes.findIndex((node) => node >= inside),
  );
  const [low, high] = [nodes[next - 1] as number, nodes[next] as number];
  const share = (inside - low) / (high - low);
  return [
    [next - 1, 1 - share],
    [next, share],
  ];
}

function readAt(rating: Rating, plates: number, acid: number, sulfate: number): Given {
  let [toEnd, heldUp] = [0, 0];
  const columns = straight(ACID, acid / plates);
  const layers = curved(SULFATE, sulfate);
  for (const [row, rowWeight] of curved(PLATES, plates))
    for (const [column, columnWeight] of columns)
      for (const [layer, layerWeight] of layers) {
        const weight = rowWeight * columnWeight * layerWeight;
        if (weight === 0) continue;
        const given = nodeOf(rating, row, column, layer);
        toEnd += weight * given.toEnd;
        heldUp += weight * given.heldUp;
      }
  return { toEnd: Math.max(0, toEnd), heldUp: Math.max(0, heldUp) };
}

/** A dead short holds nothing for longer than minutes, Ω. */
const HOLDS_NOTHING_OHM = 0.2;
/** Charge held the wrong way round that is more than rounding, Ah. */
export const REVERSED_AH = 1e-3;
/** A joint through which no test current passes, Ω. */
const OPEN_OHM = 100;

interface Cell extends Given {
  readonly count: number;
}

function cellsOf(cells: CellString, rating: Rating, isAsItStands: boolean): Cell[] {
  const sound = soundCell(rating);
  const amps = twentyHourAh(rating) / HOUR_RATE;
  const { p, state } = cells;
  return Array.from({ length: cells.groups }, (_, g): Cell => {
    const count = get(cells.counts, g);
    const leakS = get(p.shortS, g);
    if (leakS > 1 / HOLDS_NOTHING_OHM || get(state.reversed, g) > REVERSED_AH)
      return { count, toEnd: 0, heldUp: 0 };
    const convertible = get(p.convertibleAh, g);
    const sulfateAh = get(state.hard, g) + (isAsItStands ? get(state.soft, g) : 0);
    const given = readAt(
      rating,
      convertible / sound.convertibleAh,
      get(p.acidG, g) / sound.acidG,
      sulfateAh / convertible,
    );
    const strong = 1 + (DRY_GIVES * get(state.lostG, g)) / get(p.waterG, g);
    const kept = (strong * amps) / (amps + DRAWN_CELL_V * leakS);
    return { count, toEnd: given.toEnd * kept, heldUp: given.heldUp * kept };
  });
}

/**
 * Capacity at the twenty-hour rate, share of the rating.
 * @param isAsItStands drawn from where it stands, soft sulfate and all; otherwise once charged as far as it goes
 */
export function capacityShare(cells: CellString, rating: Rating, isAsItStands = false): number {
  for (let g = 0; g < cells.groups; g++) if (get(cells.p.jointOhm, g) > OPEN_OHM) return 0;
  const each = cellsOf(cells, rating, isAsItStands);
  const weakest = each.reduce((least, one) => (one.toEnd < least.toEnd ? one : least));
  const others = each.filter((one) => one !== weakest);
  if (others.length === 0 || weakest.toEnd === 0) return weakest.toEnd;
  // The others stand above their own end by more the more they have left, and the string's end waits for that.
  const above = others.reduce(
    (sum, { count, toEnd }) => sum + count * OTHERS_ABOVE_V * Math.min(1, (toEnd - weakest.toEnd) / AHEAD),
    0,
  );
  const part = Math.min(1, above / weakest.count / (END_CELL_V - HELD_UP_CELL_V));
  return weakest.toEnd + part * (weakest.heldUp - weakest.toEnd);
}
