/** The frame of every view: the band that says what hands do next, and the way to the other views. */
import { ClockApart } from './ClockApart.tsx';
import { Help } from './Help.tsx';
import {
  BookOpen,
  Bell,
  BellOff,
  BellRing,
  Calculator,
  Flame,
  GitFork,
  Inbox,
  Moon,
  Search,
  SlidersHorizontal,
  Sun,
  WifiOff,
} from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { NavLink, Outlet, useMatch, useNavigate } from 'react-router';
import { toast, Toaster } from 'sonner';
import { placeText } from '@cork-ember/core/runsheet/entries/place.ts';
import { PACES } from '@cork-ember/core/clock/clock.ts';
import { nextHands, type Hand } from '@cork-ember/core/runsheet/plan/hands.ts';
import { clockText, weekdayText, whenText } from '@cork-ember/core/clock/clockText.ts';
import { sentenceOf } from '../api/client.ts';
import { changeClock, useNow, usePace } from '../api/clock.ts';
import { useAlarms, useDangerOnly } from '../alarms/useAlarms.ts';
import { usePerson, useTheme } from '../api/person.ts';
import { useClock, useOpenJobs, useShop } from '../api/queries.ts';
import { useStream } from '../api/stream.ts';
import { isSecure } from './Secure.tsx';
import { isOtherwise, shopRegion } from '../region/shopRegion.ts';
import { CameraScan } from '../scan/CameraScan.tsx';
import { pathOfTag, useScans } from '../scan/useScans.ts';
import { Button } from './Button.tsx';

const LINKS = [
  { to: '/', name: 'Bench', icon: Flame },
  { to: '/intake', name: 'Intake', icon: Inbox },
  { to: '/what-if', name: 'What if', icon: GitFork },
  { to: '/ledger', name: 'Ledger', icon: BookOpen },
  { to: '/reckoner', name: 'Reckoner', icon: Calculator },
  { to: '/setup', name: 'Setup', icon: SlidersHorizontal },
] as const;

function ClockBox({ timeZone }: { timeZone: string }) {
  const now = useNow();
  const { pace, isPaced } = usePace();
  const change = (wanted: Parameters<typeof changeClock>[0]): void => {
    changeClock(wanted).catch((error: unknown) => toast.error(sentenceOf(error)));
  };
  useEffect(() => {
    const jumpOnKey = (event: KeyboardEvent): void => {
      if (!isPaced || !event.altKey || event.code !== 'KeyJ' || event.repeat) return;
      event.preventDefault();
      changeClock({ jump: 'next-hands' }).catch((error: unknown) => toast.error(sentenceOf(error)));
    };
    window.addEventListener('keydown', jumpOnKey);
    return () => window.removeEventListener('keydown', jumpOnKey);
  }, [isPaced]);
  const face = (
    <>
      <span
        className={`reading font-semibold whitespace-nowrap ${shopRegion().clock === '12 h' ? 'text-[15px] leading-7' : 'text-xl'}`}
      >
        {now === 0 ? '--:--' : clockText(now, timeZone)}
      </span>
      <span className="text-xs text-[#cbbca9]">
        {now === 0 ? '' : weekdayText(now, timeZone)}
        {isPaced ? ` · ${pace}×` : ''}
      </span>
    </>
  );
  const box = 'flex w-21 shrink-0 flex-col items-center justify-center bg-black/35 text-white';
  if (!isPaced) return <div className={box}>{face}</div>;
  return (
    <Popover.Root>
      <Popover.Trigger className={box}>
        <span className="sr-only">Shop clock</span>
        {face}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={8}
          className="z-30 w-72 rounded-lg border border-line bg-card p-4 shadow-lg"
        >
          <p className="font-semibold">Shop clock of the demo</p>
          <div className="mt-3 flex gap-2">
            {PACES.map((one) => (
              <Button
                key={one}
                tone={one === pace ? 'go' : 'plain'}
                className="flex-1"
                aria-pressed={one === pace}
                onClick={() => change({ pace: one })}
              >
                {one}×
              </Button>
            ))}
          </div>
          <Button className="mt-2 w-full" onClick={() => change({ jump: 'next-hands' })}>
            Jump to next hands (Alt+J)
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function PersonBox({ people }: { people: readonly string[] }) {
  const [person, setPerson] = usePerson();
  const [isOpen, setIsOpen] = useState(false);
  const choose = (name: string): void => {
    if (name.trim() === '') return;
    setPerson(name.trim().slice(0, 40));
    setIsOpen(false);
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    choose(String(new FormData(event.currentTarget).get('name') ?? ''));
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger className="flex min-w-24 shrink-0 flex-col items-end justify-center bg-black/35 px-4 text-white max-sm:w-16 max-sm:min-w-0 max-sm:px-1.5">
        <span className="max-w-full truncate font-medium max-sm:text-sm">
          {person === '' ? 'Who is it?' : person}
        </span>
        <span className="text-xs text-[#cbbca9] max-sm:sr-only">at the bench</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          className="z-30 w-64 rounded-lg border border-line bg-card p-4 shadow-lg"
        >
          <p className="font-semibold">Who is at the bench?</p>
          <div className="mt-3 grid gap-2">
            {people.map((name) => (
              <Button key={name} tone={name === person ? 'go' : 'plain'} onClick={() => choose(name)}>
                {name}
              </Button>
            ))}
            <form onSubmit={submit} className="flex gap-2">
              <input
                name="name"
                aria-label="Another name"
                placeholder="Another name"
                maxLength={40}
                className="min-h-12 min-w-0 flex-1 rounded-lg border-2 border-cork bg-card px-3"
              />
              <Button type="submit">Set</Button>
            </form>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const URGENT = {
  danger: 'Danger',
  overdue: 'Overdue',
  due: 'Due now',
  blocked: 'Blocked',
  later: 'Next',
} as const;

function Band({
  hands,
  here,
  timeZone,
}: {
  hands: readonly Hand[];
  here: string | undefined;
  timeZone: string;
}) {
  const now = useNow();
  const navigate = useNavigate();
  const hand = hands.find((one) => one.job !== here);
  if (!hand)
    return (
      <p className="flex flex-1 items-center px-5 text-[#cbbca9]">
        {here ? 'Nothing else on the bench needs hands.' : 'The bench is empty. Take a battery in.'}
      </p>
    );
  const when = hand.urgency === 'later' ? whenText(hand.at, now, timeZone) : URGENT[hand.urgency];
  return (
    <div className="relative flex min-w-0 flex-1 items-center gap-4 px-5 max-sm:px-3">
      {here && <span className="hidden text-white lg:inline">Elsewhere</span>}
      <p className="min-w-0 flex-1">
        <span className="block truncate text-lg font-bold text-white max-sm:line-clamp-2 max-sm:text-base max-sm:leading-5 max-sm:whitespace-normal md:text-xl">
          {hand.title}
        </span>
        <span className="block truncate text-sm text-white/90">
          {hand.tag} · {placeText(hand.bay)} · {when}
          {hand.urgency === 'overdue' ? ` since ${whenText(hand.at, now, timeZone)}` : ''}
        </span>
      </p>
      {/* On a phone the words themselves are pressed. */}
      <Button
        className="shrink-0 border-white bg-white! px-6 font-semibold text-[#7f2704]! max-sm:absolute max-sm:inset-0 max-sm:border-transparent max-sm:bg-transparent! max-sm:text-transparent!"
        onClick={() => void navigate(`/jobs/${hand.job}`)}
      >
        {hand.urgency === 'later' ? 'Open' : 'Do it'}
      </Button>
    </div>
  );
}

function TagSearch() {
  const navigate = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState('');
  useEffect(() => {
    const focusOnSlash = (event: KeyboardEvent): void => {
      const isTyping = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
      if (event.key !== '/' || isTyping) return;
      event.preventDefault();
      field.current?.focus();
    };
    window.addEventListener('keydown', focusOnSlash);
    return () => window.removeEventListener('keydown', focusOnSlash);
  }, []);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const tag = field.current?.value ?? '';
    if (tag.trim() === '') return;
    try {
      const path = await pathOfTag(tag);
      setProblem('');
      if (field.current) field.current.value = '';
      void navigate(path);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="relative w-full px-1.5" role="search">
      <Search aria-hidden className="mx-auto size-5 text-soft" />
      <input
        ref={field}
        aria-label="Scan or type a tag"
        title="Scan or type a tag ( / )"
        placeholder="Tag"
        maxLength={16}
        aria-invalid={problem !== ''}
        className="mt-1 min-h-12 w-full rounded-md border border-cork bg-card px-1 text-center text-sm uppercase placeholder:text-soft"
      />
      <CameraScan />
      {problem !== '' && (
        <p
          role="alert"
          className="absolute bottom-0 left-full z-30 ml-3 w-64 rounded-lg border-l-6 border-clay bg-clay-wash p-3 text-clay shadow-lg"
        >
          {problem}
        </p>
      )}
    </form>
  );
}

function Rail() {
  const [isDangerOnly, setDangerOnly] = useDangerOnly();
  const BellIcon = isDangerOnly ? BellOff : Bell;
  const [theme, setTheme] = useTheme();
  const isNight = theme === 'night';
  const ThemeIcon = isNight ? Sun : Moon;
  return (
    <nav aria-label="Views" className="flex w-21 shrink-0 flex-col items-stretch bg-rail py-2">
      {LINKS.map(({ to, name, icon: Icon }) => (
        <NavLink
          key={to}
          to={to}
          end={to === '/'}
          className={({ isActive }) =>
            `flex min-h-14 flex-col items-center justify-center gap-1 border-l-4 text-sm ${isActive ? 'border-ember bg-paper font-semibold text-char' : 'border-transparent text-soft hover:text-char'}`
          }
        >
          <Icon aria-hidden className="size-5" />
          {name}
        </NavLink>
      ))}
      <div className="flex-1" />
      <TagSearch />
      <Help />
      <button
        type="button"
        aria-pressed={!isDangerOnly}
        onClick={() => {
          setDangerOnly(!isDangerOnly);
          if (isDangerOnly && !isSecure())
            toast(
              'Tones and the title call. Notifications are kept from a page on plain http by the browser; Help shows the way to https.',
            );
        }}
        className="mt-2 flex min-h-12 flex-col items-center justify-center gap-0.5 text-xs text-soft hover:text-char"
      >
        <BellIcon aria-hidden className="size-5" />
        {isDangerOnly ? 'Danger only' : 'All alarms'}
      </button>
      <button
        type="button"
        onClick={() => setTheme(isNight ? 'day' : 'night')}
        className="flex min-h-12 flex-col items-center justify-center gap-0.5 text-xs text-soft hover:text-char"
      >
        <ThemeIcon aria-hidden className="size-5" />
        {isNight ? 'Day light' : 'Night shift'}
      </button>
    </nav>
  );
}

export function Shell() {
  const [theme] = useTheme();
  const isThere = useStream();
  const { data: shop } = useShop();
  useClock();
  const now = useNow();
  const { jobs } = useOpenJobs();
  const here = useMatch('/jobs/:id')?.params.id;
  useEffect(() => {
    document.documentElement.dataset['theme'] = theme;
  }, [theme]);
  const timeZone = shop?.hours.timeZone ?? 'Etc/UTC';
  const hands =
    now === 0
      ? []
      : nextHands(
          jobs.map((job) => job.state),
          now,
        );
  const { calling, hear } = useAlarms(hands, jobs.length > 0);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (!event.altKey || event.code !== 'KeyH') return;
      event.preventDefault();
      hear();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  useScans();
  const top = hands.find((one) => one.job !== here);
  const isDue = top !== undefined && top.urgency !== 'later' && top.urgency !== 'blocked';
  const bandColour = top?.urgency === 'danger' ? 'bg-clay-deep' : isDue ? 'bg-ember-deep' : 'bg-band';
  return (
    <div className="flex h-dvh flex-col overflow-clip">
      <header className={`flex h-18 shrink-0 ${bandColour}`}>
        <ClockBox timeZone={timeZone} />
        <Band hands={hands} here={here} timeZone={timeZone} />
        {calling && (
          <button
            type="button"
            onClick={hear}
            title="Heard (Alt+H)"
            className="flex w-21 shrink-0 flex-col items-center justify-center gap-1 border-l border-white/25 text-sm text-white hover:bg-black/25 max-sm:w-14"
          >
            <BellRing aria-hidden className="size-6" /> Heard
          </button>
        )}
        <PersonBox people={shop?.people ?? []} />
      </header>
      {!isThere && (
        <p role="status" className="flex items-center gap-2 bg-brass-wash px-5 py-2 text-brass-ink">
          <WifiOff aria-hidden className="size-5" /> The server is away. What you enter is kept here and sent
          once it is back.
        </p>
      )}
      {shop && isOtherwise(shop) && (
        <p role="status" className="flex items-center gap-3 bg-brass-wash px-5 py-2 text-brass-ink">
          <span className="flex-1">
            The shop writes its figures otherwise now; this page still as before.
          </span>
          <Button onClick={() => window.location.reload()}>Load it anew</Button>
        </p>
      )}
      <div className="flex min-h-0 flex-1">
        <Rail />
        <main className="relative min-w-0 flex-1 overflow-auto">
          <ClockApart timeZone={timeZone} />
          <Outlet />
        </main>
      </div>
      <Toaster position="bottom-center" theme={theme === 'night' ? 'dark' : 'light'} />
    </div>
  );
}
