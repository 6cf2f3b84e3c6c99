/** A bay with devices of its own, beside the step: what they show now, and where it has a supply or a load, the charge or discharge at hand run by it. */
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { BayDoes, LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import { profilesIn } from '@cork-ember/core/devices/device.ts';
import type { DeviceKind, DeviceProfile } from '@cork-ember/core/devices/profile.ts';
import { capacityMethodsWithin, type CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Sample } from '@cork-ember/core/devices/samples.ts';
import { durationText } from '@cork-ember/core/clock/clockText.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { useNow, usePace } from '../api/clock.ts';
import { personNow } from '../api/person.ts';
import { useShop } from '../api/queries.ts';
import { useMay } from '../api/session.ts';
import { sampleOf, tellShown, useShown } from '../api/shown.ts';
import { Button } from '../ui/Button.tsx';
import { card } from '../ui/card.ts';
import { figureOf } from '../ui/figureOf.ts';
import { Notice } from '../ui/Notice.tsx';
import { later } from '../ui/later.tsx';
import type { GoesOn } from '@cork-ember/core/adapters/bayProgramme.ts';
import { beyond, type Beyond } from './goesOn.ts';
import { MethodChoice } from './MethodChoice.tsx';
import { GoesOnPart, GoingOn } from './GoesOnPart.tsx';

const LastHour = later(async () => (await import('./LastHour.tsx')).LastHour);

/** Older than this it is no picture of now, ms of real time. */
const FRESH_MS = 60_000;

type Order = 'check' | 'confirm' | 'stop';

interface Given {
  readonly what: Order;
  readonly goesOn?: GoesOn | undefined;
}

/** How the bay of a job stands, and how it is told what to do. */
function useBay(bay: number, job: string, method: CapacityMethod | undefined) {
  const shown = useShown(job);
  const order = useMutation({
    mutationFn: ({ what, goesOn }: Given) => {
      const by = personNow();
      const told = { ...(by === '' ? {} : { by }), ...(goesOn ? { goesOn } : {}) };
      return ask<LiveBay>(`/api/bays/${bay}/${what}`, what === 'check' ? { job, method } : told);
    },
    onSuccess: (live) => tellShown({ kind: 'bay', live }),
  });
  // One that stood in another bay then is none of this one's.
  const live = shown?.live?.bay === bay ? shown.live : undefined;
  return { live, sample: shown && sampleOf(shown), order };
}

function Figures({ sample, ah, now }: { sample: Sample; ah?: number | undefined; now: number }) {
  const { at, volts, amps, tempC } = sample;
  const figures = [
    ...figureOf(volts, 2, 'V'),
    ...figureOf(amps, 2, 'A'),
    ...figureOf(tempC, 1, '°C'),
    ...figureOf(ah, 2, 'Ah'),
  ];
  const { pace } = usePace();
  const isOld = now - at > FRESH_MS * pace;
  return (
    <p className={isOld ? 'text-soft' : ''}>
      <span className="reading text-2xl font-semibold">
        {figures.map((figure) => (
          <span key={figure.split(' ')[1]} className="mr-5 inline-block whitespace-nowrap">
            {figure}
          </span>
        ))}
      </span>
      {isOld && <span className="block">{durationText(now - at)} ago, and nothing since.</span>}
    </p>
  );
}

interface AskedProps {
  readonly live: LiveBay | undefined;
  readonly does: Does;
  readonly isBusy: boolean;
  /** What it could go on to by itself; none where it could not. */
  readonly beyond: Beyond | undefined;
  readonly give: (what: Order, goesOn?: GoesOn) => void;
}

const BEFORE: Readonly<Record<Does, string>> = {
  charge:
    'Before it goes on: clips tight, the red one at plus; vents free; no flame and no spark near; goggles on.',
  drain:
    'Before it goes on: clips tight, the red one at plus; the load stands free, it gets hot; nothing lies on it. Once the battery is down, its supply charges it again at once.',
  step: 'Before it goes on: clips tight, the red one at plus; the meter’s leads at the posts themselves; the load stands free, it gets hot. It takes a quarter of a minute.',
};
const SMALL_STEP: Readonly<Record<Does, string>> = {
  charge: 'A small step of current, no more: nothing goes on flowing before you say so.',
  drain: 'A small step of load, no more: nothing goes on being drawn before you say so.',
  step: 'Its resistance, by the bay’s own load. First a small step, no more: nothing goes on being drawn before you say so.',
};

/** What is to be done before current flows, in the order hands do it. */
function Asked({ live, does, isBusy, beyond, give }: AskedProps) {
  const mayRecord = useMay('record');
  const [goesOn, setGoesOn] = useState<GoesOn>();
  if (live?.phase === 'checking') return <p className="font-semibold">It looks at the clips …</p>;
  if (live?.phase === 'ready')
    return (
      <>
        <p className="font-semibold text-verdigris">{live.says}</p>
        <Notice tone="caution">
          {live.air !== undefined && <p className="font-semibold">{live.air}</p>}
          <p>{BEFORE[does]}</p>
          {goesOn && beyond?.isDrawn && does === 'charge' && (
            <p>The load draws it down later: it stands free, it gets hot, and nothing lies on it.</p>
          )}
          <p>
            You are at the bay. Once it is on, it is looked after each second, and goes off at the first
            doubt.
          </p>
        </Notice>
        {beyond && <GoesOnPart beyond={beyond} chosen={goesOn} onChoose={setGoesOn} />}
        <div className="flex flex-wrap gap-3">
          <Button
            tone="go"
            className="min-h-14"
            disabled={isBusy || !mayRecord}
            onClick={() => give('confirm', goesOn)}
          >
            I am at the bay: switch it on
          </Button>
          <Button disabled={isBusy} onClick={() => give('stop')}>
            Not now
          </Button>
        </div>
      </>
    );
  return (
    <div className="flex flex-wrap items-center gap-3">
      <Button disabled={isBusy || !mayRecord} onClick={() => give('check')}>
        {isBusy ? 'It looks at the clips …' : 'Clips are on: check them'}
      </Button>
      <p className="min-w-0 flex-1 basis-56 text-soft">{SMALL_STEP[does]}</p>
    </div>
  );
}

/** What is said of how it stands, where that is not said by what is asked next. */
function Said({ live, onSeen }: { live: LiveBay | undefined; onSeen: () => void }) {
  if (live?.phase === 'off')
    return (
      <div className="flex flex-wrap items-center gap-3">
        <div className="min-w-0 flex-1 basis-72">
          <Notice tone="stop">Off: {live.says}</Notice>
        </div>
        {live.calls !== undefined && (
          <Button className="min-h-14" onClick={onSeen}>
            I have seen it
          </Button>
        )}
      </div>
    );
  if (live?.phase === 'ended') return <p className="font-semibold text-verdigris">{live.says}</p>;
  return null;
}

/** What the supply, or the load, of a bay gives at this step. */
type Does = BayDoes['kind'];

const runningWords = ({ bay, stage }: LiveBay): string =>
  stage === undefined ? `Bay ${bay} charges it` : `Bay ${bay}: ${stage}`;

interface BayPanelProps {
  readonly state: JobState;
  readonly does: Does | undefined;
}

export function BayPanel({ state, does }: BayPanelProps) {
  const { bay, job } = state;
  const { data: shop } = useShop();
  const [method, setMethod] = useState<CapacityMethod>();
  const { live, sample, order } = useBay(bay, job, does === 'drain' ? method : undefined);
  const now = useNow();
  const wired = profilesIn(shop ?? {}, bay);
  const of = (kind: DeviceKind): DeviceProfile | undefined => wired.find((profile) => profile.kind === kind);
  const isRunning = live?.phase === 'running';
  const can = {
    charge: of('supply') !== undefined,
    drain: of('load') !== undefined,
    step: of('load') !== undefined && 'volts' in (of('meter')?.speech.asks ?? {}),
  };
  const goesOn = live?.goesOn;
  // Between two currents of its own it is not asked to be switched on.
  const isBetween = goesOn !== undefined && !isRunning;
  const asked = does && can[does] && !isRunning && !isBetween ? does : undefined;
  // What calls is heard out, whatever the sheet has come to since.
  const isCalling = live?.calls !== undefined;
  if (!(asked || isRunning || isBetween || isCalling || (sample && wired.length > 0))) return null;
  const isTest = state.steps[state.cursor]?.stepId === STEP.proveCapacity;
  return (
    <section
      aria-labelledby="bay-title"
      className={card({ edge: isRunning ? 'live' : 'plain', className: 'mx-auto mb-3 max-w-3xl space-y-3' })}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 id="bay-title" className="min-w-0 flex-1 basis-56 font-bold">
          {isRunning ? runningWords(live) : `Bay ${bay}, its own devices`}
        </h2>
        {isRunning && (
          <Button
            tone="danger"
            className="min-h-14 px-8 max-sm:w-full"
            disabled={order.isPending}
            onClick={() => order.mutate({ what: 'stop' })}
          >
            Stop: off now
          </Button>
        )}
      </div>
      {sample && <Figures sample={sample} ah={isRunning ? live.ah : undefined} now={now} />}
      {isRunning && <LastHour job={job} now={now} />}
      {(isRunning || asked) && (
        <p className="text-soft">
          {of('cutoff')
            ? 'A cut-off of its own parts it, whatever becomes of this program.'
            : 'Attended only: it has no cut-off of its own, and goes off when the shop closes.'}
        </p>
      )}
      {isRunning && (
        <p className="text-soft">
          Its looks go on the run sheet each quarter of an hour. To go on by hand: stop it first.
        </p>
      )}
      {goesOn && (
        <GoingOn
          to={goesOn}
          timeZone={state.opened.hours.timeZone}
          now={now}
          onEnd={isBetween ? () => order.mutate({ what: 'stop' }) : undefined}
        />
      )}
      {!isRunning && !isBetween && <Said live={live} onSeen={() => order.mutate({ what: 'stop' })} />}
      {order.error && <Notice tone="stop">{sentenceOf(order.error)}</Notice>}
      {asked === 'drain' && isTest && live?.phase !== 'ready' && (
        <MethodChoice
          label="How it is measured"
          methods={capacityMethodsWithin(state.opened.type, of('load')?.ranges.amps?.most ?? 0)}
          method={method}
          onChoose={setMethod}
        />
      )}
      {asked && (
        <Asked
          live={live}
          does={asked}
          isBusy={order.isPending}
          beyond={of('cutoff') ? beyond(state, of('load')) : undefined}
          give={(what, goesOn) => order.mutate({ what, goesOn })}
        />
      )}
    </section>
  );
}
