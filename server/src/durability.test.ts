/** Kills the server in the middle of its work and looks whether anything it had confirmed is missing. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import type { OpenJob } from '@cork-ember/core/contract/answers.ts';
import { note, requestKey } from '../test/testShop.ts';

interface Running {
  readonly process: ChildProcess;
  readonly url: string;
}

function start(file: string): Promise<Running> {
  const env = { ...process.env, CORK_EMBER_FILE: file, CORK_EMBER_PORT: '0', CORK_EMBER_DEMO: 'true' };
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve, reject) => {
    child.once('exit', () => reject(new Error('the server did not start')));
    child.stdout.on('data', (chunk: Buffer) => {
      const url = /http:\S+/.exec(chunk.toString())?.[0];
      if (url) resolve({ process: child, url });
    });
  });
}

async function openJobs(url: string): Promise<OpenJob[]> {
  return (await (await fetch(`${url}/api/jobs`)).json()) as OpenJob[];
}

/** Writes notes as fast as they are confirmed, until the server is gone. */
async function stream(url: string, job: OpenJob, confirmed: string[], tried: string[]): Promise<void> {
  for (let { seq } = job; ; seq++) {
    const text = `${job.id} note ${seq}`;
    tried.push(text);
    const body = JSON.stringify({
      expectedSeq: seq,
      requestKey: requestKey(),
      by: 'Ines',
      entry: note(text),
    });
    try {
      const answer = await fetch(`${url}/api/jobs/${job.id}/events`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
      const said = await answer.text();
      if (answer.status !== 201) throw new Error(said);
      confirmed.push(text);
    } catch (error) {
      if (error instanceof TypeError) return;
      throw error;
    }
  }
}

describe('kill -9', () => {
  it('loses nothing that was confirmed, and nothing is there twice', async function () {
    // Two cold starts of a server run from source.
    this.timeout(90_000);
    const folder = mkdtempSync(join(tmpdir(), 'cork-ember-kill-'));
    const file = join(folder, 'shop.sqlite');
    const confirmed: string[] = [];
    const tried: string[] = [];
    const first = await start(file);
    const jobs = await openJobs(first.url);
    const streams = jobs.map((job) => stream(first.url, job, confirmed, tried));
    while (confirmed.length < 120) await new Promise((resolve) => setTimeout(resolve, 5));
    first.process.removeAllListeners('exit');
    first.process.kill('SIGKILL');
    await Promise.all(streams);

    const second = await start(file);
    const found = (await openJobs(second.url))
      .flatMap(({ state }) => state.notes.map(({ text }) => text))
      .filter((text) => tried.includes(text));
    second.process.removeAllListeners('exit');
    second.process.kill('SIGTERM');
    expect(confirmed.length).to.be.at.least(120);
    expect(found).to.include.members(confirmed);
    expect(new Set(found).size).to.equal(found.length);
    rmSync(folder, { recursive: true, force: true });
  });
});
