/** A cable that is a stream of bytes: kept open while it answers, and dropped with whatever may still come of a question that was given up. */
import type { Duplex } from 'node:stream';
import { DeviceError, type Framing, type Wire } from '@cork-ember/core/devices/wire.ts';

const NOTHING = new Uint8Array();

/** An end of a cable, opened. */
export interface Opened {
  readonly stream: Duplex;
  readonly close: () => void;
}

export interface StreamCable {
  readonly open: () => Opened;
  /** Why it cannot be reached, for the technician. */
  readonly reasonOf: (error: NodeJS.ErrnoException) => string;
  /** Whether what is at its end may say something that was not asked for. */
  readonly isTalkative?: boolean;
}

export class StreamWire implements Wire {
  private readonly cable: StreamCable;
  private opened: Opened | undefined;
  private hears: ((chunk: Uint8Array) => void) | undefined;
  private fails: ((error: DeviceError) => void) | undefined;

  constructor(cable: StreamCable) {
    this.cable = cable;
  }

  private connected(): Duplex {
    if (this.opened) return this.opened.stream;
    const { open, reasonOf, isTalkative } = this.cable;
    const opened = open();
    const { stream } = opened;
    stream.on('data', (chunk: Buffer) => {
      if (this.hears) this.hears(chunk);
      // What comes while nothing was asked belongs to nothing that will be.
      else if (!isTalkative) this.close();
    });
    stream.on('error', (error) => {
      this.close();
      this.fails?.(new DeviceError('silent', reasonOf(error)));
    });
    stream.on('close', () => {
      if (this.opened !== opened) return;
      this.opened = undefined;
      this.fails?.(new DeviceError('silent', 'it closed the connection.'));
    });
    this.opened = opened;
    return stream;
  }

  exchange(message: Uint8Array, framing: Framing | undefined, withinMs: number): Promise<Uint8Array> {
    return new Promise((resolve, reject) => {
      const stream = this.connected();
      let sofar: Uint8Array = NOTHING;
      const settle = (): void => {
        clearTimeout(timer);
        [this.hears, this.fails] = [undefined, undefined];
      };
      const fail = (error: DeviceError): void => {
        settle();
        this.close();
        reject(error);
      };
      const timer = setTimeout(
        () => fail(new DeviceError('silent', `it does not answer within ${withinMs} ms.`)),
        withinMs,
      );
      this.fails = fail;
      this.hears = (chunk) => {
        sofar = Buffer.concat([sofar, chunk]);
        try {
          const length = framing?.(sofar);
          if (length === undefined) return;
          settle();
          // More than was asked for: the next question begins anew.
          if (sofar.length > length && !this.cable.isTalkative) this.close();
          resolve(sofar.subarray(0, length));
        } catch (error) {
          if (!(error instanceof DeviceError)) throw error;
          fail(error);
        }
      };
      if (message.length === 0) return;
      stream.write(message, (error) => {
        if (framing || error) return;
        settle();
        resolve(NOTHING);
      });
    });
  }

  close(): void {
    const { opened } = this;
    this.opened = undefined;
    opened?.close();
  }
}
