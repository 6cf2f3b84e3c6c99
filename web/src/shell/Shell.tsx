/** The frame of every view: the band that says what hands do next, and the way to the other views. */
import { BellOff, BellRing, LockKeyhole, WifiOff } from 'lucide-react';
import { Suspense, useEffect } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Link, Outlet, useLocation, useMatch } from 'react-router';
import { hear, useCalling } from '../alarms/alarms.ts';
import { askToCall, declineCalls, useOpenQuestion } from '../alarms/permission.ts';
import { useTheme } from '../api/person.ts';
import { useClock, useShop } from '../api/queries.ts';
import { useSeat, useSession } from '../api/session.ts';
import { useStream } from '../api/stream.ts';
import { usePadField } from '../readings/activeField.ts';
import { usePad } from '../readings/usePad.ts';
import { isOtherwise } from '../region/shopRegion.ts';
import { useScans } from '../scan/useScans.ts';
import { Button } from '../ui/Button.tsx';
import { ClockApart } from '../ui/ClockApart.tsx';
import { forgetFailed, later } from '../ui/later.tsx';
import { ViewFailed } from '../ui/ViewFailed.tsx';
import { Band } from './Band.tsx';
import { ClockBox } from './ClockBox.tsx';
import { OnTheWay } from './OnTheWay.tsx';
import { isSecure } from '../ui/Secure.tsx';
import { PersonBox } from './PersonBox.tsx';
import { useNewerProgram } from './program.ts';
import { Rail } from './Rail.tsx';
import { StopAll } from './StopAll.tsx';
import { Strip } from './Strip.tsx';
import { Claims } from './Claims.tsx';
import { Health } from './Health.tsx';

const LetIn = later(async () => (await import('./LetIn.tsx')).LetIn);

const Keypad = later(async () => (await import('../readings/Keypad.tsx')).Keypad);

/** Says a word at the foot of the page: the page itself does not wait for it. */
const Toaster = later(async () => (await import('sonner')).Toaster);

/** Asked once there is something to be called for, on the bench: where hands are busy it is not in the way. */
function CallQuestion() {
  const isBench = useMatch('/') !== null;
  const isOpen = useOpenQuestion();
  if (!isBench || !isOpen) return null;
  return (
    <Strip asks="Calls while this page is hidden">
      <span className="flex-1">May the bench call you while this page is hidden?</span>
      <Button onClick={() => void askToCall()}>Yes, call me</Button>
      <Button tone="quiet" onClick={declineCalls}>
        No
      </Button>
    </Strip>
  );
}

/** The pad, while a field that was reached for wants a number. */
function Pad() {
  const [isWanted] = usePad();
  const field = usePadField();
  const shown = isWanted ? field : undefined;
  useEffect(() => {
    shown?.scrollIntoView({ block: 'nearest' });
  }, [shown]);
  return shown ? <Keypad field={shown} /> : null;
}

/** What a browser that is not the shop's may see as well: a paper held against its record, and how to trust it. */
const PUBLIC = ['/check', '/trust'] as const;

export function Shell() {
  const [theme] = useTheme();
  const isThere = useStream();
  const loadNewer = useNewerProgram();
  const { data: shop } = useShop();
  useClock();
  const { key: place, pathname } = useLocation();
  const here = useMatch('/jobs/:id')?.params.id;
  useEffect(() => {
    document.documentElement.dataset['theme'] = theme;
  }, [theme]);
  const isPublic = PUBLIC.some((path) => pathname.startsWith(path));
  const timeZone = shop?.hours.timeZone ?? 'Etc/UTC';
  const { isKnown, hands, alarm, isSilent, failed } = useCalling();
  useScans();
  const session = useSession();
  useSeat(session, here);
  const isPlain = session?.secure !== undefined;
  const isUnknown = isPlain || (session?.mode === 'held' && session.tablet === undefined);
  const Bell = isSilent ? BellOff : BellRing;
  const top = hands.find((one) => one.job !== here);
  const isDue = top !== undefined && top.urgency !== 'later' && top.urgency !== 'blocked';
  const bandColour = top?.urgency === 'danger' ? 'bg-clay-deep' : isDue ? 'bg-ember-deep' : 'bg-band';
  return (
    <div className="flex h-dvh flex-col overflow-clip print:block print:h-auto print:overflow-visible">
      <header className={`flex h-18 shrink-0 print:hidden ${bandColour}`}>
        <ClockBox timeZone={timeZone} />
        <Band isKnown={isKnown} hands={hands} here={here} timeZone={timeZone} />
        <OnTheWay />
        {alarm && (
          <button
            type="button"
            onClick={hear}
            title={
              isSilent
                ? 'Heard (Alt+H). No tone before the page is touched once: this browser wants it so.'
                : 'Heard (Alt+H)'
            }
            className="flex w-21 shrink-0 flex-col items-center justify-center border-l border-white/25 text-sm text-white hover:bg-black/25 max-sm:w-14"
          >
            <Bell aria-hidden className="mb-1 size-6" /> Heard
            {isSilent && <span className="text-xs max-sm:sr-only">no tone yet</span>}
          </button>
        )}
        <PersonBox people={shop?.people ?? []} session={session} />
      </header>
      <StopAll />
      {!isThere && !isUnknown && (
        <Strip>
          <WifiOff aria-hidden className="size-5 shrink-0" /> The server is away. What you enter is kept here
          and sent once it is back.
          {!isSecure() && ' On plain http this page cannot be loaded anew until then.'}
        </Strip>
      )}
      {loadNewer && (
        <Strip>
          <span className="flex-1">A newer program is there; this page still is the one before.</span>
          <Button onClick={loadNewer}>Load it</Button>
        </Strip>
      )}
      {isPlain && (
        <Strip>
          <span className="flex-1">Over the network the shop is used on https.</span>
          <a href={session.secure} className="underline underline-offset-4">
            Go there
          </a>
        </Strip>
      )}
      {session?.mode === 'held' && !isUnknown && !session.person && (
        <Strip>
          <LockKeyhole aria-hidden className="size-5 shrink-0" /> Nobody is at the bench: say who you are at
          the top right. What was typed is kept.
        </Strip>
      )}
      {session?.locked && session.locked.length > 0 && (
        <Strip>
          <LockKeyhole aria-hidden className="size-5 shrink-0" />
          <span className="flex-1">
            {session.locked.join(', ')}: locked after wrong PINs. Ask whether they were theirs.
          </span>
          <Link to="/setup?part=people" className="underline underline-offset-4">
            Look at it
          </Link>
        </Strip>
      )}
      {session?.person && <Claims person={session.person} timeZone={timeZone} />}
      {failed !== undefined && !isUnknown && (
        <Strip>The alarms do not see the bench as it is: {failed}</Strip>
      )}
      {!isUnknown && <Health />}
      {hands.length > 0 && <CallQuestion />}
      {shop && isOtherwise(shop) && (
        <Strip>
          <span className="flex-1">
            The shop writes its figures otherwise now; this page still as before.
          </span>
          <Button onClick={() => window.location.reload()}>Load it anew</Button>
        </Strip>
      )}
      <div className="flex min-h-0 flex-1">
        <Rail />
        <div className="flex min-w-0 flex-1 flex-col">
          <main className="relative min-h-0 flex-1 overflow-auto print:overflow-visible">
            <ClockApart timeZone={timeZone} />
            {/* One for all views: the band, the alarms and what was entered stand whatever a view does. */}
            <ErrorBoundary FallbackComponent={ViewFailed} onReset={forgetFailed} resetKeys={[place]}>
              <Suspense>{isUnknown && !isPublic ? <LetIn /> : <Outlet />}</Suspense>
            </ErrorBoundary>
          </main>
          <Pad />
        </div>
      </div>
      <Toaster position="bottom-center" theme={theme === 'night' ? 'dark' : 'light'} />
    </div>
  );
}
