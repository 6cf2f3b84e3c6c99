/** Devices and their profiles, as they may cross the wire: one schema for the form, the request, a profile's file, and what is published. */
import Joi from 'joi';
import { lineProblem, type CalibrationLine } from '../devices/calibration.ts';
import type { Device } from '../devices/device.ts';
import { BAUDS, SIMULATED_PARTS } from '../devices/device.ts';
import {
  DEVICE_KINDS,
  MOST_FROZEN_S,
  PUSHED,
  type Asked,
  type DeviceProfile,
  type Pushed,
  type Told,
} from '../devices/profile.ts';
import { MOST_PUSHED, OLDEST_PUSHED_S } from '../devices/push.ts';
import { CLIPS, DEVICE_FAULTS } from '../devices/simulated/failings.ts';
import { number, optional, text } from './chargerSchema.ts';
import { MOST_BAYS } from './schemas.ts';

const ASKED = [
  'volts',
  'amps',
  'isOn',
  'setVolts',
  'setAmps',
  'mostVolts',
  'mostAmps',
  'leastVolts',
  'tempC',
  'massG',
  'isFree',
] as const satisfies readonly Asked[];
const TOLD = [
  'setVolts',
  'setAmps',
  'mostVolts',
  'mostAmps',
  'leastVolts',
  'watchdogS',
  'on',
  'off',
] as const satisfies readonly Told[];

const id = (what: string): Joi.StringSchema =>
  Joi.string()
    .pattern(/^[a-z0-9][a-z0-9-]{0,40}$/)
    .required()
    .messages({ '*': `${what}: an id of small letters, digits and hyphens, 41 at most.` });

/** One line of text as it is sent. */
const line = Joi.string()
  .max(120)
  .pattern(/^[\x20-\x7e]+$/)
  .messages({ '*': 'Words of a device: one line of plain letters, 120 at most.' });

const named = (names: readonly string[], schema: Joi.Schema): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(names.map((name) => [name, schema])));

const scpi = Joi.object({
  protocol: Joi.string().valid('scpi').required(),
  ends: Joi.string().valid('\n', '\r\n').required(),
  identify: line.required(),
  isFor: text(60, 'What its name holds'),
  asks: named(ASKED, line).required(),
  tells: named(TOLD, line).required(),
  complains: line,
});

const modbus = Joi.object({
  protocol: Joi.string().valid('modbus').required(),
  unit: number(0, 255, 'Unit', '').integer(),
  asks: named(
    ASKED,
    Joi.object({
      table: Joi.string().valid('input', 'holding', 'discrete').required(),
      address: number(0, 65_535, 'Register', '').integer(),
      isSigned: Joi.boolean().required(),
      unitIs: number(-1000, 1000, 'What one of a register is worth', ''),
    }),
  ).required(),
});

const lines = Joi.object({
  protocol: Joi.string().valid('line').required(),
  ends: Joi.string().valid('\n', '\r\n', '\r').required(),
  asks: named(
    ASKED,
    Joi.object({
      ask: line.allow('').required(),
      after: line.allow('').required(),
      unitIs: number(-100_000, 100_000, 'What one of a figure is worth', ''),
    }),
  ).required(),
});

const push = Joi.object({
  protocol: Joi.string().valid('push').required(),
  asks: named(PUSHED, line).min(1).required(),
});

const speaks = (protocol: string): Joi.ObjectSchema =>
  Joi.object({ protocol: Joi.string().valid(protocol).required() }).unknown();

const range = (least: number, most: number, what: string, unit: string): Joi.ObjectSchema =>
  Joi.object({
    least: number(least, most, `Least ${what}`, unit),
    most: number(least, most, `Most ${what}`, unit),
    resolution: number(0.000_001, 10, `Resolution, ${what}`, unit),
  });

/** A profile: what a shop writes for a device nobody foresaw. */
export const deviceProfileSchema = Joi.object<DeviceProfile>({
  id: id('Profile'),
  name: text(60, 'Name of the profile'),
  kind: Joi.string()
    .valid(...Object.keys(DEVICE_KINDS))
    .required(),
  speech: Joi.alternatives()
    .conditional(speaks('modbus'), { then: modbus })
    .conditional(speaks('line'), { then: lines })
    .conditional(speaks('push'), { then: push, otherwise: scpi })
    .required(),
  ranges: Joi.object({
    volts: range(-1000, 1000, 'volts', 'V'),
    amps: range(-1000, 1000, 'amperes', 'A'),
    tempC: range(-100, 300, 'warmth', '°C'),
    massG: range(-10_000, 1_000_000, 'mass', 'g'),
  }).required(),
  answersWithinMs: number(20, 1000, 'Answers within', 'ms').integer(),
  frozenAfterS: number(5, MOST_FROZEN_S, 'Figures stand still for', 's'),
  watchdogS: number(0.5, 60, 'Its own watchdog', 's').optional(),
}).messages({ '*': 'A profile has id, name, kind, speech, ranges, answersWithinMs and frozenAfterS.' });

const placed = (kind: string): Joi.ObjectSchema => Joi.object({ kind: Joi.string().valid(kind).required() });

/** Of this machine: a port by its name, and nothing else that lies there. */
const serialPath = Joi.string()
  .max(80)
  .pattern(/^(\/dev\/(tty[A-Za-z0-9]+|serial\/by-(id|path)\/[A-Za-z0-9_.:-]+)|COM\d{1,3})$/)
  .required()
  .messages({ '*': 'Serial port: its name on this machine, such as /dev/ttyUSB0.' });

const place = Joi.alternatives()
  .conditional(placed('push').unknown(), { then: placed('push') })
  .conditional(placed('serial').unknown(), {
    then: Joi.object({
      kind: Joi.string().valid('serial').required(),
      path: serialPath,
      baud: Joi.number()
        .valid(...BAUDS)
        .required()
        .messages({ '*': `Speed: ${BAUDS.join(', ')} baud.` }),
    }),
  })
  .conditional(placed('simulated').unknown(), {
    then: Joi.object({
      kind: Joi.string().valid('simulated').required(),
      bay: number(1, MOST_BAYS, 'Bay', '').integer(),
      part: Joi.string()
        .valid(...SIMULATED_PARTS)
        .required(),
    }),
    otherwise: Joi.object({
      kind: Joi.string().valid('tcp').required(),
      host: Joi.string()
        .ip({ version: ['ipv4', 'ipv6'], cidr: 'forbidden' })
        .required()
        .messages({ '*': 'Address: the number of a device on this network, such as 192.168.1.50.' }),
      port: number(1, 65_535, 'Port', '').integer(),
    }),
  })
  .required();

const point = Joi.object({
  shown: number(-1000, 1000, 'What it shows', ''),
  is: number(-1000, 1000, 'What is', ''),
});

const calibrationLine = (what: Pushed): Joi.ArraySchema =>
  Joi.array()
    .length(2)
    .items(point)
    .custom((value: CalibrationLine, helpers) => {
      const said = lineProblem(what, value);
      return said === undefined ? value : helpers.message({ custom: said });
    });

const calibration = Joi.object({
  at: number(0, 8.64e15, 'When it was calibrated', 'ms'),
  everyMonths: number(1, 120, 'Calibrated every', 'months').integer(),
  lines: Joi.object({
    volts: calibrationLine('volts'),
    amps: calibrationLine('amps'),
    tempC: calibrationLine('tempC'),
  }).required(),
});

export const devicesSchema = Joi.array()
  .items(
    Joi.object<Device>({
      id: id('Device'),
      name: text(60, 'Name of the device'),
      profile: id('Profile of the device'),
      place,
      bay: optional(1, MOST_BAYS, 'Bay of the device', '').integer(),
      channel: optional(1, 1000, 'Channel', '').integer(),
      leadsOhm: optional(0, 1, 'Resistance of the leads', 'Ω'),
      calibration: calibration.optional(),
    }),
  )
  .max(512)
  .unique('id');

export const profilesSchema = Joi.array().items(deviceProfileSchema).max(64).unique('id');

const pushedOne = Joi.object({
  agoS: number(0, OLDEST_PUSHED_S, 'Seconds ago', 's').optional(),
  ...Object.fromEntries(PUSHED.map((what) => [what, Joi.number()])),
}).unknown();

/** What a probe sends by itself, by the names the profile that ships has for it. */
export const pushSchema = Joi.alternatives(pushedOne, Joi.array().items(pushedOne).min(1).max(MOST_PUSHED));

/** How a simulated device is to fail; `null` is not at all. */
export const failingSchema = Joi.object({
  fault: Joi.string()
    .valid(...Object.keys(DEVICE_FAULTS))
    .allow(null)
    .required(),
  clips: Joi.string()
    .valid(...Object.keys(CLIPS))
    .required(),
});
