/**
 * What the bench needs of a meter, scale or tester. A real one is reached over its cable, a simulated one
 * is computed; the bench cannot tell the difference and need not.
 */

/** What the bench's instruments can be asked to read. */
export type InstrumentQuantity = 'voltage' | 'current' | 'temperature' | 'mass' | 'loadVoltage' | 'cranking';

export interface InstrumentIdentity {
  readonly id: string;
  readonly name: string;
  readonly quantities: readonly InstrumentQuantity[];
  readonly isSimulated: boolean;
}

export interface InstrumentReading {
  readonly quantity: InstrumentQuantity;
  /** V, A, °C or g. */
  readonly value: number;
  readonly at: number;
}

export interface Instrument {
  /** What it is and what it can read. */
  identify(): Promise<InstrumentIdentity>;
  /**
   * Reads one quantity of the battery its leads are on.
   * @param job the job whose battery that is
   * @throws InstrumentError when there is nothing to read
   */
  read(quantity: InstrumentQuantity, job: string): Promise<InstrumentReading>;
}

/** An instrument that cannot answer; the message is for the technician. */
export class InstrumentError extends Error {
  constructor(message: string, options?: ErrorOptions) {
    super(message, options);
    this.name = 'InstrumentError';
  }
}
