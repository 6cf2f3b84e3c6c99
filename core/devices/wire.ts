/** What a driver needs of a cable, whatever it is made of: one question at a time, and its answer. */

export type DeviceTrouble =
  /** Nothing came in time, or the cable is gone. */
  | 'silent'
  /** Something came that is no answer. */
  | 'garbage'
  /** It answered that it will not. */
  | 'refused'
  /** It answered, and is another device. */
  | 'other';

/** Message for the technician. */
export class DeviceError extends Error {
  readonly trouble: DeviceTrouble;

  constructor(trouble: DeviceTrouble, message: string) {
    super(message);
    this.name = 'DeviceError';
    this.trouble = trouble;
  }
}

/**
 * Where the first whole message ends.
 * @returns its length in bytes; undefined while more has to come
 * @throws DeviceError where no more could make a message of it
 */
export type Framing = (sofar: Uint8Array) => number | undefined;

export interface Wire {
  /**
   * Sends, and waits for what comes then. What came late, of an earlier question, is never taken for an answer.
   * @param framing none where nothing is answered
   * @throws DeviceError `silent` where it has not come within so many ms, `garbage` as the framing says
   */
  exchange(message: Uint8Array, framing: Framing | undefined, withinMs: number): Promise<Uint8Array>;
}

/**
 * A wire over which one question waits for the answer of the one before it, whoever asks. Where one is not answered those that waited meanwhile are not either: ten
 * bays at one scanner that is gone know it at once, and not one after the other.
 */
export function oneAtATime(wire: Wire): Wire {
  let last: Promise<unknown> = Promise.resolve();
  let asked = 0;
  let silence: { readonly before: number; readonly error: DeviceError } | undefined;
  return {
    exchange: (message, framing, withinMs) => {
      const mine = asked++;
      const turn = last.then(async () => {
        if (silence && mine < silence.before) throw silence.error;
        try {
          return await wire.exchange(message, framing, withinMs);
        } catch (error) {
          if (error instanceof DeviceError && error.trouble === 'silent') silence = { before: asked, error };
          throw error;
        }
      });
      last = turn.catch(() => undefined);
      return turn;
    },
  };
}
