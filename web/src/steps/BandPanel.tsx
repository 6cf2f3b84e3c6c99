/** A recovery's charge against its forecast: the band in which eight of ten would lie, the readings on it, and in words how it goes. */
import { COURSES, type GoingOn } from '@cork-ember/core/belief/deviation.ts';
import type { KeptStretch } from './BandChart.tsx';
import type { Tracked } from '../judgement/useBand.ts';
import { later } from '../ui/later.tsx';
import { Notice } from '../ui/Notice.tsx';

const BandChart = later(async () => (await import('./BandChart.tsx')).BandChart);

const TONES = {
  plain: 'text-char',
  good: 'text-verdigris',
  caution: 'text-brass-ink',
  danger: 'text-clay',
} as const;

const hoursText = (minutes: number): string => `${(minutes / 60).toFixed(1)} h`;

/** How the charge goes, in words, where the eye is; the curves stand below. */
export function Going({ going }: { going: GoingOn }) {
  return going.tone === 'danger' ? (
    <div className="mt-3">
      <Notice tone="stop">
        <strong>{COURSES[going.course]}.</strong> {going.words}
      </Notice>
    </div>
  ) : (
    <p role="status" className="px-5 pt-2">
      <strong className={TONES[going.tone]}>{COURSES[going.course]}.</strong> {going.words}
    </p>
  );
}

interface BandPanelProps {
  readonly tracked: Tracked;
  readonly kept?: readonly KeptStretch[];
}

export function BandPanel({ tracked: { band, looks }, kept = [] }: BandPanelProps) {
  return (
    <section
      aria-label="Forecast of this charge"
      className="mx-5 mt-4 rounded-lg border border-line p-3"
      aria-busy={!band}
    >
      {band ? (
        <>
          <p className="mt-1 text-soft">
            {Number.isFinite(band.doneMin.middle) && (
              <>
                Tapered off after <span className="reading">{hoursText(band.doneMin.middle)}</span>
                {Number.isFinite(band.doneMin.high) && (
                  <>
                    {' '}
                    (<span className="reading">{hoursText(band.doneMin.low)}</span> to{' '}
                    <span className="reading">{hoursText(band.doneMin.high)}</span>)
                  </>
                )}
                .{' '}
              </>
            )}
            The band holds eight of ten such batteries
            {looks.length > 0 ? '; the points are your readings' : ''}
            {kept.length > 1 ? ', the line is what was read each second' : ''}.
          </p>
          <div className="mt-2 min-h-36">
            <BandChart band={band} looks={looks} kept={kept} />
          </div>
        </>
      ) : (
        <p className="text-soft">Candidate batteries go through this charge …</p>
      )}
    </section>
  );
}
