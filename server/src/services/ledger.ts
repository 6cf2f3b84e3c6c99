/** The shop's ledger: what every ended job found. Nothing is entered once a job has ended, so each is read once. */
import { findingOf, type Finding } from '@cork-ember/core/ledger/finding.ts';
import { foldJob } from '@cork-ember/core/runsheet/fold.ts';
import type { JobStore } from '../store/jobStore.ts';

export class Ledger {
  private readonly known = new Map<string, Finding>();
  private readonly store: JobStore;

  constructor(store: JobStore) {
    this.store = store;
  }

  /** Of every job that has ended, the oldest first. */
  async findings(): Promise<Finding[]> {
    const ended = (await this.store.jobs()).filter(({ outcome }) => outcome !== null);
    const findings: Finding[] = [];
    for (const { id } of ended) {
      const finding = this.known.get(id) ?? (await this.read(id));
      if (!finding) continue;
      this.known.set(id, finding);
      findings.push(finding);
    }
    return findings.sort((a, b) => a.endedAt - b.endedAt);
  }

  private async read(id: string): Promise<Finding | undefined> {
    const stored = await this.store.events(id);
    return findingOf(foldJob(stored.map(({ event }) => event)).state);
  }
}
