/** What a paper that replaces an earlier one says of it: both stand on it. */
import { changedSince, type HistoryEntry } from '@cork-ember/core/runsheet/log/history.ts';
import type { SealSummary } from '@cork-ember/core/contract/answers.ts';
import { changesIn, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import type { DocumentContent, Row } from './content.ts';

/** Who changed something, when and why, once for each time it was done. */
function occasionRows({ log }: Job, since: number, moment: (at: number) => string): Row[] {
  return log
    .filter((event) => event.seq > since && changesIn(event).length > 0)
    .map((event): Row => {
      const why = 'why' in event.payload ? event.payload.why : undefined;
      const what = event.kind === 'reopened' ? 'the ending was taken back' : 'entries were changed';
      return [moment(event.at), `${what}${why ? `: ${verbatim(why)}` : ''} · ${event.by}`];
    });
}

/** What an entry says now, and what the earlier paper rested on. */
function changeRow({ place, words, was, takenBack }: HistoryEntry, before: SealSummary): Row {
  const said = was[0]?.words ?? words;
  return [place, `${takenBack ? 'taken back' : words}; issue ${before.issue} had: ${said}`];
}

/**
 * A paper with what changed since the issue it replaces.
 * @param before the issue it replaces
 */
export function reissued(content: DocumentContent, job: Job, before: SealSummary): DocumentContent {
  const { timeZone } = job.state.opened.hours;
  const moment = (at: number): string => dateTimeText(at, timeZone);
  const rows = [
    ...occasionRows(job, before.upTo, moment),
    ...changedSince(job, before.upTo).map((entry) => changeRow(entry, before)),
  ];
  return {
    ...content,
    replaces: `Replaces issue ${before.issue} of ${moment(before.at)}, check code ${before.code}.`,
    sections: [{ title: `What was changed since issue ${before.issue}`, rows }, ...content.sections],
  };
}
