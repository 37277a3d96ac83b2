'use client';

import { Fields } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { useState, useTransition } from 'react';
import classes from './ChannelCard.module.css';
import { noAnswer, type ChannelCardProps } from './channel-card-props';
import { CategoryMap } from './CategoryMap';
import { ChannelDoings } from './ChannelDoings';
import { Habits, Health, Rules } from './ChannelFacts';
import { Leave } from './Leave';
import { SeenBy } from './SeenBy';

/**
 * One channel: how it is connected, its habits in plain words, the limits of its fields, and what can be done there.
 */
export function ChannelCard(props: ChannelCardProps) {
  const { channel, sayAudience, mapCategories, giveLeave } = props;
  const { id, name, kindName, trade, categories } = channel;
  const [said, setSaid] = useState<string | null>(null);
  const keeps = useMay('keep');
  return (
    <section className={classes.channel} aria-label={name}>
      <header>
        <h2>{name}</h2>
        <p>{name === kindName ? trade : `${kindName}, ${trade}`}</p>
      </header>
      <Health
        health={channel.health}
        expected={channel.expected}
        pace={channel.pace}
        failing={channel.failing !== null}
      />
      <div>
        <ConnectionState {...props} onSaid={setSaid} />
        {said === null ? null : <p role="status">{said}</p>}
        {keeps ? <ChannelDoings {...props} onSaid={setSaid} /> : null}
        <Rules channel={channel} />
        <Fields open={keeps}>
          {categories === null ? null : (
            <CategoryMap key={JSON.stringify(categories)} id={id} categories={categories} keep={mapCategories} />
          )}
          <SeenBy id={id} audience={channel.audience} say={sayAudience} />
          <Leave id={id} given={channel.standingLeave} give={giveLeave} />
        </Fields>
        <Habits channel={channel} />
      </div>
    </section>
  );
}

/** How it is connected, what is wrong with that, and what can be done about it at once. */
function ConnectionState({
  channel,
  bringBack,
  allowHost,
  onSaid,
}: ChannelCardProps & { onSaid: (words: string) => void }) {
  const { id, name, through, connection, failing, foreign } = channel;
  const keeps = useMay('keep');
  const [busy, start] = useTransition();
  const back = () =>
    start(async () => {
      const answer = await bringBack(id).catch(noAnswer);
      onSaid(answer.ok ? `It is back, known there as ${answer.value.knownAs}.` : answer.error);
    });
  const allow = (host: string) =>
    start(async () => {
      const answer = await allowHost(id, host).catch(noAnswer);
      onSaid(answer.ok ? `${host} is allowed; what stands there is read again.` : answer.error);
    });
  return (
    <>
      <p className={classes.state} data-on={connection !== null || undefined}>
        {connection === null ? (
          'Not connected: nothing can be sent there.'
        ) : (
          <>
            Connected to <span className="code">{connection.address}</span>, known there as <b>{connection.knownAs}</b>,
            since {connection.since}.
          </>
        )}
      </p>
      {failing === null || connection === null ? null : (
        <p className={failing.long ? 'problem' : classes.through} role="status">
          It does not answer since {failing.since}. One errand knocks from time to time; the rest goes when it answers.
        </p>
      )}
      {keeps && connection === null && through === null ? (
        <p>
          <button type="button" className="quietButton" disabled={busy} onClick={back}>
            Bring {name} back
          </button>{' '}
          by the connection that it had; it is tried first.
        </p>
      ) : null}
      {foreign.map(({ host, address }) => (
        <p key={host} className="problem" role="status">
          It gave an address on {host}, which is not its own, and it was passed on to nobody:{' '}
          <span className="code">{address}</span>.{' '}
          {keeps ? (
            <button type="button" className="plainButton" disabled={busy} onClick={() => allow(host)}>
              Allow {host}
            </button>
          ) : null}
        </p>
      ))}
    </>
  );
}
