/** Asks a server over its API, as whoever runs a long trial does. */

export type Ask = <T>(path: string, body?: object) => Promise<T>;

/** @returns asks with a body what is posted; throws Error with what was said where it was refused */
export const askerOf =
  (url: () => string): Ask =>
  async <T>(path: string, body?: object): Promise<T> => {
    const headers = { 'content-type': 'application/json' };
    const init = body ? { method: 'POST', headers, body: JSON.stringify(body) } : {};
    const answer = await fetch(`${url()}${path}`, init);
    const said: unknown = await answer.json();
    if (!answer.ok) throw new Error(`${path}: ${JSON.stringify(said)}`);
    return said as T;
  };
