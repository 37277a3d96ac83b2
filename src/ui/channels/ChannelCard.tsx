'use client';

import { TextInput } from '@mantine/core';
import { useState, useTransition, type FormEvent } from 'react';
import classes from './ChannelCard.module.css';

interface ChannelCardProps {
  id: string;
  name: string;
  trade: string;
  habits: readonly string[];
  fields: { label: string; limit: string; need: string }[];
  credentials: readonly { name: string; label: string; secret: boolean }[];
  /** The channel whose connection it uses; `null`: its own. */
  through: string | null;
  connection: { address: string; knownAs: string; since: string } | null;
  connect: (
    channel: string,
    input: { address: string; credentials: Record<string, string> },
  ) => Promise<{ ok: true; value: string } | { ok: false; error: Record<string, string> }>;
}

/** One channel: how it is connected, its habits in plain words, and the limits of its fields. */
export function ChannelCard({
  id,
  name,
  trade,
  habits,
  fields,
  credentials,
  through,
  connection,
  connect,
}: ChannelCardProps) {
  const [open, setOpen] = useState(connection === null && through === null);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [said, setSaid] = useState<string | null>(null);
  const [busy, start] = useTransition();
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const given = Object.fromEntries(credentials.map((one) => [one.name, String(form.get(one.name) ?? '')]));
    start(async () => {
      const answer = await connect(id, { address: String(form.get('address') ?? ''), credentials: given });
      setErrors(answer.ok ? {} : answer.error);
      setSaid(answer.ok ? `Connected. ${name} knows us as ${answer.value}.` : null);
      if (answer.ok) setOpen(false);
    });
  };
  return (
    <section className={classes.channel} aria-label={name}>
      <header>
        <h2>{name}</h2>
        <p>{trade}</p>
      </header>
      <div>
        <p className={classes.state} data-on={connection !== null || undefined}>
          {connection === null ? (
            'Not connected: nothing can be sent there.'
          ) : (
            <>
              Connected to <span className="code">{connection.address}</span>, known there as{' '}
              <b>{connection.knownAs}</b>, since {connection.since}.
            </>
          )}
        </p>
        {said === null ? null : <p role="status">{said}</p>}
        {open ? (
          <form onSubmit={submit} className={classes.form}>
            <TextInput
              name="address"
              label="Address"
              placeholder="https://"
              defaultValue={connection?.address ?? ''}
              error={errors.address}
            />
            {credentials.map((one) => (
              <TextInput
                key={one.name}
                name={one.name}
                label={one.label}
                type={one.secret ? 'password' : 'text'}
                autoComplete="off"
                error={errors[one.name]}
              />
            ))}
            {errors.credentials ? (
              <p className="problem" role="alert">
                {errors.credentials}
              </p>
            ) : null}
            <button type="submit" className="quietButton" disabled={busy}>
              {busy ? 'Trying …' : 'Try and keep'}
            </button>
          </form>
        ) : through === null ? (
          <button type="button" className="plainButton" onClick={() => setOpen(true)}>
            Connect anew
          </button>
        ) : (
          <p className={classes.through}>It uses the connection of {through}.</p>
        )}
        <ul className={classes.habits}>
          {habits.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
        <details>
          <summary>Its {fields.length} fields</summary>
          <table>
            <tbody>
              {fields.map((one) => (
                <tr key={one.label}>
                  <td>{one.label}</td>
                  <td>{one.limit}</td>
                  <td>{one.need}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      </div>
    </section>
  );
}
