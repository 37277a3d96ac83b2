'use client';

import { PasswordInput, TextInput } from '@mantine/core';
import { useState, type SyntheticEvent } from 'react';
import { goTo } from '@/ui/go-to';
import { askDoor } from './ask-door';
import classes from './Door.module.css';

/** Signs somebody in: address and password, and then the second factor where there is one. */
export function SignIn({ to }: { to: string }) {
  const [step, setStep] = useState<'password' | 'code' | 'recovery'>('password');
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const submit = async (event: SyntheticEvent<HTMLFormElement>) => {
    event.preventDefault();
    const typed = Object.fromEntries(new FormData(event.currentTarget));
    setBusy(true);
    const answer =
      step === 'password'
        ? await askDoor('sign-in', typed)
        : await askDoor('second', { code: typed.code, recovery: step === 'recovery' });
    setBusy(false);
    if (!answer.ok) return setErrors(answer.errors);
    setErrors({});
    if ((answer.told as { next?: string } | null)?.next === 'second') setStep('code');
    else goTo(to);
  };
  return (
    <main className={classes.door}>
      <form className={classes.box} onSubmit={(event) => void submit(event)} key={step}>
        <div className={classes.mark}>Nuntiax</div>
        {step === 'password' ? (
          <>
            <h1>Sign in</h1>
            <TextInput name="email" type="email" label="Your address" autoComplete="username" autoFocus required />
            <PasswordInput
              name="password"
              label="Password"
              autoComplete="current-password"
              required
              error={errors.password}
            />
          </>
        ) : (
          <>
            <h1>Second factor</h1>
            <TextInput
              name="code"
              label={step === 'code' ? 'The six digits that your authenticator shows' : 'One of your recovery codes'}
              inputMode={step === 'code' ? 'numeric' : 'text'}
              autoComplete="one-time-code"
              autoFocus
              required
              error={errors.code}
            />
          </>
        )}
        {errors[''] ? (
          <p role="alert" className={classes.said}>
            {errors['']}
          </p>
        ) : null}
        <button type="submit" className="sendButton" disabled={busy}>
          {step === 'password' ? 'Sign in' : 'Go on'}
        </button>
        {step === 'password' ? (
          <p>Only who was let in signs in here. Somebody who keeps this house can let you in, or in anew.</p>
        ) : (
          <p>
            <button
              type="button"
              className="plainButton"
              onClick={() => setStep(step === 'code' ? 'recovery' : 'code')}
            >
              {step === 'code' ? 'I have a recovery code instead' : 'I have my authenticator after all'}
            </button>
            {' · '}
            <button type="button" className="plainButton" onClick={() => setStep('password')}>
              Begin again
            </button>
          </p>
        )}
      </form>
    </main>
  );
}
