/** Reads a logger's file off the main thread: two hundred thousand rows freeze nothing. */
import { expose } from 'comlink';
import papaparse from 'papaparse';
import { recognise, type LogShape } from '@cork-ember/core/logger/columns.ts';
import { delimiterOf, keptOf, readLog, readRoomLog } from '@cork-ember/core/logger/log.ts';
import { loggedWarmth } from '@cork-ember/core/shelf/loggedWarmth.ts';
import type { Logged, Warmth } from '@cork-ember/core/shelf/warmth.ts';

export interface Opened {
  readonly shape: LogShape;
  readonly rows: number;
  /** The first rows, as they stand in the file. */
  readonly sample: readonly (readonly string[])[];
}

export interface LoggedReading {
  readonly afterMin: number;
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
}

export interface Taken {
  readonly readings: readonly LoggedReading[];
  readonly rows: number;
  readonly skipped: number;
  readonly lastMin: number;
  readonly hasTemperature: boolean;
}

const SAMPLE_CHARS = 8000;
const SAMPLE_ROWS = 40;
const SHOWN_ROWS = 4;
/** At most seven rows of each are kept, and a record takes four hundred. */
const STRETCHES = 54;

const rounded = (value: number, digits: number): number => Number(value.toFixed(digits));

let table: readonly (readonly string[])[] = [];

const reader = {
  /** @throws LogError in one sentence for a file that is no table of numbers */
  open(text: string): Opened {
    const delimiter = delimiterOf(text.slice(0, SAMPLE_CHARS));
    table = papaparse.parse<string[]>(text, { delimiter, skipEmptyLines: true }).data;
    const shape = recognise(table.slice(0, SAMPLE_ROWS));
    return {
      shape,
      rows: table.length - shape.from,
      sample: table.slice(shape.from, shape.from + SHOWN_ROWS),
    };
  },

  /**
   * @param tempC where the file holds no warmth, °C
   * @param timeZone of its clock
   * @throws LogError in one sentence where a column is missing or time runs backwards
   */
  read(shape: LogShape, tempC: number, timeZone: string): Taken {
    const log = readLog(table, shape, timeZone);
    const readings = keptOf(log, STRETCHES).map((row) => ({
      afterMin: rounded(log.minutes[row] ?? 0, 3),
      voltageV: rounded(log.volts[row] ?? 0, 3),
      currentA: rounded(log.amps[row] ?? 0, 3),
      tempC: rounded(log.tempC?.[row] ?? tempC, 1),
    }));
    return {
      readings,
      rows: log.minutes.length,
      skipped: log.skipped,
      lastMin: log.minutes.at(-1) ?? 0,
      hasTemperature: log.tempC !== undefined,
    };
  },

  /**
   * A room's warmth out of the open table.
   * @param before how warm it was taken to be
   * @throws LogError in one sentence where a column or the date is missing
   */
  readRoom(shape: LogShape, before: Warmth, timeZone: string): Logged {
    const { at, tempC } = readRoomLog(table, shape, timeZone);
    return loggedWarmth(at, tempC, before);
  },
};

export type LogReader = typeof reader;

expose(reader);
