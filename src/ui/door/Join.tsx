'use client';

import { PasswordInput, TextInput } from '@mantine/core';
import { useEffect, useState, type SyntheticEvent } from 'react';
import { leastPassword } from '@/core/people/password-length';
import { goTo } from '@/ui/go-to';
import { askDoor, type DoorAnswer } from './ask-door';
import classes from './Door.module.css';

interface WayIn {
  sort: 'first' | 'new' | 'again';
  name: string;
  email: string;
  role: string;
  by: string;
}

/** Comes in by a code: it is looked at first, so that one sees what it is for before giving a password. */
export function Join() {
  const [code, setCode] = useState('');
  const [way, setWay] = useState<WayIn | null>(null);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const asked = async (work: Promise<DoorAnswer>, then: (told: unknown) => void) => {
    setBusy(true);
    const answer = await work;
    setBusy(false);
    setErrors(answer.ok ? {} : answer.errors);
    if (answer.ok) then(answer.told);
  };
  const look = (given: string) => asked(askDoor('look', { code: given }), (told) => setWay(told as WayIn));
  useEffect(() => {
    // The code stands behind the # of the link: no server and no log is told it by following the link.
    const given = decodeURIComponent(window.location.hash.slice(1));
    if (given === '') return;
    // Once, when the page is opened.
    const timer = setTimeout(() => {
      setCode(given);
      void look(given);
    });
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const submit = (event: SyntheticEvent<HTMLFormElement>) => {
    event.preventDefault();
    const typed = Object.fromEntries(new FormData(event.currentTarget));
    if (way === null) return void look(code);
    const given = { name: way.name, email: way.email, ...typed, code };
    void asked(askDoor('join', given), (told) =>
      (told as { next?: string } | null)?.next === 'second' ? goTo('/sign-in') : goTo('/you'),
    );
  };
  return (
    <main className={classes.door}>
      <form className={classes.box} onSubmit={submit}>
        <div className={classes.mark}>Nuntiax</div>
        {way === null ? (
          <>
            <h1>Come in by a code</h1>
            <TextInput
              label="The code that you were given"
              value={code}
              onChange={(e) => setCode(e.currentTarget.value)}
              error={errors.code}
              required
              autoFocus
              autoComplete="off"
              classNames={{ input: classes.secret }}
            />
          </>
        ) : (
          <Given way={way} errors={errors} />
        )}
        {errors[''] ? (
          <p role="alert" className={classes.said}>
            {errors['']}
          </p>
        ) : null}
        <button type="submit" className="sendButton" disabled={busy}>
          {way === null ? 'Look at it' : 'Come in'}
        </button>
      </form>
    </main>
  );
}

/** What a code is for, and what is still to be said. */
function Given({ way, errors }: { way: WayIn; errors: Record<string, string> }) {
  return (
    <>
      <h1>
        {way.sort === 'first'
          ? 'You are the first: you keep this house'
          : way.sort === 'new'
            ? `${way.by} lets you in as ${way.role}`
            : `${way.name}, come in anew`}
      </h1>
      {way.sort === 'again' ? (
        <p>A new password takes the place of the old one, and the second factor is off until you set one up again.</p>
      ) : (
        <TextInput
          name="name"
          label="Your name, as the book is to say it"
          defaultValue={way.name}
          error={errors.name}
          required
          autoComplete="name"
        />
      )}
      {way.sort === 'first' ? (
        <TextInput
          name="email"
          type="email"
          label="Your address"
          error={errors.email}
          required
          autoComplete="username"
        />
      ) : (
        <TextInput label="Your address" value={way.email} readOnly error={errors.email} autoComplete="username" />
      )}
      <PasswordInput
        name="password"
        label={`A password of ${leastPassword} characters or more`}
        description="Several words that have nothing to do with each other are best."
        autoComplete="new-password"
        error={errors.password}
        required
      />
      {errors.code ? (
        <p role="alert" className={classes.said}>
          {errors.code}
        </p>
      ) : null}
    </>
  );
}
