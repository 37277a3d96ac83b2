'use client';

import { PasswordInput, TextInput } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState, type SyntheticEvent } from 'react';
import { fail } from '@/core/base/result';
import { noAnswer } from '@/ui/no-answer';
import { useMe } from '@/ui/may/May';
import { SessionList } from '@/ui/people/SessionList';
import type { Result } from '@/core/base/result';
import type { OwnView } from '@/views/people';
import { goTo } from '@/ui/go-to';
import { askDoor } from './ask-door';
import classes from './You.module.css';
import door from './Door.module.css';

interface YouProps {
  own: OwnView;
  zone: string;
  /** Ends a session of a person; `null`: all of them. */
  endSession: (personId: string, session: string | null) => Promise<Result<null, string>>;
}

/** Oneself: the role, the second factor, the password, and where one is signed in. */
export function You({ own, zone, endSession }: YouProps) {
  const router = useRouter();
  const me = useMe();
  const leave = async () => {
    await askDoor('sign-out', {});
    goTo('/sign-in');
  };
  return (
    <div className={classes.page}>
      <header className={classes.head}>
        <h1>{own.name}</h1>
        <p>
          {own.email} · {own.role}
          {own.only === null ? '' : ', for some events alone'}
        </p>
        {own.signsIn ? (
          <button type="button" className="quietButton" onClick={() => void leave()}>
            Sign out
          </button>
        ) : null}
      </header>
      {own.signsIn ? (
        <>
          <SecondFactor on={own.secondFactor} needed={own.role === 'keeper'} />
          <Password />
          <section className={classes.part}>
            <h2>Where you are signed in</h2>
            <SessionList
              sessions={own.sessions}
              zone={zone}
              end={async (session) => {
                const answer = await endSession(own.id, session).catch(() => fail(noAnswer));
                if (answer.ok) router.refresh();
                return answer.ok ? null : answer.error;
              }}
            />
          </section>
        </>
      ) : (
        <p>
          {me.others === null
            ? 'You have no password here.'
            : 'The demo signed you in by itself: there is no password to change. At the foot of the places you change to somebody else.'}
        </p>
      )}
    </div>
  );
}

interface Started {
  picture: string;
  secret: string;
  recovery: string[];
}

/** Sets up a second factor: the password first, then the authenticator, then the codes that are kept on paper. */
function SecondFactor({ on, needed }: { on: boolean; needed: boolean }) {
  const [started, setStarted] = useState<Started | null>(null);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const submit = async (event: SyntheticEvent<HTMLFormElement>) => {
    event.preventDefault();
    const typed = Object.fromEntries(new FormData(event.currentTarget));
    const answer = await askDoor(started === null ? 'factor' : 'confirm', typed);
    setErrors(answer.ok ? {} : answer.errors);
    if (!answer.ok) return;
    if (started === null) setStarted(answer.told as Started);
    else goTo('/you');
  };
  return (
    <section className={classes.part}>
      <h2>Second factor</h2>
      {on ? (
        <p>It is on: your authenticator is asked for at every sign-in.</p>
      ) : (
        <form className={classes.form} onSubmit={(event) => void submit(event)}>
          {started === null ? (
            <>
              <p>
                {needed
                  ? 'Whoever keeps the house has one: until it is on, channels and people cannot be changed.'
                  : 'With an authenticator on your telephone a password alone is not enough to sign in as you.'}
              </p>
              <PasswordInput
                name="password"
                label="Your password, once more"
                error={errors.password}
                required
                autoComplete="current-password"
              />
              <button type="submit" className="sendButton">
                Set one up
              </button>
            </>
          ) : (
            <>
              <p>Read this with your authenticator, or type the letters below it there.</p>
              {/* eslint-disable-next-line @next/next/no-img-element */}
              <img
                className={door.picture}
                alt="The secret as a picture for the authenticator"
                src={`data:image/svg+xml;utf8,${encodeURIComponent(started.picture)}`}
              />
              <code className={door.secret}>{started.secret}</code>
              <p>
                Write these down and keep them apart: each lets you in once without the authenticator. They are not
                shown again.
              </p>
              <ul className={door.codes} aria-label="Recovery codes">
                {started.recovery.map((code) => (
                  <li key={code}>{code}</li>
                ))}
              </ul>
              <TextInput
                name="code"
                label="The six digits that it shows now"
                inputMode="numeric"
                autoComplete="one-time-code"
                error={errors.code}
                required
              />
              <button type="submit" className="sendButton">
                Turn it on
              </button>
            </>
          )}
          {errors[''] ? (
            <p role="alert" className={door.said}>
              {errors['']}
            </p>
          ) : null}
        </form>
      )}
    </section>
  );
}

/** Changes the password; everywhere else one is signed out by that. */
function Password() {
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [done, setDone] = useState(false);
  const submit = async (event: SyntheticEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    const answer = await askDoor('password', Object.fromEntries(new FormData(form)));
    setErrors(answer.ok ? {} : answer.errors);
    setDone(answer.ok);
    if (answer.ok) form.reset();
  };
  return (
    <section className={classes.part}>
      <h2>Password</h2>
      <form className={classes.form} onSubmit={(event) => void submit(event)}>
        <PasswordInput
          name="now"
          label="The one that you have"
          error={errors.now}
          required
          autoComplete="current-password"
        />
        <PasswordInput name="next" label="The new one" error={errors.next} required autoComplete="new-password" />
        <button type="submit" className="quietButton">
          Change it
        </button>
        <p role="status">{done ? 'Changed. Everywhere else you are signed out.' : (errors[''] ?? '')}</p>
      </form>
    </section>
  );
}
