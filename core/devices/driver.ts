/** Speaks to one device as its profile says; the cable is whoever’s gives it. */
import { mbapFraming, registerRequest, registerValue } from './modbus.ts';
import { figureIn } from './line.ts';
import type { Asked, DeviceProfile, LineSpeech, ModbusSpeech, Range, ScpiSpeech, Told } from './profile.ts';
import { bytesOf, commandOf, complaintOf, lineFraming, nextLineFraming, numberOf, textOf } from './scpi.ts';
import { DeviceError, type Wire } from './wire.ts';

export interface Driver {
  readonly profile: DeviceProfile;
  /**
   * Who it says it is.
   * @throws DeviceError `other` where the profile is not for it
   */
  identify(): Promise<string>;
  /** @throws DeviceError where it does not answer with a figure */
  ask(what: Asked): Promise<number>;
  /** @throws DeviceError where it cannot be told so, or will not */
  tell(what: Told, value?: number): Promise<void>;
}

const RANGE_OF: Partial<Record<Asked, keyof DeviceProfile['ranges']>> = {
  volts: 'volts',
  amps: 'amps',
  tempC: 'tempC',
  massG: 'massG',
};

/** A display may show a little beyond its range (practice). */
const BEYOND_SHARE = 0.05;

/** @throws DeviceError where it shows what it cannot show */
export function within({ ranges }: DeviceProfile, what: Asked, value: number): number {
  const name = RANGE_OF[what];
  const range: Range | undefined = name && ranges[name];
  const beyond = range && BEYOND_SHARE * Math.max(Math.abs(range.most), Math.abs(range.least));
  if (range && beyond !== undefined && !(value >= range.least - beyond && value <= range.most + beyond))
    throw new DeviceError('garbage', `It shows ${value}, and can show ${range.least} to ${range.most}.`);
  return value;
}

function cannot(profile: DeviceProfile, what: string): DeviceError {
  return new DeviceError('refused', `${profile.name}: its profile has no word for “${what}”.`);
}

class ScpiDriver implements Driver {
  readonly profile: DeviceProfile;
  private readonly speech: ScpiSpeech;
  private readonly wire: Wire;
  private readonly channel: number;

  constructor(profile: DeviceProfile, speech: ScpiSpeech, wire: Wire, channel: number) {
    this.profile = profile;
    this.speech = speech;
    this.wire = wire;
    this.channel = channel;
  }

  private async answer(question: string): Promise<string> {
    const message = bytesOf(question + this.speech.ends);
    return textOf(await this.wire.exchange(message, lineFraming, this.profile.answersWithinMs));
  }

  async identify(): Promise<string> {
    const { identify, isFor } = this.speech;
    const said = await this.answer(identify);
    if (!said.toLowerCase().includes(isFor.toLowerCase()))
      throw new DeviceError(
        'other',
        `It says it is “${said.slice(0, 60)}”; this profile is for one that says “${isFor}”.`,
      );
    return said;
  }

  async ask(what: Asked): Promise<number> {
    const question = this.speech.asks[what];
    if (question === undefined) throw cannot(this.profile, what);
    return within(this.profile, what, numberOf(await this.answer(commandOf(question, this.channel))));
  }

  async tell(what: Told, value?: number): Promise<void> {
    const { tells, complains, ends } = this.speech;
    const template = tells[what];
    if (template === undefined) throw cannot(this.profile, what);
    const command = commandOf(template, value);
    if (complains === undefined) {
      await this.wire.exchange(bytesOf(command + ends), undefined, this.profile.answersWithinMs);
      return;
    }
    // One message for both, so that a command that was not heard is known at once.
    const complaint = complaintOf(await this.answer(`${command};:${complains}`));
    if (complaint !== undefined)
      throw new DeviceError('refused', `It does not take “${command}”: ${complaint}.`);
  }
}

/** One that has no name and is told nothing: what answers with sane figures is one. */
abstract class ReadOnlyDriver implements Driver {
  readonly profile: DeviceProfile;
  private readonly all: readonly Asked[];

  constructor(profile: DeviceProfile, asks: object) {
    this.profile = profile;
    this.all = Object.keys(asks) as Asked[];
  }

  abstract ask(what: Asked): Promise<number>;

  async identify(): Promise<string> {
    for (const what of this.all) await this.ask(what);
    return this.profile.name;
  }

  tell(what: Told): Promise<void> {
    return Promise.reject(cannot(this.profile, what));
  }
}

class ModbusDriver extends ReadOnlyDriver {
  private readonly speech: ModbusSpeech;
  private readonly wire: Wire;
  private readonly channel: number;
  private transaction = 0;

  constructor(profile: DeviceProfile, speech: ModbusSpeech, wire: Wire, channel: number) {
    super(profile, speech.asks);
    this.speech = speech;
    this.wire = wire;
    this.channel = channel;
  }

  async ask(what: Asked): Promise<number> {
    const first = this.speech.asks[what];
    if (!first) throw cannot(this.profile, what);
    const register = { ...first, address: first.address + this.channel - 1 };
    this.transaction = (this.transaction + 1) % 65_536;
    const question = registerRequest(this.transaction, this.speech.unit, register);
    const answer = await this.wire.exchange(question, mbapFraming, this.profile.answersWithinMs);
    return within(this.profile, what, registerValue(answer, this.transaction, this.speech.unit, register));
  }
}

class LineDriver extends ReadOnlyDriver {
  private readonly speech: LineSpeech;
  private readonly wire: Wire;

  constructor(profile: DeviceProfile, speech: LineSpeech, wire: Wire) {
    super(profile, speech.asks);
    this.speech = speech;
    this.wire = wire;
  }

  async ask(what: Asked): Promise<number> {
    const { asks, ends } = this.speech;
    const figure = asks[what];
    if (!figure) throw cannot(this.profile, what);
    const isAsked = figure.ask !== '';
    const said = await this.wire.exchange(
      bytesOf(isAsked ? figure.ask + ends : ''),
      isAsked ? lineFraming : nextLineFraming,
      this.profile.answersWithinMs,
    );
    const [line = ''] = textOf(said)
      .split(/[\r\n]+/)
      .slice(isAsked ? 0 : 1);
    return within(this.profile, what, figureIn(line, figure));
  }
}

/**
 * @param channel of a scanner, from 1
 * @throws DeviceError `refused` where it is one that sends by itself
 */
export function driverOf(profile: DeviceProfile, wire: Wire, channel = 1): Driver {
  const { speech } = profile;
  if (speech.protocol === 'scpi') return new ScpiDriver(profile, speech, wire, channel);
  if (speech.protocol === 'modbus') return new ModbusDriver(profile, speech, wire, channel);
  if (speech.protocol === 'line') return new LineDriver(profile, speech, wire);
  throw new DeviceError('refused', `${profile.name} sends by itself: it is asked nothing.`);
}
