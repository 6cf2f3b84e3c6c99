/** How the shop's server is: for whoever looks after the machine. */

export interface HealthPart {
  readonly state: 'well' | 'watch' | 'ill';
  /** In one sentence. */
  readonly says: string;
}

export interface Health {
  readonly state: HealthPart['state'];
  readonly parts: Readonly<Record<'store' | 'disk' | 'copy' | 'clock' | 'wire', HealthPart>>;
}
