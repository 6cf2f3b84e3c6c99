/** The built server in a process of its own, on a port that is free. */
import { spawn, type ChildProcess } from 'node:child_process';

export interface StartedServer {
  readonly server: ChildProcess;
  readonly url: string;
}

/**
 * @param settings beside those of this process
 * @param options of Node
 * @throws Error where it ends before it answers
 */
export async function startServer(
  settings: Readonly<Record<string, string>>,
  options: readonly string[] = [],
): Promise<StartedServer> {
  const server = spawn(process.execPath, [...options, 'server/dist/main.js'], {
    env: { ...process.env, CORK_EMBER_PORT: '0', ...settings },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  // Whoever started it and fails leaves no server behind.
  const leave = (): void => void server.kill('SIGKILL');
  process.once('exit', leave);
  server.once('exit', () => process.off('exit', leave));
  const url = await new Promise<string>((resolve, reject) => {
    const fail = (): void => reject(new Error('the server did not start'));
    server.once('exit', fail);
    server.stdout.on('data', (chunk: Buffer) => {
      const found = /http:\S+/.exec(chunk.toString())?.[0];
      if (found === undefined) return;
      server.off('exit', fail);
      resolve(found);
    });
  });
  return { server, url };
}
