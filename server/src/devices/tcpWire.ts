/** A cable of TCP: one connection, kept while it answers, and dropped with whatever may still come of a question that was given up. */
import { connect, type Socket } from 'node:net';
import { DeviceError, type Framing, type Wire } from '@cork-ember/core/devices/wire.ts';

const NOTHING = new Uint8Array();

/** What the system says of an address nobody answers at. */
const NOT_REACHED: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'nothing listens there.',
  EHOSTUNREACH: 'there is no way to this address.',
  ENETUNREACH: 'there is no way to this address.',
  ECONNRESET: 'it closed the connection.',
  EPIPE: 'it closed the connection.',
};

const reasonOf = (error: NodeJS.ErrnoException): string =>
  NOT_REACHED[error.code ?? ''] ?? 'it cannot be reached.';

export class TcpWire implements Wire {
  private readonly host: string;
  private readonly port: number;
  private socket: Socket | undefined;
  private hears: ((chunk: Uint8Array) => void) | undefined;
  private fails: ((error: DeviceError) => void) | undefined;

  /** @param host an address by number */
  constructor(host: string, port: number) {
    this.host = host;
    this.port = port;
  }

  private connected(): Socket {
    if (this.socket) return this.socket;
    const socket = connect({ host: this.host, port: this.port, noDelay: true });
    // What comes while nothing was asked belongs to nothing that will be.
    socket.on('data', (chunk: Buffer) => (this.hears ? this.hears(chunk) : this.close()));
    socket.on('error', (error) => {
      this.close();
      this.fails?.(new DeviceError('silent', reasonOf(error)));
    });
    socket.on('close', () => {
      if (this.socket !== socket) return;
      this.socket = undefined;
      this.fails?.(new DeviceError('silent', 'it closed the connection.'));
    });
    this.socket = socket;
    return socket;
  }

  exchange(message: Uint8Array, framing: Framing | undefined, withinMs: number): Promise<Uint8Array> {
    return new Promise((resolve, reject) => {
      const socket = this.connected();
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
          if (sofar.length > length) this.close();
          resolve(sofar.subarray(0, length));
        } catch (error) {
          if (!(error instanceof DeviceError)) throw error;
          fail(error);
        }
      };
      socket.write(message, (error) => {
        if (framing || error) return;
        settle();
        resolve(NOTHING);
      });
    });
  }

  close(): void {
    const { socket } = this;
    this.socket = undefined;
    socket?.destroy();
  }
}
