/** Runs the built server in the foreground and passes signals on. */
import { spawn } from 'node:child_process';
import { buildAll, isBuilt } from './building.ts';

export async function serve(settings: Readonly<Record<string, string>>): Promise<void> {
  if (!isBuilt()) await buildAll();
  const server = spawn(process.execPath, ['server/dist/main.js'], {
    // Where this process is killed, the channel breaks, and the server closes itself.
    stdio: ['inherit', 'inherit', 'inherit', 'ipc'],
    env: { ...settings, ...process.env },
  });
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => server.kill(signal));
  // A server that was killed has failed, whatever number it left.
  server.on('exit', (code) => process.exit(code ?? 1));
}
