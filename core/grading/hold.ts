/**
 * Whether a battery held its charge: what it lost against what its kind loses by standing, at the warmth it was read
 * (handbook 3.2, “hold”). A doubtful hold is said to be one; it condemns nobody.
 */
import { onSix, SIX } from '../battery/types.ts';
import { standingLossPercent, voltsOfPercent } from '../battery/selfDischarge.ts';
import type { Construction } from '../battery/construction.ts';

export interface RestedReading {
  readonly at: number;
  readonly volts: number;
  readonly tempC?: number;
}

export interface HoldQuestion {
  readonly construction: Construction;
  readonly cells: number;
  readonly capacityAh: number;
  readonly before: RestedReading;
  readonly after: RestedReading;
  /** Fitted to a vehicle meanwhile: what it drew, mA, where that was measured. */
  readonly fitted?: { readonly drawMa?: number };
}

export interface Hold {
  readonly verdict: 'held' | 'doubtful' | 'leak';
  readonly lostV: number;
  readonly allowedV: number;
  /** What one cell lost of its charge, were it that one's alone. */
  readonly oneCellShare: number;
  readonly sentence: string;
}

const DAY_MS = 24 * 3_600_000;
/** Rested voltage rises with warmth by this on 12 V, V/K (handbook 3.2: same warmth, 1.5 mV/K). */
const V_PER_K = 0.0015;
const USUAL_C = 21;
/** Two readings of a bench meter, V (0.05 % each). */
const METER_V = 0.012;
/** What is left of surface charge and layers after the first rest settles out over the first days, 12 V (reasoned from the model: 15 mV). */
const SETTLES_V = 0.018;
/** A loss this many times what is allowed is a leak, not a doubt (handbook 4: three times its kind's). */
const LEAK_TIMES = 2.5;
/** Rested voltage of one cell from full to empty as its first tenths go, V: 10 mV a percent on six (handbook 4). */
const ONE_CELL_V = 1 / SIX;
/** What a parked vehicle draws where nobody measured it, mA (practice: 20 to 50). */
const ASSUMED_MA = { usual: 30, most: 50 } as const;
const DRAW_UNSURE = 1.2;

/** Holds what was read before against what was read after. */
export function holdOf(question: HoldQuestion): Hold {
  const { construction, cells, capacityAh, before, after, fitted } = question;
  const scale = onSix(1, { cells });
  const days = (after.at - before.at) / DAY_MS;
  const warmth = [before.tempC, after.tempC].filter((one) => one !== undefined);
  const meanC = warmth.length === 0 ? USUAL_C : warmth.reduce((sum, one) => sum + one, 0) / warmth.length;
  const apartK = (after.tempC ?? meanC) - (before.tempC ?? meanC);
  const lostV = before.volts - after.volts + V_PER_K * scale * apartK;
  const { most } = standingLossPercent(construction, days, meanC);
  const drawMa = fitted ? (fitted.drawMa ?? ASSUMED_MA.most) : 0;
  const drawnPercent = (((drawMa / 1000) * days * 24) / capacityAh) * 100 * DRAW_UNSURE;
  const drawnV = voltsOfPercent(drawnPercent, cells);
  const allowedV = voltsOfPercent(most, cells) + drawnV + (METER_V + SETTLES_V) * scale;
  const verdict = lostV <= allowedV ? 'held' : lostV <= LEAK_TIMES * allowedV ? 'doubtful' : 'leak';
  const oneCellShare = Math.max(0, lostV - drawnV) / ONE_CELL_V;
  const mv = (volts: number): string => `${(Math.max(0, volts) * 1000).toFixed(0)} mV`;
  const since = days < 1.5 ? `${Math.round(days * 24)} h` : `${days.toFixed(0)} days`;
  const because = fitted
    ? fitted.drawMa === undefined
      ? `, the vehicle’s draw taken as ${ASSUMED_MA.usual} to ${ASSUMED_MA.most} mA since nobody measured it`
      : `, the vehicle’s ${fitted.drawMa} mA taken off`
    : '';
  const words = {
    held: 'It held',
    doubtful: 'The hold is doubtful',
    leak: 'It did not hold, an internal leak',
  }[verdict];
  return {
    verdict,
    lostV,
    allowedV,
    oneCellShare,
    sentence: `${words}: ${mv(lostV)} in ${since} at ${meanC.toFixed(0)} °C, where standing and the meter allow ${mv(allowedV)}${because}.`,
  };
}
