/** The built server in a process of its own, on a port that is free. */
import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';

export interface StartedServer {
  readonly server: ChildProcess;
  /** By number: not every machine knows what localhost is. */
  readonly url: string;
}

interface Started {
  /** Options of Node. */
  readonly options?: readonly string[];
  /** Folder of the program, where it is another than this one. */
  readonly folder?: string;
  /** So long it may take to open its file, s. */
  readonly longestS?: number;
}

const LONGEST_S = 120;

/**
 * @param settings beside those of this process
 * @throws Error with its own last sentence, where it ends before it answers, or does not answer in time
 */
export async function startServer(
  settings: Readonly<Record<string, string | undefined>>,
  { options = [], folder = process.cwd(), longestS = LONGEST_S }: Started = {},
): Promise<StartedServer> {
  const server = spawn(process.execPath, [...options, join(folder, 'server/dist/main.js')], {
    cwd: folder,
    env: { ...process.env, CORK_EMBER_PORT: '0', ...settings },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  // Whoever started it and fails leaves no server behind.
  const leave = (): void => void server.kill('SIGKILL');
  process.once('exit', leave);
  server.once('exit', () => process.off('exit', leave));
  let complaint = '';
  server.stderr.on('data', (chunk: Buffer) => {
    complaint = chunk.toString().trim().split('\n').at(-1) ?? '';
    process.stderr.write(chunk);
  });
  const url = await new Promise<string>((resolve, reject) => {
    const fail = (): void => reject(new Error(complaint === '' ? 'the server did not start' : complaint));
    const late = setTimeout(() => {
      leave();
      reject(new Error(`the server did not open within ${longestS} s`));
    }, longestS * 1000);
    server.once('exit', () => {
      clearTimeout(late);
      fail();
    });
    server.stdout.on('data', (chunk: Buffer) => {
      const port = /http:\S+:(\d+)/.exec(chunk.toString())?.[1];
      if (port === undefined) return;
      clearTimeout(late);
      resolve(`http://127.0.0.1:${port}`);
    });
  });
  return { server, url };
}
