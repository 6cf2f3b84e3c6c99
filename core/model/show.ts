/** What can be said of a string of cells from its state: charge, density, hydrogen, water. */
import { densityAt } from '../electrolyte/density.ts';
import { ACID_G_PER_AH, HYDROGEN_L_PER_AH, WATER_MADE_G_PER_AH } from '../electrolyte/faraday.ts';
import type { CellString } from './cellString.ts';

const DENSITY_STEPS = 600;
const DENSITY_TO = 0.6;
const density25 = Float64Array.from({ length: DENSITY_STEPS + 2 }, (_, i) =>
  densityAt((i / DENSITY_STEPS) * DENSITY_TO, 25),
);

/** Density at 25 °C of a mass fraction up to 0.6, from a fine table, g/cm³. */
export function quickDensity(massFraction: number): number {
  const place = Math.min(DENSITY_STEPS, Math.max(0, (massFraction / DENSITY_TO) * DENSITY_STEPS));
  const i = Math.floor(place);
  return (density25[i] as number) + (place - i) * ((density25[i + 1] as number) - (density25[i] as number));
}

/** Acid and water of a cell now, g. */
export function acidG(cells: CellString, group: number): number {
  return (
    (cells.p.acidG[group] as number) -
    ACID_G_PER_AH * ((cells.state.soft[group] as number) + (cells.state.hard[group] as number))
  );
}

export function waterG(cells: CellString, group: number): number {
  return (
    (cells.p.waterG[group] as number) +
    WATER_MADE_G_PER_AH * ((cells.state.soft[group] as number) + (cells.state.hard[group] as number)) -
    (cells.state.lostG[group] as number)
  );
}

/** Mean density of a cell's acid at 25 °C, g/cm³. */
export function meanDensity(cells: CellString, group: number): number {
  const acid = acidG(cells, group);
  return quickDensity(acid / (acid + waterG(cells, group)));
}

/** The same over all cells of the string, g/cm³. */
export function stringDensity(cells: CellString): number {
  let sum = 0;
  for (let g = 0; g < cells.groups; g++) sum += (cells.counts[g] as number) * meanDensity(cells, g);
  return sum / cells.groupOf.length;
}

/**
 * Charge of a cell, 0–1, as it is said everywhere: of what it is rated for, or of what a worn one can still hold. Drawn
 * below that, as only a slow discharge does, it stands at nothing.
 */
export function chargeShare(cells: CellString, group: number): number {
  const { state, p } = cells;
  const sulfate = (state.soft[group] as number) + (state.hard[group] as number);
  return Math.max(0, 1 - sulfate / Math.min(p.ratedAh[group] as number, p.convertibleAh[group] as number));
}

/** Share of charge of the cell with least, which is where the battery stops giving. */
export function leastCharge(cells: CellString): number {
  let least = 1;
  for (let g = 0; g < cells.groups; g++) least = Math.min(least, chargeShare(cells, g));
  return least;
}

/** Mean over all cells of a figure per group. */
export function meanOver(cells: CellString, figure: (group: number) => number): number {
  let sum = 0;
  for (let g = 0; g < cells.groups; g++) sum += (cells.counts[g] as number) * figure(g);
  return sum / cells.groupOf.length;
}

/** Hydrogen given off since the start by all cells, L at 25 °C: what left with the water lost. */
export function hydrogenL(cells: CellString, lostAtStartG: number): number {
  return (waterLostG(cells) - lostAtStartG) * (HYDROGEN_L_PER_AH / 0.33606);
}

/** Water lost by all cells so far, g. */
export function waterLostG(cells: CellString): number {
  let sum = 0;
  for (let g = 0; g < cells.groups; g++)
    sum += (cells.counts[g] as number) * (cells.state.lostG[g] as number);
  return sum;
}
