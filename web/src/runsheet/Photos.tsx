import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';

/** The job's pictures, small; a tap opens one in full. */
export function Photos({ state }: { state: JobState }) {
  if (state.photos.length === 0) return null;
  return (
    <ul aria-label="Photos" className="mt-2 flex flex-wrap gap-2">
      {state.photos.map(({ photo, text, by }) => (
        <li key={photo}>
          <a href={`/api/jobs/${state.job}/photos/${photo}`} target="_blank" rel="noreferrer">
            <img
              src={`/api/jobs/${state.job}/photos/${photo}`}
              alt={`${text}, by ${by}`}
              loading="lazy"
              className="size-16 rounded-md border border-line object-cover"
            />
          </a>
        </li>
      ))}
    </ul>
  );
}
