'use client';

import { Fields } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { useState, useTransition } from 'react';
import classes from './ChannelCard.module.css';
import { noAnswer, type ChannelCardProps } from './channel-card-props';
import { CategoryMap } from './CategoryMap';
import { ChannelDoings } from './ChannelDoings';
import { Habits, Health, Rules } from './ChannelFacts';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { Leave } from './Leave';
import { SeenBy } from './SeenBy';
import { FeedAddress } from '@/ui/subscribe';

const HandRulesForm = dynamic(() =>
  import('@/ui/by-hand/HandRulesForm').then(({ HandRulesForm }) => HandRulesForm, notFetched),
);

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
        {channel.feed === null ? null : <Feed {...props} feed={channel.feed} onSaid={setSaid} />}
        {said === null ? null : <p role="status">{said}</p>}
        {keeps ? <ChannelDoings {...props} onSaid={setSaid} /> : null}
        <Rules channel={channel} />
        <Fields open={keeps}>
          {channel.kind === 'by-hand' ? (
            <HandRulesForm key={id} id={id} name={name} settings={channel.settings} keep={props.keepHandRules} />
          ) : null}
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

/** The address under which it is read, and another in its place. */
function Feed({
  channel: { id, name, audience },
  feed,
  renewFeed,
  onSaid,
}: ChannelCardProps & { feed: string; onSaid: (words: string) => void }) {
  const keeps = useMay('keep');
  const [sure, setSure] = useState(false);
  const [busy, start] = useTransition();
  const renew = () =>
    start(async () => {
      const answer = await renewFeed(id).catch(noAnswer);
      onSaid(answer.ok ? 'It has another address: the old one leads nowhere.' : answer.error);
      setSure(false);
    });
  return (
    <>
      <FeedAddress feed={{ id, name, holds: '', address: feed, forAll: audience.who === 'everyone' }} />
      {!keeps ? null : sure ? (
        <p>
          Whoever subscribed gets nothing any more and is told by nobody.{' '}
          <button type="button" className="quietButton" disabled={busy} onClick={renew}>
            Give it another address
          </button>{' '}
          <button type="button" className="plainButton" onClick={() => setSure(false)}>
            Leave it
          </button>
        </p>
      ) : (
        <p>
          <button type="button" className="plainButton" onClick={() => setSure(true)}>
            Another address
          </button>
        </p>
      )}
    </>
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
      onSaid(
        !answer.ok
          ? answer.error
          : answer.value.knownAs === ''
            ? 'It is back.'
            : `It is back, known there as ${answer.value.knownAs}.`,
      );
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
            {channel.ours ? (
              channel.feed === null ? (
                'A person fills it in'
              ) : (
                'It lies at our own house'
              )
            ) : (
              <>
                Connected to <span className="code">{connection.address}</span>
              </>
            )}
            {connection.knownAs === '' ? null : (
              <>
                , known there as <b>{connection.knownAs}</b>
              </>
            )}
            , since {connection.since}.
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
