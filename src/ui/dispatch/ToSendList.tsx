'use client';

import { Fields } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import { groupBy } from '@/core/base/group-by';
import type { RecordId } from '@/core/base/ids';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Said, type Answer, type Decisions } from '@/ui/drift/DriftTable';
import type { EventToSend } from '@/views/dispatch';
import { byTour } from './by-change';
import { ChooseBy } from './ChooseBy';
import classes from './Dispatch.module.css';
import { EventErrand, EventSection } from './EventSection';
import type { Picked } from './picked';
import { SendBar } from './SendBar';
import { TourSection } from './TourSection';
import { useChoices } from './use-choices';

interface ToSendListProps {
  events: EventToSend[];
  /** Year of today. */
  year: number;
  /** Only one record's errands are listed; leads back to all. */
  narrowed: boolean;
  /** How many errands of other events are to send. */
  others: number;
  /** Why there is nothing to send. */
  nothing: keyof typeof nothingWords | null;
  /** Makes a dispatch of what was chosen; gives its id, or what went wrong. */
  send: (input: {
    listings: string[];
    ways: Record<string, Picked>;
    seen: string[];
    effects: Record<string, string[]>;
  }) => Promise<{ ok: true; value: string } | { ok: false; error: string }>;
  decide: Decisions;
  /** Keeps an event a draft on a channel. */
  keepDraft: (recordId: RecordId, channel: string, on: boolean) => Promise<string | null>;
  /** Tries a refused errand again, or drops it. */
  decideErrand: (errandId: number, verdict: 'again' | 'drop') => Promise<string | null>;
}

const nothingWords = {
  gone: 'this event is not there any more.',
  private: 'it is private, and never leaves the house. Make it public or unlisted in its record, under Publicity.',
  nowhere: 'no channel is to show it as it stands. The proof in its record says why.',
  'no-channels': 'no channel is connected yet. Connect one under Channels.',
  underway: 'what was sent is on its way, or not read back yet.',
  'in-step': 'every channel has what the records say.',
} as const;

const shownAtFirst = 40;

const unanswered = {
  ok: false,
  error: 'The house did not answer: nothing was sent, or it is on its way. Look at the earlier dispatches below.',
} as const;

/**
 * What is to be sent: by event, before and after by field. Remove what should wait, pick a way where something is
 * locked, then send the rest.
 */
export function ToSendList(props: ToSendListProps) {
  const { events, year, narrowed, nothing, send, decide, keepDraft, decideErrand } = props;
  const router = useRouter();
  const choices = useChoices(events);
  const [most, setMost] = useState(shownAtFirst);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [said, setSaid] = useState<Answer | null>(null);
  const go = async () => {
    setBusy(true);
    const { listings, picked, seen, effects } = choices;
    const wish = { listings, ways: Object.fromEntries(picked), seen: [...seen], effects };
    const answer = await send(wish).catch(() => unanswered);
    if (answer.ok) choices.went(listings);
    if (answer.ok && answer.value !== '') return router.push(`/dispatch/${answer.value}`);
    setBusy(false);
    if (!answer.ok) return setProblem(answer.error);
    choices.forgetWays();
    setSaid({ ok: true, value: 'It stays as it is there, by your word; what waited for that goes on.' });
    return router.refresh();
  };
  const draft = async (recordId: RecordId, channel: string) => {
    setBusy(true);
    setProblem(await keepDraft(recordId, channel, true).catch(() => noAnswer));
    setBusy(false);
    router.refresh();
  };
  const propsOf = (event: EventToSend) => ({
    event,
    choices,
    onDraft: (channel: string) => void draft(event.recordId, channel),
  });
  const rest = events.filter(saysMore);
  const titles = groupBy(rest, (event) => event.title);
  const sends = useMay('send');
  return (
    <>
      <div className={classes.list}>
        <Said answer={said} />
        {sends ? <ChooseBy events={events} choices={choices} /> : null}
        {nothing === null ? null : (
          <p className={classes.empty}>
            Nothing is to send{narrowed ? ' for this event' : ''}: {nothingWords[nothing]}
          </p>
        )}
        <Fields open={sends}>
          <Moments events={events} propsOf={propsOf} />
          {byTour(rest.slice(0, most)).map((item) =>
            'events' in item ? (
              <TourSection key={item.events[0]?.recordId} group={item} choices={choices} />
            ) : (
              <EventSection
                key={item.recordId}
                {...propsOf(item)}
                year={year}
                alone={titles.get(item.title)?.length === 1}
                decide={decide}
                decideErrand={decideErrand}
                onSaid={setSaid}
              />
            ),
          )}
        </Fields>
        <More left={rest.length - most} onMore={() => setMost(most + 200)} />
        <Others count={props.others} />
      </div>
      <SendBar
        choices={choices}
        busy={busy}
        problem={problem}
        onAcknowledge={() => {
          choices.acknowledge(choices.unseen, !choices.acknowledged);
          setProblem(null);
        }}
        onSend={() => void go()}
      />
    </>
  );
}

/** What waits beside the events of this page. */
function Others({ count }: { count: number }) {
  if (count === 0) return null;
  return (
    <p className={classes.wait}>
      <Link href="/dispatch">The rest of the season</Link>: {count} to send, not shown and not sent from here.
    </p>
  );
}

function More({ left, onMore }: { left: number; onMore: () => void }) {
  if (left <= 0) return null;
  return (
    <button type="button" className="plainButton" onClick={onMore}>
      Show more: {left} further events
    </button>
  );
}

/** True where something else is to say of an event than what has a moment of its own. */
function saysMore({ errands, locked, asks, held, busy }: EventToSend): boolean {
  return errands.some((errand) => !errand.ownMoment) || locked.length + asks.length + held.length + busy.length > 0;
}

/** What has a moment of its own, the nearest first. */
function Moments({
  events,
  propsOf,
}: {
  events: readonly EventToSend[];
  propsOf: (event: EventToSend) => Omit<Parameters<typeof EventErrand>[0], 'errand'>;
}) {
  const moments = events
    .flatMap((event) => event.errands.filter((errand) => errand.ownMoment).map((errand) => ({ event, errand })))
    .sort((a, b) => (a.errand.notBefore ?? 0) - (b.errand.notBefore ?? 0));
  const title = useMay('send') ? 'Waits for your yes' : 'Waits for a yes';
  if (moments.length === 0) return null;
  return (
    <section className={classes.moments} aria-label={title}>
      <h2>{title}</h2>
      <p className={classes.wait}>
        What has a moment of its own goes at that moment by itself, once it was said yes to.
      </p>
      {moments.map(({ event, errand }) => (
        <div key={errand.listing}>
          <Link href={`/records/${event.recordId}`}>{event.title}</Link>
          <EventErrand errand={errand} {...propsOf(event)} />
        </div>
      ))}
    </section>
  );
}
