/**
 * Before current flows: with the output off, who is there, how it is clipped, whether it is the battery of the job, and whether the supply keeps its own limits.
 * Nothing is believed that was not read back.
 */
import { DeviceError } from '../wire.ts';
import type { Driver } from '../driver.ts';
import { MOST_REST_CELL_V } from './run.ts';
import { NO_CURRENT_A } from './seen.ts';

export interface CheckedBay {
  readonly supply: Driver;
  readonly posts?: Driver;
  readonly cutoff?: Driver;
}

export interface CheckedBattery {
  readonly cells: number;
  /** Where a load lets go by itself, V; of one that is drawn down. */
  readonly leastV?: number;
  /** Never passed, V and A. */
  readonly ceilingV: number;
  readonly ceilingA: number;
  /** What the job last read at rest, V. */
  readonly restingV?: number;
}

/** What was found at the clips. */
export interface Found {
  readonly restV: number;
  readonly ohms: number;
}

/** Why current does not flow; the message says what was seen. */
export class ConnectionRefused extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'ConnectionRefused';
  }
}

/** Between clips that touch, or where nothing is clipped, V. */
const NOTHING_V = 0.05;
/** The job's own reading of it and the clips differ by no more, V a cell (another day, another meter). */
const SAME_CELL_V = 0.15;
/** The small step: this share of what it may have, between these, A; so long, s. */
const STEP_SHARE = 0.1;
const STEP_LEAST_A = 0.1;
const STEP_MOST_A = 1;
const STEP_S = 3;
/** While nothing but a path is looked for, V a cell. */
const STEP_CELL_V = 2.4;
/** No current flows where nothing is clipped; a sulfated battery takes at least this share of the step. */
const TAKES_SHARE = 0.02;
/** A limit in the device lies so far above what it is there for. */
const LIMIT_ABOVE = 1.05;
const READ_BACK_WITHIN = 0.02;

const V = (volts: number): string => `${volts.toFixed(2)} V`;

async function standsAt({ supply, posts }: CheckedBay): Promise<number> {
  return (posts ?? supply).ask('volts');
}

type Limit = readonly [what: 'mostVolts' | 'mostAmps' | 'leastVolts', at: number];

const UNIT_OF = { mostVolts: 'V', leastVolts: 'V', mostAmps: 'A' } as const;

/** Its own limits, set and read back. */
async function protect(device: Driver, limits: readonly Limit[]): Promise<void> {
  for (const [what, at] of limits) {
    await device.tell(what, at);
    const kept = await device.ask(what);
    if (Math.abs(kept - at) > READ_BACK_WITHIN)
      throw new ConnectionRefused(
        `The ${device.profile.kind} was told to trip at ${at.toFixed(2)} ${UNIT_OF[what]} and holds ${kept.toFixed(2)} ${UNIT_OF[what]}: its protection cannot be relied on.`,
      );
  }
}

/**
 * At rest. A meter with leads of its own at the posts sees nothing of how the clips sit: what gives or draws the current is asked too.
 * @throws ConnectionRefused where the clips sit wrong, or on another battery
 */
async function restsAt(bay: CheckedBay, { cells, restingV }: CheckedBattery): Promise<number> {
  const [ownV, restV] = [await bay.supply.ask('volts'), await standsAt(bay)];
  for (const volts of [ownV, restV])
    if (volts < -NOTHING_V)
      throw new ConnectionRefused(`The clips show ${V(volts)}: they are on the wrong way round.`);
  if (restV > MOST_REST_CELL_V * cells)
    throw new ConnectionRefused(
      `The clips show ${V(restV)}, more than a battery of ${cells} cells stands at: another battery is clipped.`,
    );
  if (restingV !== undefined && Math.abs(restV - restingV) > SAME_CELL_V * cells)
    throw new ConnectionRefused(
      `The clips show ${V(restV)}, and this battery stood at ${V(restingV)}: another battery is clipped, or a clip has no hold.`,
    );
  return restV;
}

/** What the check asks of the world around it. */
interface CheckHooks {
  readonly pass: (seconds: number) => Promise<void>;
  /** Whether nobody has stopped it since. */
  readonly isWanted: () => boolean;
}

/** A small step, and what came of it. */
interface Stepped {
  readonly restV: number;
  readonly stepA: number;
  readonly volts: number;
  readonly amps: number;
}

/** What differs between a supply and a load. */
interface Step {
  readonly limits: readonly Limit[];
  readonly mostA: number;
  /** What it is told before it goes on, beside its current. */
  readonly prepare?: (restV: number) => Promise<void>;
  /** @throws ConnectionRefused */
  readonly mustBe: (stepped: Stepped) => void;
}

const STOPPED = 'Stopped by hand while it was checked.';

/** The same for both: who is there, off, its own limits, how it stands, a small step; off again whatever comes of it. */
async function check(
  bay: CheckedBay,
  battery: CheckedBattery,
  { pass, isWanted }: CheckHooks,
  { limits, mostA, prepare, mustBe }: Step,
): Promise<Found> {
  const { supply: source, posts, cutoff } = bay;
  const assertWanted = (): void => {
    if (!isWanted()) throw new ConnectionRefused(STOPPED);
  };
  try {
    for (const device of [source, posts, cutoff]) await device?.identify();
    await source.tell('off');
    if ((await source.ask('isOn')) !== 0)
      throw new ConnectionRefused(`The ${source.profile.kind} does not switch off.`);
    await protect(source, limits);
    await cutoff?.tell('on');
    const restV = await restsAt(bay, battery);
    const stepA = Math.min(battery.ceilingA, mostA, Math.max(STEP_LEAST_A, battery.ceilingA * STEP_SHARE));
    await prepare?.(restV);
    await source.tell('setAmps', stepA);
    assertWanted();
    await source.tell('on');
    for (let second = 0; second < STEP_S; second++) {
      await pass(1);
      // Watchdogs of an earlier run are still armed: they are spoken to.
      for (const device of [source, cutoff]) await device?.ask('isOn');
    }
    const [volts, amps] = [await standsAt(bay), await source.ask('amps')];
    await source.tell('off');
    assertWanted();
    mustBe({ restV, stepA, volts, amps });
    return { restV, ohms: Math.abs(volts - restV) / amps };
  } finally {
    for (const device of [source, cutoff])
      await device?.tell('off').catch((error: unknown) => {
        if (!(error instanceof DeviceError)) throw error;
      });
  }
}

/**
 * @throws ConnectionRefused where current must not flow; DeviceError where a device does not answer. The supply is off then
 */
export function checkConnection(bay: CheckedBay, battery: CheckedBattery, hooks: CheckHooks): Promise<Found> {
  const { cells, ceilingV, ceilingA } = battery;
  return check(bay, battery, hooks, {
    limits: [
      ['mostVolts', ceilingV * LIMIT_ABOVE],
      ['mostAmps', ceilingA * LIMIT_ABOVE],
    ],
    mostA: STEP_MOST_A,
    prepare: (restV) =>
      bay.supply.tell('setVolts', Math.min(ceilingV, Math.max(STEP_CELL_V * cells, restV + 0.1))),
    mustBe: ({ restV, stepA, volts, amps }) => {
      if (amps < stepA * TAKES_SHARE)
        throw new ConnectionRefused(
          `Of ${stepA.toFixed(2)} A nothing flows at ${V(volts)}: a clip has no hold, or a lead is broken.`,
        );
      if (Math.abs(restV) < NOTHING_V && volts < NOTHING_V * 4)
        throw new ConnectionRefused(
          `${stepA.toFixed(2)} A raise nothing above ${V(volts)}: the clips touch each other.`,
        );
    },
  });
}

/** Below this at rest nothing is drawn, V a cell (handbook 3.2: a test begins on a charged battery). */
const LEAST_REST_CELL_V = 2;
/** A step of a tenth of the test takes no more from a battery and its leads, V a cell. */
const SAG_CELL_V = 0.1;
/** A load draws its step this exactly. */
const DRAWS_WITHIN = 0.1;

/**
 * The same before a battery is drawn down by an electronic load.
 * @throws ConnectionRefused where nothing may be drawn; DeviceError where a device does not answer. The load is off then
 */
export function checkLoad(bay: CheckedBay, battery: CheckedBattery, hooks: CheckHooks): Promise<Found> {
  const { cells, ceilingA, leastV = 0 } = battery;
  const leastRestV = LEAST_REST_CELL_V * cells;
  return check(bay, battery, hooks, {
    limits: [
      ['mostAmps', ceilingA * LIMIT_ABOVE],
      ['leastVolts', leastV],
    ],
    mostA: ceilingA,
    prepare: (restV) =>
      restV < leastRestV
        ? Promise.reject(
            new ConnectionRefused(
              `The clips show ${V(restV)}: nothing is drawn from a battery that stands below ${V(leastRestV)}.`,
            ),
          )
        : Promise.resolve(),
    mustBe: ({ restV, stepA, volts, amps }) => {
      if (Math.abs(amps - stepA) > stepA * DRAWS_WITHIN + NO_CURRENT_A)
        throw new ConnectionRefused(
          `Of ${stepA.toFixed(2)} A the load draws ${amps.toFixed(2)} A at ${V(volts)}: a clip has no hold, or a lead is broken.`,
        );
      if (restV - volts > SAG_CELL_V * cells)
        throw new ConnectionRefused(
          `${stepA.toFixed(2)} A pull it from ${V(restV)} to ${V(volts)}: a clip has no hold, or a cell is gone.`,
        );
    },
  });
}
