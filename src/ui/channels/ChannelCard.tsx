'use client';

import { Select, TextInput } from '@mantine/core';
import type { Audience } from '@/core/record/record';
import { useEffect, useRef, useState, useTransition, type FormEvent } from 'react';
import classes from './ChannelCard.module.css';
import { CategoryMap, type Categories, type MapCategories } from './CategoryMap';
import { ConnectForm, type Connect } from './ConnectForm';

interface ChannelCardProps {
  channel: {
    id: string;
    name: string;
    shortName: string;
    kindName: string;
    trade: string;
    habits: readonly string[];
    fields: { label: string; limit: string; need: string }[];
    operations: { name: string; does: string; tells: string; undo: string }[];
    credentials: readonly { name: string; label: string; secret: boolean; about?: string }[];
    settingFields: readonly { name: string; label: string; about: string }[];
    settings: Record<string, unknown>;
    off: readonly string[];
    oursOnly: readonly string[];
    unties: readonly string[];
    lateCauses: readonly string[];
    locks: readonly string[];
    gives: string;
    picture: string;
    fee: string;
    pace: string;
    /** How long a change takes until it shows, as the kind says. */
    expected: string;
    /** Its own closed list of categories, and where each kind of event stands. */
    categories: Categories | null;
    steps: readonly string[];
    /** How it does: when it was read last, how long changes took, what waits. */
    health: { lastRead: string; median: string; nineInTen: string; waiting: number; pausedFor: string };
    /** Hosts that are not its own, on which it gave addresses. */
    foreign: readonly { host: string; address: string }[];
    /** Who sees what stands there. */
    audience: Audience;
    /** The channel whose connection it uses; `null`: its own. */
    through: string | null;
    connection: { address: string; knownAs: string; since: string } | null;
    /** It does not answer, since when; `long`: for more than an hour. */
    failing: { since: string; long: boolean } | null;
  };
  connect: Connect;
  sayAudience: (id: string, audience: Audience) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  disconnect: (id: string) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  bringBack: (id: string) => Promise<{ ok: true; value: { knownAs: string } } | { ok: false; error: string }>;
  mapCategories: MapCategories;
  allowHost: (id: string, host: string) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  rename: (
    id: string,
    names: { name: string; shortName: string },
  ) => Promise<{ ok: true; value: null } | { ok: false; error: Record<string, string> }>;
}

/**
 * One channel: how it is connected, its habits in plain words, the limits of its fields, and what can be done there.
 */
export function ChannelCard({
  channel,
  connect,
  disconnect,
  bringBack,
  rename,
  sayAudience,
  mapCategories,
  allowHost,
}: ChannelCardProps) {
  const { id, name, kindName, trade, habits, fields, operations, credentials, through, connection, failing } = channel;
  const [doing, setDoing] = useState<'connect' | 'rename' | 'off' | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [busy, start] = useTransition();
  // What is pressed open gets the focus; when it closes, what opened it has the focus again.
  const opener = useRef<HTMLButtonElement | null>(null);
  const panel = useRef<HTMLDivElement>(null);
  const toggle = (what: 'connect' | 'rename' | 'off', button: HTMLButtonElement) => {
    opener.current = button;
    setDoing(doing === what ? null : what);
  };
  const close = () => {
    setDoing(null);
    opener.current?.focus();
  };
  useEffect(() => {
    if (doing !== null && opener.current !== null)
      panel.current?.querySelector<HTMLElement>('input, [tabindex="-1"]')?.focus();
  }, [doing]);
  const takeOff = () =>
    start(async () => {
      const answer = await disconnect(id).catch(() => ({
        ok: false as const,
        error: 'The house did not answer. Try once more.',
      }));
      setSaid(answer.ok ? 'Taken off. What stands there stays; it can be connected again.' : answer.error);
      close();
    });
  const noAnswer = () => ({ ok: false as const, error: 'The house did not answer. Try once more.' });
  const back = () =>
    start(async () => {
      const answer = await bringBack(id).catch(noAnswer);
      setSaid(answer.ok ? `It is back, known there as ${answer.value.knownAs}.` : answer.error);
    });
  const allow = (host: string) =>
    start(async () => {
      const answer = await allowHost(id, host).catch(noAnswer);
      setSaid(answer.ok ? `${host} is allowed; what stands there is read again.` : answer.error);
    });
  return (
    <section className={classes.channel} aria-label={name}>
      <header>
        <h2>{name}</h2>
        <p>{name === kindName ? trade : `${kindName}, ${trade}`}</p>
      </header>
      <Health health={channel.health} expected={channel.expected} pace={channel.pace} failing={failing !== null} />
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
        {failing === null || connection === null ? null : (
          <p className={failing.long ? 'problem' : classes.through} role="status">
            It does not answer since {failing.since}. One errand knocks from time to time; the rest goes when it
            answers.
          </p>
        )}
        {connection === null && through === null ? (
          <p>
            <button type="button" className="quietButton" disabled={busy} onClick={back}>
              Bring {name} back
            </button>{' '}
            by the connection that it had; it is tried first.
          </p>
        ) : null}
        {channel.foreign.map(({ host, address }) => (
          <p key={host} className="problem" role="status">
            It gave an address on {host}, which is not its own, and it was passed on to nobody:{' '}
            <span className="code">{address}</span>.{' '}
            <button type="button" className="plainButton" disabled={busy} onClick={() => allow(host)}>
              Allow {host}
            </button>
          </p>
        ))}
        {said === null ? null : <p role="status">{said}</p>}
        <div ref={panel} onKeyDown={(event) => (event.key === 'Escape' ? close() : undefined)}>
          {doing === 'connect' ? (
            <ConnectForm
              which={{ id }}
              steps={channel.steps}
              credentials={credentials}
              settings={channel.settingFields.map((field) => ({
                ...field,
                value: String(channel.settings[field.name] ?? ''),
              }))}
              address={connection?.address ?? ''}
              names={null}
              connect={connect}
              onConnected={(knownAs) => {
                setSaid(`Connected. ${name} knows us as ${knownAs}.`);
                close();
              }}
            />
          ) : null}
          {doing === 'rename' ? <Rename channel={channel} rename={rename} onDone={close} /> : null}
          {doing === 'off' ? (
            <p tabIndex={-1}>
              Nothing goes to {name} any more; what stands there stays, and its history is kept.
              {channel.unties.length === 0 ? '' : ` For good: ${channel.unties.join(' ')}`}{' '}
              <button type="button" className="quietButton" disabled={busy} onClick={takeOff}>
                Take {name} off
              </button>
            </p>
          ) : null}
        </div>
        <p className={classes.tools}>
          {through === null ? (
            <>
              <button
                type="button"
                className="plainButton"
                aria-expanded={doing === 'connect'}
                onClick={(event) => toggle('connect', event.currentTarget)}
              >
                Connect anew
              </button>
              {' · '}
            </>
          ) : (
            <>It uses the connection of {through}. </>
          )}
          <button
            type="button"
            className="plainButton"
            aria-expanded={doing === 'rename'}
            onClick={(event) => toggle('rename', event.currentTarget)}
          >
            Rename
          </button>
          {through === null && connection !== null ? (
            <>
              {' · '}
              <button
                type="button"
                className="plainButton"
                aria-expanded={doing === 'off'}
                onClick={(event) => toggle('off', event.currentTarget)}
              >
                Take off
              </button>
            </>
          ) : null}
        </p>
        <Rules channel={channel} />
        {channel.categories === null ? null : (
          <CategoryMap
            key={JSON.stringify(channel.categories)}
            id={id}
            categories={channel.categories}
            keep={mapCategories}
          />
        )}
        <SeenBy id={id} audience={channel.audience} say={sayAudience} />
        <h3>Its habits</h3>
        <ul className={classes.habits}>
          {habits.map((habit) => (
            <li key={habit}>{habit}</li>
          ))}
        </ul>
        <details>
          <summary>Its {fields.length} fields</summary>
          <table>
            <tbody>
              {fields.map((field) => (
                <tr key={field.label}>
                  <td>{field.label}</td>
                  <td>{field.limit}</td>
                  <td>{field.need}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
        <details>
          <summary>What can be done there</summary>
          <table>
            <tbody>
              {operations.map((operation) => (
                <tr key={operation.name}>
                  <td>{operation.name}</td>
                  <td>{operation.does}</td>
                  <td>{[operation.tells, operation.undo].filter((words) => words !== '').join(', ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      </div>
    </section>
  );
}

/** How it does, in figures. */
function Health({
  health: { lastRead, median, nineInTen, waiting, pausedFor },
  expected,
  pace,
  failing,
}: {
  health: ChannelCardProps['channel']['health'];
  expected: string;
  pace: string;
  failing: boolean;
}) {
  return (
    <dl className={classes.health}>
      <div>
        <dt>answers</dt>
        <dd>{failing ? 'no' : lastRead === '' ? 'not read yet' : `read ${lastRead}`}</dd>
      </div>
      <div>
        <dt>a change shows in</dt>
        <dd>
          {median === '' ? `${expected}, as it says` : median}
          {nineInTen === '' ? '' : <small> 9 in 10: {nineInTen}</small>}
        </dd>
      </div>
      <div>
        <dt>pace</dt>
        <dd>
          {pace}
          {pausedFor === '' ? '' : <small> paused {pausedFor}</small>}
        </dd>
      </div>
      <div>
        <dt>waiting</dt>
        <dd>
          {waiting} {waiting === 1 ? 'errand' : 'errands'}
        </dd>
      </div>
    </dl>
  );
}

/** What it does with what we send, from its rules. */
function Rules({ channel }: { channel: ChannelCardProps['channel'] }) {
  const rows: [string, readonly string[]][] = [
    ['gives', channel.gives === '' ? [] : [`the ${channel.gives}`]],
    ['locks', channel.locks],
    ['picture', [channel.picture]],
    ['fee', channel.fee === '' ? [] : [channel.fee]],
    ['off until set', channel.off],
    ['ours alone', channel.oursOnly],
    ['late when', channel.lateCauses],
    ['taking it off unties', channel.unties],
  ];
  return (
    <>
      <h3>What it does with what we send</h3>
      <dl className={classes.rules}>
        {rows
          .filter(([, words]) => words.length > 0)
          .map(([name, words]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{words.join(' · ')}</dd>
            </div>
          ))}
      </dl>
    </>
  );
}

/** Who sees what stands on a channel, and saying otherwise: kept at once, for a group when its name is left. */
function SeenBy({ id, audience, say }: { id: string; audience: Audience; say: ChannelCardProps['sayAudience'] }) {
  const [chosen, setChosen] = useState<Audience>(audience);
  const [said, setSaid] = useState('');
  const keep = async (next: Audience) => {
    const answer = await say(id, next).catch(() => ({
      ok: false as const,
      error: 'The house did not answer. Try once more.',
    }));
    setSaid(answer.ok ? 'Kept.' : answer.error);
  };
  return (
    <div className={classes.seenBy}>
      <Select
        w={170}
        size="xs"
        label="What stands there is seen by"
        data={[
          { value: 'everyone', label: 'everyone' },
          { value: 'members', label: 'members alone' },
          { value: 'group', label: 'one group alone' },
        ]}
        value={chosen.who}
        allowDeselect={false}
        onChange={(who) => {
          const next: Audience =
            who === 'group' ? { who, name: '' } : { who: who === 'members' ? 'members' : 'everyone' };
          setChosen(next);
          setSaid('');
          if (next.who !== 'group') void keep(next);
        }}
      />
      {chosen.who === 'group' ? (
        <TextInput
          w={180}
          size="xs"
          label="Name of the group"
          value={chosen.name}
          onChange={(e) => setChosen({ who: 'group', name: e.currentTarget.value })}
          onBlur={() => void keep(chosen)}
        />
      ) : null}
      <span role="status">{said}</span>
    </div>
  );
}

function Rename({
  channel,
  rename,
  onDone,
}: {
  channel: ChannelCardProps['channel'];
  rename: ChannelCardProps['rename'];
  onDone: () => void;
}) {
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, start] = useTransition();
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    start(async () => {
      const names = { name: String(form.get('name') ?? ''), shortName: String(form.get('shortName') ?? '') };
      const answer = await rename(channel.id, names).catch(() => ({
        ok: false as const,
        error: { name: 'The house did not answer. Try once more.' },
      }));
      setErrors(answer.ok ? {} : answer.error);
      if (answer.ok) onDone();
    });
  };
  return (
    <form onSubmit={submit} className={classes.form}>
      <TextInput name="name" label="What you call it" defaultValue={channel.name} error={errors.name} />
      <TextInput
        name="shortName"
        label="In short, for columns"
        defaultValue={channel.shortName}
        error={errors.shortName}
      />
      <button type="submit" className="quietButton" disabled={busy}>
        Keep the names
      </button>
    </form>
  );
}
