'use client';

import { useMantineColorScheme } from '@mantine/core';
import { useDisclosure, useHotkeys } from '@mantine/hooks';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useRef, type ReactNode } from 'react';
import { toLocal } from '@/core/base/zones';
import { Pennant } from '@/ui/pennant';
import { ClockFace } from './ClockFace';
import { useMe } from '@/ui/may/May';
import { LongPaste } from './LongPaste';
import { TodayProvider } from './Today';
import classes from './Shell.module.css';
import { Trouble } from './Trouble';
import { WhoIsHere } from './WhoIsHere';
import { usePulse, type Pulse } from './use-pulse';
import { notFetched } from '@/ui/not-fetched';

const places = [
  { href: '/season', name: 'Season', right: 'look' },
  { href: '/dispatch', name: 'Dispatch', right: 'browse' },
  { href: '/read-back', name: 'Read-back', right: 'browse' },
  { href: '/clashes', name: 'Clashes', right: 'browse' },
  { href: '/tours', name: 'Tours', right: 'browse' },
  { href: '/directory', name: 'Directory', right: 'browse' },
  { href: '/channels', name: 'Channels', right: 'browse' },
  { href: '/import', name: 'Read a file', right: 'write' },
  { href: '/people', name: 'People', right: 'keep' },
] as const;

/** Fetched when it is asked for. */
const KeySheet = dynamic(() => import('./KeySheet').then(({ KeySheet }) => KeySheet, notFetched), { ssr: false });

interface ShellProps {
  children: ReactNode;
  /** The state of the house when the page was made. */
  pulse: Pulse;
  /** Moves the simulated clock on by so many milliseconds. */
  moveClock: (ms: number) => Promise<void>;
}

/** The frame of every screen: the places on the left, the top line, and the screen itself. */
export function Shell(props: ShellProps) {
  const frame = useFrame(props);
  const { pulse, children, sheet, close } = frame;
  return (
    <div className={classes.frame}>
      <a
        href="#main"
        className={classes.skip}
        onClick={(event) => {
          event.preventDefault();
          // Screens that were left may still be kept beside the one in sight.
          [...document.querySelectorAll<HTMLElement>('[data-work], main')]
            .reverse()
            .find((place) => place.offsetParent !== null)
            ?.focus();
        }}
      >
        To the work
      </a>
      <Rail frame={frame} />
      <Top frame={frame} />
      <main id="main" tabIndex={-1} className={classes.main}>
        <Trouble pulse={pulse} />
        <TodayProvider value={toLocal(pulse.now, pulse.zone).date}>{children}</TodayProvider>
      </main>
      <LongPaste />
      {sheet ? <KeySheet onClose={close} /> : null}
    </div>
  );
}

/** What the frame shows and does. */
function useFrame({ children, pulse: first, moveClock }: ShellProps) {
  const pulse = usePulse(first);
  const me = useMe();
  const pathname = usePathname();
  const router = useRouter();
  const [sheet, { open, close }] = useDisclosure(false);
  const asked = useSearchParams().get('find') ?? '';
  const finder = useRef<HTMLInputElement>(null);
  const inSeason = pathname === '/season';
  // In the season one narrows the list as one types; elsewhere Enter leads there.
  const find = (words: string) => {
    if (inSeason)
      window.history.replaceState(null, '', words === '' ? '/season' : `/season?find=${encodeURIComponent(words)}`);
  };
  useEffect(() => {
    // The address leads, but never against the hand that types.
    if (finder.current && document.activeElement !== finder.current) finder.current.value = asked;
  }, [asked]);
  const { setColorScheme, colorScheme } = useMantineColorScheme();
  const focusFind = () => finder.current?.focus();
  useHotkeys([
    ['/', focusFind],
    ['n', () => me.rights.includes('write') && router.push('/records/new')],
    ['g', () => router.push('/season')],
    ['d', () => me.rights.includes('browse') && router.push('/dispatch')],
    ['b', () => me.rights.includes('browse') && router.push('/read-back')],
    ['shift+?', open],
  ]);
  const count: Record<string, number> = { '/read-back': pulse.asks, '/clashes': pulse.clashes };
  return {
    inSeason,
    router,
    finder,
    asked,
    find,
    pulse,
    moveClock,
    pathname,
    count,
    open,
    setColorScheme,
    colorScheme,
    children,
    sheet,
    close,
    me,
  };
}

type Frame = ReturnType<typeof useFrame>;

/** The places, and who is at work. */
function Rail({ frame: { pathname, count, open, setColorScheme, colorScheme, me } }: { frame: Frame }) {
  return (
    <nav className={classes.rail} aria-label="Places">
      <Link href="/season" className={classes.mark}>
        Nuntiax
      </Link>
      {places
        .filter(({ right }) => me.rights.includes(right))
        .map(({ href, name }) => (
          <Link
            key={href}
            href={href}
            prefetch={href === '/people' ? false : undefined}
            className={classes.place}
            aria-current={
              pathname.startsWith(href) || (href === '/season' && pathname.startsWith('/records')) ? 'page' : undefined
            }
          >
            {name}
            {count[href] ? <b> {count[href]}</b> : null}
          </Link>
        ))}
      <div className={classes.foot}>
        <WhoIsHere me={me} />
        <button type="button" className="plainButton" onClick={open}>
          Words and keys <kbd>?</kbd>
        </button>
        <button
          type="button"
          className="plainButton"
          onClick={() => setColorScheme(colorScheme === 'dark' ? 'light' : 'dark')}
        >
          Light or dark
        </button>
      </div>
    </nav>
  );
}

/** Finding an event, the clock, and what is to send. */
function Top({ frame: { inSeason, router, finder, asked, find, pulse, moveClock, me } }: { frame: Frame }) {
  return (
    <header className={classes.top}>
      <form
        className={classes.find}
        role="search"
        onSubmit={(event) => {
          event.preventDefault();
          // In the season what is found stands there already: the first of it is opened.
          if (inSeason) document.querySelector<HTMLAnchorElement>('a[data-row]')?.click();
          else router.push(`/season?find=${encodeURIComponent(finder.current?.value ?? '')}`);
        }}
      >
        <label htmlFor="find" className="visuallyHidden">
          Find an event
        </label>
        <input
          id="find"
          ref={finder}
          defaultValue={asked}
          onChange={(event) => find(event.currentTarget.value)}
          placeholder="Find an event: title, act, room, town, tag"
          autoComplete="off"
        />
        <kbd>/</kbd>
      </form>
      <ClockFace pulse={pulse} moveClock={moveClock} />
      {me.rights.includes('write') ? (
        <Link href="/records/new" className="quietButton">
          New record
        </Link>
      ) : null}
      {me.guest ? null : (
        <Link href="/dispatch" className={`sendButton ${classes.send}`} data-none={pulse.toSend === 0 || undefined}>
          <Pennant standing={pulse.toSend > 0 ? 'due' : pulse.held > 0 ? 'refused' : 'instep'} silent /> {pulse.toSend}{' '}
          to send{pulse.toSend === 0 && pulse.held > 0 ? `, ${pulse.held} cannot go` : ''}
        </Link>
      )}
    </header>
  );
}
