/** Devices by the standard they speak, for those that keep to it; a maker’s own words go into a profile of their own. */
import type { DeviceProfile } from './profile.ts';

/** The commands of SCPI-99 for a source of power, and of the simulated one that ships. */
export const GENERIC_SUPPLY: DeviceProfile = {
  id: 'scpi-supply',
  name: 'Supply, SCPI',
  kind: 'supply',
  speech: {
    protocol: 'scpi',
    ends: '\n',
    identify: '*IDN?',
    isFor: 'supply',
    asks: {
      volts: 'MEAS:VOLT?',
      amps: 'MEAS:CURR?',
      isOn: 'OUTP?',
      setVolts: 'VOLT?',
      setAmps: 'CURR?',
      mostVolts: 'VOLT:PROT?',
      mostAmps: 'CURR:PROT?',
    },
    tells: {
      setVolts: 'VOLT {}',
      setAmps: 'CURR {}',
      mostVolts: 'VOLT:PROT {}',
      mostAmps: 'CURR:PROT {}',
      watchdogS: 'SYST:WDOG {}',
      on: 'OUTP ON',
      off: 'OUTP OFF',
    },
    complains: 'SYST:ERR?',
  },
  ranges: {
    // Below nothing where a battery is clipped on the wrong way round.
    volts: { least: -32, most: 32, resolution: 0.001 },
    amps: { least: 0, most: 20, resolution: 0.001 },
  },
  answersWithinMs: 400,
  frozenAfterS: 60,
  watchdogS: 2,
};

/** A sink of power by the same commands, its input in the place of an output. */
export const GENERIC_LOAD: DeviceProfile = {
  id: 'scpi-load',
  name: 'Electronic load, SCPI',
  kind: 'load',
  speech: {
    protocol: 'scpi',
    ends: '\n',
    identify: '*IDN?',
    isFor: 'load',
    asks: {
      volts: 'MEAS:VOLT?',
      amps: 'MEAS:CURR?',
      isOn: 'INP?',
      setAmps: 'CURR?',
      mostAmps: 'CURR:PROT?',
      leastVolts: 'VOLT:PROT:LOW?',
    },
    tells: {
      setAmps: 'CURR {}',
      mostAmps: 'CURR:PROT {}',
      leastVolts: 'VOLT:PROT:LOW {}',
      watchdogS: 'SYST:WDOG {}',
      on: 'INP ON',
      off: 'INP OFF',
    },
    complains: 'SYST:ERR?',
  },
  ranges: {
    volts: { least: -32, most: 60, resolution: 0.001 },
    amps: { least: 0, most: 30, resolution: 0.001 },
  },
  answersWithinMs: 400,
  frozenAfterS: 60,
  watchdogS: 2,
};

/** A contactor on a timer of its own: it opens unless it is told again. */
export const GENERIC_CUT_OFF: DeviceProfile = {
  id: 'scpi-cut-off',
  name: 'Cut-off, SCPI',
  kind: 'cutoff',
  speech: {
    protocol: 'scpi',
    ends: '\n',
    identify: '*IDN?',
    isFor: 'contactor',
    asks: { isOn: 'OUTP?' },
    tells: { watchdogS: 'SYST:WDOG {}', on: 'OUTP ON', off: 'OUTP OFF' },
    complains: 'SYST:ERR?',
  },
  ranges: {},
  answersWithinMs: 400,
  frozenAfterS: 60,
  watchdogS: 2,
};

/** A scanner with a pair of leads at the posts and a probe on the case. */
export const GENERIC_SCANNER: DeviceProfile = {
  id: 'scpi-scanner',
  name: 'Meter with probe, SCPI',
  kind: 'meter',
  speech: {
    protocol: 'scpi',
    ends: '\n',
    identify: '*IDN?',
    isFor: 'scanner',
    asks: { volts: 'MEAS:VOLT?', tempC: 'MEAS:TEMP?' },
    tells: {},
  },
  ranges: {
    volts: { least: -60, most: 60, resolution: 0.001 },
    tempC: { least: -40, most: 120, resolution: 0.1 },
  },
  answersWithinMs: 400,
  frozenAfterS: 60,
};

/** A module of probe inputs: the first input register in tenths of a kelvin above 0 °C. */
export const GENERIC_PROBE: DeviceProfile = {
  id: 'modbus-probe',
  name: 'Probe input, Modbus TCP',
  kind: 'meter',
  speech: {
    protocol: 'modbus',
    unit: 1,
    asks: { tempC: { table: 'input', address: 0, isSigned: true, unitIs: 0.1 } },
  },
  ranges: { tempC: { least: -40, most: 120, resolution: 0.1 } },
  answersWithinMs: 400,
  frozenAfterS: 60,
};

/** A scanner that reads a channel for each bay: volts there, and the probe of the same number among its thermocouples. */
export const GENERIC_CHANNELS: DeviceProfile = {
  ...GENERIC_SCANNER,
  id: 'scpi-channels',
  name: 'Scanner with channels, SCPI',
  speech: {
    protocol: 'scpi',
    ends: '\n',
    identify: '*IDN?',
    isFor: 'scanner',
    asks: { volts: 'MEAS:VOLT? (@{})', tempC: 'MEAS:TEMP? (@{})' },
    tells: {},
  },
};

/** The loop of a stop button on a module of inputs: closed as long as nobody presses it and no wire is broken. */
export const GENERIC_STOP: DeviceProfile = {
  id: 'modbus-stop',
  name: 'Stop button, Modbus TCP',
  kind: 'stop',
  speech: {
    protocol: 'modbus',
    unit: 1,
    asks: { isFree: { table: 'discrete', address: 0, isSigned: false, unitIs: 1 } },
  },
  ranges: {},
  answersWithinMs: 400,
  frozenAfterS: 60,
};

/** The same loop on a digital input of an instrument. */
export const GENERIC_STOP_INPUT: DeviceProfile = {
  id: 'scpi-stop',
  name: 'Stop button on an input, SCPI',
  kind: 'stop',
  speech: {
    protocol: 'scpi',
    ends: '\n',
    identify: '*IDN?',
    isFor: 'input',
    asks: { isFree: 'INP:LEV? (@{})' },
    tells: {},
  },
  ranges: {},
  answersWithinMs: 400,
  frozenAfterS: 60,
};

/** A scale that says what lies on it whenever it is asked to print, in grams. */
export const GENERIC_SCALE: DeviceProfile = {
  id: 'line-scale',
  name: 'Scale, serial',
  kind: 'scale',
  speech: {
    protocol: 'line',
    ends: '\r\n',
    asks: { massG: { ask: 'P', after: '', unitIs: 1 } },
  },
  ranges: { massG: { least: -1000, most: 60_000, resolution: 1 } },
  answersWithinMs: 800,
  frozenAfterS: 60,
};

/** A small probe somebody soldered: it sends what it reads whenever it likes. */
export const GENERIC_PUSH: DeviceProfile = {
  id: 'http-probe',
  name: 'Probe that sends, HTTP',
  kind: 'probe',
  speech: { protocol: 'push', asks: { volts: 'volts', amps: 'amps', tempC: 'tempC' } },
  ranges: {
    volts: { least: -60, most: 60, resolution: 0.001 },
    amps: { least: -200, most: 200, resolution: 0.001 },
    tempC: { least: -40, most: 120, resolution: 0.1 },
  },
  answersWithinMs: 400,
  frozenAfterS: 60,
};

export const GENERIC_PROFILES: readonly DeviceProfile[] = [
  GENERIC_SUPPLY,
  GENERIC_LOAD,
  GENERIC_CUT_OFF,
  GENERIC_SCANNER,
  GENERIC_CHANNELS,
  GENERIC_PROBE,
  GENERIC_SCALE,
  GENERIC_STOP,
  GENERIC_STOP_INPUT,
  GENERIC_PUSH,
];
