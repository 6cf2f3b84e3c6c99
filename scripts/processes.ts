/** What this machine tells of a program that runs. */
import { readdirSync, readFileSync } from 'node:fs';

/** Ticks of the scheduler a second. @see proc(5), sysconf(_SC_CLK_TCK) */
const TICKS = 100;

const statOf = (pid: number): string[] =>
  readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? [];

/** What it has used of a core since it began, s. */
export function usedS(pid: number): number {
  const fields = statOf(pid);
  return (Number(fields[11]) + Number(fields[12])) / TICKS;
}

/** What it holds in memory, MB. */
export function memoryOf(pid: number): number {
  const line = /^VmRSS:\s+(\d+) kB/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Number(line?.[1] ?? 0) / 1024;
}

/** The bench a server has begun. @throws Error where it has none */
export function benchOf(server: number): number {
  for (const name of readdirSync('/proc').filter((one) => /^\d+$/.test(one)))
    try {
      const isItsOwn = Number(statOf(Number(name))[1]) === server;
      if (isItsOwn && readFileSync(`/proc/${name}/cmdline`, 'utf8').includes('benchProcess'))
        return Number(name);
    } catch {
      // It ended while it was looked at.
    }
  throw new Error('the server has no bench');
}
