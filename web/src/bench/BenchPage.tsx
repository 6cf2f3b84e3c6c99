/** Bench: what is in each bay, how far along its cord, and what hands are needed next. */
import { stepAtHand } from '@cork-ember/core/contract/firstDay.ts';
import { useEffect, useMemo } from 'react';
import { Link, Navigate, useNavigate } from 'react-router';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import type { Bay, Quarantined, Shop } from '@cork-ember/core/contract/answers.ts';
import type { BayPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import { inTurn } from '@cork-ember/core/runsheet/plan/inTurn.ts';
import { useBenchNow, useCalling } from '../alarms/alarms.ts';
import { askBenchAnew, useBench } from '../api/bench.ts';
import type { BenchSource } from '../api/benchSource.ts';
import { useClock, useQuarantined, useShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { chargerName } from '../ui/chargerName.ts';
import type { TimeScale } from '../cord/scale.ts';
import { useWidth } from '../cord/useWidth.ts';
import { LowStock } from '../ui/LowStock.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Axis } from './Axis.tsx';
import { BayRow } from './BayRow.tsx';
import { AXIS, layoutFor } from './layout.ts';
import { NextHandsList } from './NextHandsList.tsx';
import { useDense, useWindowHeight } from './useDense.ts';
import { Title } from '../ui/Title.tsx';

const HOUR = 3_600_000;
/** Enough to see this morning's start and tonight's closing. */
const HOURS_BACK = 3;

function windowAround(now: number, width: number): TimeScale {
  const from = Math.floor(now / HOUR) * HOUR - HOURS_BACK * HOUR;
  return { from, to: from + (width < 560 ? 9 : 11) * HOUR, width };
}

/** A row of the shelf, which has no charger. */
const ON_SHELF: Bay = { number: SHELF, charger: '' };

/** Shop time after which the rows are drawn anew, ms. */
const ROW_EVERY_MS = 10_000;

interface Row {
  readonly key: string;
  readonly bay: Bay;
  readonly job: BayPicture | undefined;
  readonly apart: Quarantined | undefined;
}

/** Between two columns, px. */
const GAP = 24;
/** A cord shorter than this says nothing, px. */
const LEAST_CORD = 140;
/** Band, title and edges above and below the bays, px. */
const AROUND = 72 + 64 + 16;

/** Digits open a bay, Enter does what the band says. */
function useBenchKeys(bays: readonly BayPicture[], topJob: string | undefined): void {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      // Whatever else has the keyboard answers for itself.
      const isFree = event.target === document.body || event.target instanceof HTMLHeadingElement;
      if (!isFree || event.repeat) return;
      const job = bays.find((one) => one.bay !== SHELF && String(one.bay) === event.key)?.job;
      const wanted = event.key === 'Enter' ? topJob : job;
      if (wanted !== undefined) void navigate(`/jobs/${wanted}`);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [bays, topJob, navigate]);
}

interface BenchProps {
  readonly shop: Shop;
  readonly source: BenchSource;
  /** Records that cannot be read, of batteries that stand here. */
  readonly apart: readonly Quarantined[];
  readonly now: number;
}

function Bench({ shop, source, apart, now }: BenchProps) {
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const height = useWindowHeight() - AROUND;
  const [isDenseWanted, setDense] = useDense();
  const { hands } = useCalling();
  const moment = Math.floor(now / ROW_EVERY_MS) * ROW_EVERY_MS;
  const bays = useMemo(() => source.baysAt(moment), [source, moment]);
  useBenchKeys(bays, hands[0]?.job);
  const inBays = bays.filter(({ bay }) => bay !== SHELF);
  const onShelf = bays.filter(({ bay }) => bay === SHELF);
  const apartElsewhere = apart.filter(({ bay }) => !shop.bays.some(({ number }) => number === bay));
  const busy = new Map(inBays.map((job) => [job.bay, job]));
  const rows: readonly Row[] = [
    ...shop.bays.map((bay) => ({
      key: `bay ${bay.number}`,
      bay,
      job: busy.get(bay.number),
      apart: apart.find((one) => one.bay === bay.number),
    })),
    ...apartElsewhere.map((one) => ({ key: one.id, bay: ON_SHELF, job: undefined, apart: one })),
    ...onShelf.map((job) => ({ key: job.job, bay: ON_SHELF, job, apart: undefined })),
  ];
  const layout = useMemo(
    () => layoutFor(rows.length, width, height, isDenseWanted),
    [rows.length, width, height, isDenseWanted],
  );
  const columnWidth = Math.floor((width - (layout.columns - 1) * GAP) / layout.columns);
  const cordWidth = Math.max(LEAST_CORD, columnWidth - layout.labels);
  const scale = useMemo(() => windowAround(moment, cordWidth), [moment, cordWidth]);
  const inColumn = Math.ceil(rows.length / layout.columns);
  const columns = Array.from({ length: layout.columns }, (_, at) =>
    rows.slice(at * inColumn, (at + 1) * inColumn),
  );
  return (
    <div className="flex min-h-full flex-col lg:flex-row">
      <section className="min-w-0 flex-1 px-4 pt-3 pb-4" aria-labelledby="bench-title">
        <div className="flex flex-wrap items-center gap-x-3">
          <Title said="Bench" id="bench-title" className="mr-auto text-sm font-semibold text-soft">
            Bench · {shop.bays.length} bays, {busy.size} in use
            {onShelf.length > 0 && `, ${onShelf.length} on the shelf`}
          </Title>
          {shop.firstDay && stepAtHand(shop.firstDay) && (
            <Link
              to="/first-day"
              className="inline-flex min-h-12 items-center gap-2 rounded-lg border-2 border-ember bg-card px-4 font-semibold"
            >
              First day: set the shop up
            </Link>
          )}
          <Button tone="quiet" aria-pressed={layout.isDense} onClick={() => setDense(!layout.isDense)}>
            {layout.isDense ? 'Roomy' : 'Dense'}
          </Button>
          <LowStock />
          {bays.length > 1 && (
            <Link
              to="/batch"
              className="inline-flex min-h-12 items-center gap-2 px-2 text-verdigris underline underline-offset-4"
            >
              Take them through together
            </Link>
          )}
        </div>
        <div ref={ref} className="mt-1 flex gap-6">
          {columns.map((its, at) => (
            <div key={at} className="relative min-w-0 flex-1">
              <Axis scale={scale} hours={shop.hours} now={now} rows={its.length} layout={layout} />
              <ul className="relative" style={{ paddingTop: AXIS }}>
                {its.map(({ key, bay, job, apart: broken }) => (
                  <BayRow
                    key={key}
                    bay={bay}
                    charger={chargerName(shop, bay.charger)}
                    job={job}
                    apart={broken}
                    now={moment}
                    scale={scale}
                    hours={shop.hours}
                    layout={layout}
                  />
                ))}
              </ul>
            </div>
          ))}
        </div>
      </section>
      <NextHandsList turns={inTurn(hands, now)} now={now} hours={shop.hours} />
    </div>
  );
}

export function BenchPage() {
  const [shops, { source, failed }, clock] = [useShop(), useBench(), useClock()];
  const { data: shop } = shops;
  const { data: apart = [] } = useQuarantined();
  const now = useBenchNow();
  if (!shop || !source || now === 0)
    return <Waiting on={[shops, { data: source, error: failed, refetch: askBenchAnew }, clock]} />;
  // A shop that was never set up opens on its first day; once begun it is a press away.
  const isUntouched = shop.firstDay !== undefined && Object.keys(shop.firstDay).length === 0;
  if (isUntouched && source.count === 0) return <Navigate to="/first-day" replace />;
  return (
    <Bench shop={shop} source={source} apart={apart.filter(({ outcome }) => outcome === null)} now={now} />
  );
}
