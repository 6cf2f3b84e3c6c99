/**
 * A device as data: what it is, how it is spoken to, what it can give, what it protects by itself, and its quirks. A shop adds one of a kind nobody
 * foresaw by writing such a profile, and no code.
 */

export const DEVICE_KINDS = {
  supply: 'programmable supply',
  load: 'electronic load',
  meter: 'meter or scanner',
  cutoff: 'independent cut-off',
  probe: 'probe that sends by itself',
  scale: 'scale',
  stop: 'stop button of the bench',
} as const;
export type DeviceKind = keyof typeof DEVICE_KINDS;

/** Wired to no bay it holds for all of them: a battery is carried to the scale, and one button stops the bench. */
export const FOR_ALL_BAYS: readonly DeviceKind[] = ['scale', 'stop'];

/** What a device can be asked for. */
export type Asked =
  /** At its posts, V and A; on and off as 1 and 0. */
  | 'volts'
  | 'amps'
  | 'isOn'
  /** What it was told last, as it understood it. */
  | 'setVolts'
  | 'setAmps'
  /** Where its own protection trips. */
  | 'mostVolts'
  | 'mostAmps'
  /** Where a load lets go. */
  | 'leastVolts'
  | 'tempC'
  | 'massG'
  /** Of a stop button: its loop is closed, and current may flow. */
  | 'isFree';

/** What a device can be told; all but the last two with a figure. */
export type Told =
  'setVolts' | 'setAmps' | 'mostVolts' | 'mostAmps' | 'leastVolts' | 'watchdogS' | 'on' | 'off';

/**
 * Lines of text, one question or command each.
 * @see SCPI-99, Standard Commands for Programmable Instruments, vol. 2; IEEE 488.2 (common commands, number formats)
 */
export interface ScpiSpeech {
  readonly protocol: 'scpi';
  readonly ends: '\n' | '\r\n';
  /** Asks who it is, and what the answer holds of one it is for. */
  readonly identify: string;
  readonly isFor: string;
  /** `{}` stands for the channel of a scanner. */
  readonly asks: Partial<Record<Asked, string>>;
  /** `{}` stands for the figure. */
  readonly tells: Partial<Record<Told, string>>;
  /** Where each command is followed by what it complains of; a device that keeps no list has none. */
  readonly complains?: string;
}

/** One register or input a figure. @see Modbus Application Protocol 1.1b3, functions 2, 3 and 4; Modbus Messaging on TCP/IP 1.0b */
export interface ModbusSpeech {
  readonly protocol: 'modbus';
  readonly unit: number;
  readonly asks: Partial<Record<Asked, ModbusRegister>>;
}

export interface ModbusRegister {
  /** A discrete input is 0 or 1. */
  readonly table: 'input' | 'holding' | 'discrete';
  /** Of the first channel. */
  readonly address: number;
  readonly isSigned: boolean;
  /** What one of it is worth. */
  readonly unitIs: number;
}

/** Plain lines, as scales and meters with a serial port have them: a figure stands in a line, after some words. */
export interface LineSpeech {
  readonly protocol: 'line';
  readonly ends: '\n' | '\r\n' | '\r';
  readonly asks: Partial<Record<Asked, LineFigure>>;
}

export interface LineFigure {
  /** What it is asked; empty where it says a line whenever it has one. */
  readonly ask: string;
  /** The figure is the first number after these words; from the beginning of the line where they are empty. */
  readonly after: string;
  /** What one of it is worth. */
  readonly unitIs: number;
}

/**
 * It is asked nothing: it sends by itself, JSON over HTTP, each figure under a name of its own.
 * @see RFC 8259 (JSON), RFC 9110 (HTTP semantics), RFC 6750 (bearer tokens)
 */
export interface PushSpeech {
  readonly protocol: 'push';
  /** The name each figure has in what it sends. */
  readonly asks: Partial<Record<Pushed, string>>;
}

/** What a probe may send by itself. */
export const PUSHED = ['volts', 'amps', 'tempC'] as const satisfies readonly Asked[];
export type Pushed = (typeof PUSHED)[number];

export interface Range {
  readonly least: number;
  readonly most: number;
  /** Of its display. */
  readonly resolution: number;
}

export interface DeviceProfile {
  readonly id: string;
  readonly name: string;
  readonly kind: DeviceKind;
  readonly speech: ScpiSpeech | ModbusSpeech | LineSpeech | PushSpeech;
  /** What it can show or give. */
  readonly ranges: Partial<Record<'volts' | 'amps' | 'tempC' | 'massG', Range>>;
  /** It has answered within this, ms, or it is silent. */
  readonly answersWithinMs: number;
  /** Figures that stand still so long are asked about, s; 60 at most. */
  readonly frozenAfterS: number;
  /** It switches itself off unless it is spoken to within so long, s; none where it has no such thing. */
  readonly watchdogS?: number;
}

/** Longest that figures may stand still without being asked about, s. */
export const MOST_FROZEN_S = 60;
