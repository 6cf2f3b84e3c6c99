/** The way to the other views, and what is set for this browser alone. */
import {
  Archive,
  Bell,
  BellOff,
  BookOpen,
  Calculator,
  Flame,
  GitFork,
  Grid3x3,
  Inbox,
  Moon,
  SlidersHorizontal,
  Sun,
} from 'lucide-react';
import { NavLink } from 'react-router';
import { say } from '../ui/say.ts';
import { setDangerOnly, useCalling } from '../alarms/alarms.ts';
import { useTheme } from '../api/person.ts';
import { usePad } from '../readings/usePad.ts';
import { Help } from '../ui/Help.tsx';
import { isSecure } from '../ui/Secure.tsx';
import { TagSearch } from './TagSearch.tsx';

const LINKS = [
  { to: '/', name: 'Bench', icon: Flame },
  { to: '/intake', name: 'Intake', icon: Inbox },
  { to: '/shelf', name: 'Shelf', icon: Archive },
  { to: '/what-if', name: 'What if', icon: GitFork },
  { to: '/ledger', name: 'Ledger', icon: BookOpen },
  { to: '/reckoner', name: 'Reckoner', icon: Calculator },
  { to: '/setup', name: 'Setup', icon: SlidersHorizontal },
] as const;

export function Rail() {
  const { isDangerOnly } = useCalling();
  const BellIcon = isDangerOnly ? BellOff : Bell;
  const [isOnPad, wantPad] = usePad();
  const [theme, setTheme] = useTheme();
  const isNight = theme === 'night';
  const ThemeIcon = isNight ? Sun : Moon;
  return (
    <nav
      aria-label="Views"
      className="print:hidden flex w-21 shrink-0 flex-col items-stretch bg-rail py-2 max-sm:w-16"
    >
      {/* On a low screen the ways to the views give way; what is set stays in reach. */}
      <div className="flex min-h-24 shrink flex-col overflow-y-auto">
        {LINKS.map(({ to, name, icon: Icon }) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className={({ isActive }) =>
              `flex min-h-12.5 shrink-0 flex-col items-center justify-center gap-0.5 border-l-4 text-sm max-sm:border-l-2 max-sm:text-xs ${isActive ? 'border-ember bg-paper font-semibold text-char' : 'border-transparent text-soft hover:text-char'}`
            }
          >
            <Icon aria-hidden className="size-5" />
            {name}
          </NavLink>
        ))}
      </div>
      <div className="flex-1" />
      <TagSearch />
      <Help />
      <button
        type="button"
        aria-pressed={!isDangerOnly}
        onClick={() => {
          setDangerOnly(!isDangerOnly);
          if (isDangerOnly && !isSecure())
            say(
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
        aria-pressed={isOnPad}
        title="Numbers are typed on a pad at the foot of the page"
        onClick={() => wantPad(!isOnPad)}
        className={`flex min-h-12 flex-col items-center justify-center gap-0.5 text-xs hover:text-char ${isOnPad ? 'font-semibold text-char' : 'text-soft'}`}
      >
        <Grid3x3 aria-hidden className="size-5" />
        {isOnPad ? 'Pad is on' : 'Pad is off'}
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
