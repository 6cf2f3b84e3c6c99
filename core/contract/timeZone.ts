/** A time zone as it may cross the wire. */

/** @throws RangeError, which Joi reports, for a name no calendar knows */
export function knownTimeZone(name: string): string {
  new Intl.DateTimeFormat('en-GB', { timeZone: name });
  return name;
}
