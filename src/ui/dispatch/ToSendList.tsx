'use client';

import { noAnswer } from '@/ui/no-answer';
import type { RecordId } from '@/core/base/ids';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { tellsNothingNew } from '@/core/listing/operations';
import { DateBlock } from '@/ui/date-block';
import { DriftTable, Said, type Answer, type Decisions } from '@/ui/drift/DriftTable';
import type { ErrandToSend, EventToSend } from '@/views/dispatch';
import classes from './Dispatch.module.css';
import { Behind, Errand, Freed, Held, Listing, Refused } from './ToSendRows';
import { isWhole, WayPicker, type Picked } from './WayPicker';

interface ToSendListProps {
  events: EventToSend[];
  /** Year of today. */
  year: number;
  /** Zone of the house, for when something was read. */
  zone: string;
  /** Only one record's errands are listed; leads back to all. */
  narrowed: boolean;
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

/**
 * What is to be sent: by event, before and after by field. Take out what should wait, pick a way where something is
 * locked, then send the rest.
 */
export function ToSendList({
  events,
  year,
  narrowed,
  nothing,
  send,
  decide,
  keepDraft,
  decideErrand,
}: ToSendListProps) {
  const router = useRouter();
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const [ways, setWays] = useState<Record<string, Picked>>({});
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set());
  const [besides, setBesides] = useState<ReadonlySet<string>>(new Set());
  const [most, setMost] = useState(shownAtFirst);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [said, setSaid] = useState<Answer | null>(null);
  const errands = events.flatMap((event) => event.errands);
  const chosen = errands.filter((errand) => tickedFirst(errand) !== out.has(errand.listing));
  const needs = new Map(
    events.flatMap((event) => event.locked.map((lockedToSend) => [lockedToSend.listing as string, lockedToSend.ways])),
  );
  const picked = Object.entries(ways).filter(([id, item]) => isWhole(item, needs.get(id) ?? []));
  const decided = new Set(picked.map(([listing]) => listing));
  // What waited for nothing but these decisions goes along, and what goes behind an errand that is under way.
  const freed = events
    .flatMap((event) => event.held)
    .filter(
      (heldToSend) =>
        heldToSend.freedBy.length > 0 &&
        heldToSend.freedBy.every((id) => decided.has(id)) &&
        !out.has(heldToSend.listing),
    );
  const behind = events
    .flatMap((event) => event.busy)
    .filter((candidate) => candidate.more && !out.has(candidate.listing));
  const listings = [...chosen, ...freed, ...behind].map((item) => item.listing as string);
  const count = new Set([...listings, ...decided]).size;
  const undecided = events
    .flatMap((event) => event.locked)
    .filter((lockedToSend) => !decided.has(lockedToSend.listing));
  // A way was picked for each, and something that it asks for is missing.
  const unfilled = undecided.every((lockedToSend) => ways[lockedToSend.listing] !== undefined);
  const all =
    errands.length +
    events.flatMap((event) => [...event.locked, ...event.held.filter((heldToSend) => heldToSend.freedBy.length > 0)])
      .length +
    events.flatMap((event) => event.busy).filter((candidate) => candidate.more).length;
  // Of what is chosen: what was taken out need not be acknowledged.
  const unseen = chosen.flatMap((errandToSend) => errandToSend.unseen);
  const acknowledged = unseen.length > 0 && unseen.every((key) => seen.has(key));
  const acknowledge = () => {
    const next = new Set(seen);
    for (const key of unseen)
      if (acknowledged) next.delete(key);
      else next.add(key);
    setSeen(next);
    setProblem(null);
  };
  const flip = (listing: string) => setOut(flipped(out, listing));
  const go = async () => {
    setBusy(true);
    const failed = {
      ok: false as const,
      error: 'The house did not answer: nothing was sent, or it is on its way. Look at the earlier dispatches below.',
    };
    const answer = await send({
      listings,
      ways: Object.fromEntries(picked),
      seen: [...seen],
      effects: Object.fromEntries(
        chosen.map((errandToSend): [string, string[]] => [
          errandToSend.listing,
          errandToSend.effects.filter(({ id }) => besides.has(`${errandToSend.listing} ${id}`)).map(({ id }) => id),
        ]),
      ),
    }).catch(() => failed);
    if (answer.ok && answer.value !== '') return router.push(`/dispatch/${answer.value}`);
    if (answer.ok) {
      setBusy(false);
      setWays({});
      setSaid({ ok: true, value: 'It stays as it is there, by your word; what waited for that goes on.' });
      return router.refresh();
    }
    setBusy(false);
    setProblem(answer.error);
    return undefined;
  };
  const draft = async (recordId: RecordId, channel: string) => {
    setBusy(true);
    setProblem(await keepDraft(recordId, channel, true).catch(() => noAnswer));
    setBusy(false);
    router.refresh();
  };
  const pick = (listing: string, item: Picked | null) => {
    const { [listing]: _before, ...rest } = ways;
    setWays(item === null ? rest : { ...rest, [listing]: item });
  };
  // What has a moment of its own is on top, the nearest first; an event of which nothing else is to say is not said
  // twice.
  const moments = events
    .flatMap((event) => event.errands.filter((errand) => errand.ownMoment).map((errand) => ({ event, errand })))
    .sort((a, b) => (a.errand.notBefore ?? 0) - (b.errand.notBefore ?? 0));
  const rest = events.filter(
    ({ errands: mine, locked, asks, held, busy: under }) =>
      mine.some((errandToSend) => !errandToSend.ownMoment) ||
      locked.length + asks.length + held.length + under.length > 0,
  );
  const errandOf = (event: EventToSend, errandToSend: ErrandToSend) => (
    <Errand
      key={errandToSend.listing}
      errand={errandToSend}
      zone={event.zone}
      chosen={chosen.includes(errandToSend)}
      onFlip={() => flip(errandToSend.listing)}
      besides={besides}
      onBesides={(key) => setBesides(flipped(besides, key))}
      without={errandToSend.orDraft !== null && seen.has(errandToSend.orDraft.without)}
      onWithout={() => errandToSend.orDraft && setSeen(flipped(seen, errandToSend.orDraft.without))}
      onDraft={() => void draft(event.recordId, errandToSend.channel)}
    />
  );
  return (
    <>
      <div className={classes.list}>
        <Said answer={said} />
        {nothing === null ? null : (
          <p className={classes.empty}>
            Nothing is to send{narrowed ? ' for this event' : ''}: {nothingWords[nothing]}
          </p>
        )}
        {moments.length === 0 ? null : (
          <section className={classes.moments} aria-label="Waits for your yes">
            <h2>Waits for your yes</h2>
            <p className={classes.wait}>
              What has a moment of its own goes at that moment by itself, once it was said yes to.
            </p>
            {moments.map(({ event, errand }) => (
              <div key={errand.listing}>
                <Link href={`/records/${event.recordId}`}>{event.title}</Link>
                {errandOf(event, errand)}
              </div>
            ))}
          </section>
        )}
        {rest.slice(0, most).map((event) => (
          <section key={event.recordId} className={classes.event} aria-label={event.title}>
            <DateBlock date={event.date ?? ''} thisYear={year} />
            <div>
              <h2>
                <Link href={`/records/${event.recordId}`}>{event.title}</Link>{' '}
                <span className="code">{event.code}</span>
              </h2>
              {event.errands.some((errand) => !tellsNothingNew(errand.op)) || event.locked.length > 0
                ? event.clashes.map((clash) => (
                    <label key={clash.key} className={classes.seen}>
                      <input
                        type="checkbox"
                        checked={seen.has(clash.key)}
                        onChange={() => setSeen(flipped(seen, clash.key))}
                      />
                      <span>{clash.words} I have seen it.</span>
                    </label>
                  ))
                : null}
              {event.errands.filter((errand) => !errand.ownMoment).map((errand) => errandOf(event, errand))}
              {event.locked.map((lockedToSend) => (
                <Listing
                  key={lockedToSend.listing}
                  channel={lockedToSend.channel}
                  part={lockedToSend.part}
                  standing="due"
                  says={lockedToSend.ways.length > 1 ? 'is locked there: pick a way' : 'is locked there'}
                >
                  <WayPicker
                    {...lockedToSend}
                    eventCode={event.code}
                    eventDate={event.date}
                    picked={ways[lockedToSend.listing] ?? null}
                    onPick={(next) => pick(lockedToSend.listing, next)}
                  />
                </Listing>
              ))}
              {event.asks.map((asking) => (
                <Listing
                  key={asking.listing}
                  channel={asking.channel}
                  part={asking.part}
                  standing={asking.standing}
                  says={asking.refused ? 'was refused' : 'waits for your decision'}
                >
                  <div className={classes.asks}>
                    {asking.refused ? <Refused refused={asking.refused} decide={decideErrand} /> : null}
                    <DriftTable listing={asking} decide={decide} onSaid={setSaid} />
                  </div>
                </Listing>
              ))}
              {event.busy
                .filter((candidate) => candidate.more)
                .map((item) => (
                  <Behind
                    key={item.listing}
                    channel={item.channel}
                    chosen={!out.has(item.listing)}
                    onFlip={() => flip(item.listing)}
                  />
                ))}
              {event.held.map((heldToSend) =>
                heldToSend.freedBy.length === 0 ? (
                  <Listing
                    key={heldToSend.listing}
                    channel={heldToSend.channel}
                    part=""
                    standing="unplaced"
                    says="cannot go yet"
                  >
                    <Held {...heldToSend} />
                  </Listing>
                ) : (
                  <Freed
                    key={heldToSend.listing}
                    held={heldToSend}
                    ready={heldToSend.freedBy.every((id) => decided.has(id))}
                    chosen={freed.includes(heldToSend)}
                    onFlip={() => flip(heldToSend.listing)}
                  />
                ),
              )}
              {event.takenOff.length === 0 ? null : (
                <p className={classes.wait}>
                  Taken off: {event.takenOff.length === 1 ? 'one post' : `${event.takenOff.length} posts`} planned
                  before it was {event.takenOff[0]?.turn}. Put back what still fits in{' '}
                  <Link href={`/records/${event.recordId}`}>its record</Link>, under Words.
                </p>
              )}
            </div>
          </section>
        ))}
        {rest.length > most ? (
          <button type="button" className="plainButton" onClick={() => setMost(most + 200)}>
            Show more: {rest.length - most} further events
          </button>
        ) : null}
      </div>
      {all > 0 ? (
        <div className={classes.bar} role="region" aria-label="Send">
          <p>
            {problem === null ? (
              <>
                {undecided.length === 0 ? null : (
                  <>
                    {undecided.length === 1 ? 'One thing is' : `${undecided.length} things are`} locked:{' '}
                    {unfilled ? 'fill in what the way asks for' : 'pick a way, or say that it stays'}. Until then
                    nothing else of that event goes.{' '}
                  </>
                )}
                <b>{count}</b> of {all} {all === 1 ? 'errand' : 'errands'} chosen. Links first, the rest beside each
                other.
              </>
            ) : (
              <span role="alert">{problem}</span>
            )}
          </p>
          {unseen.length > 0 ? (
            <label className={classes.acknowledge}>
              <input type="checkbox" checked={acknowledged} onChange={acknowledge} />
              <span>I have seen the {unseen.length === 1 ? 'warning' : `${unseen.length} warnings`} above</span>
            </label>
          ) : null}
          <button type="button" className="sendButton" disabled={busy || count === 0} onClick={() => void go()}>
            {count > 0 && picked.length === count && picked.every(([, item]) => item.way === 'leave')
              ? 'Keep as decided'
              : `Send ${count} ${count === 1 ? 'errand' : 'errands'}`}
          </button>
        </div>
      ) : null}
    </>
  );
}

function flipped(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}

/**
 * Whether an errand is chosen before anybody chose: what waits for a moment and what tells everybody goes only when
 * asked for.
 */
function tickedFirst({ notBefore, tells, op }: ErrandToSend): boolean {
  return (
    notBefore === null && !((op === 'place' || op === 'correct') && (tells === 'followers' || tells === 'subscribers'))
  );
}
