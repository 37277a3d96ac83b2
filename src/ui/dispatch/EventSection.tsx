import Link from 'next/link';
import { tellsNothingNew } from '@/core/listing/operations';
import { DateBlock } from '@/ui/date-block';
import { DriftTable, type Answer, type Decisions } from '@/ui/drift/DriftTable';
import type { ErrandToSend, EventToSend } from '@/views/dispatch';
import { byChange } from './by-change';
import { ChangeRow, sharedMoment } from './ChangeRow';
import classes from './Dispatch.module.css';
import { Errand } from './Errand';
import { Behind, Freed, Held, Listing, Refused } from './ToSendRows';
import { isFreed, type Choices } from './use-choices';
import { WayPicker } from './WayPicker';

interface EventProps {
  event: EventToSend;
  choices: Choices;
  /** Keeps the event a draft on a channel. */
  onDraft: (channel: string) => void;
}

/** One errand of an event, with what is chosen of it. */
export function EventErrand({
  event,
  errand,
  choices,
  onDraft,
  momentTold = false,
}: EventProps & {
  errand: ErrandToSend;
  /** The moment that it waits for is told with others of the same. */
  momentTold?: boolean;
}) {
  const { listing, orDraft } = errand;
  return (
    <Errand
      errand={errand}
      event={event}
      momentTold={momentTold}
      chosen={choices.ticked.includes(errand)}
      onFlip={() => choices.flip(listing)}
      besides={choices.besides}
      onBesides={choices.beside}
      without={orDraft !== null && choices.seen.has(orDraft.without)}
      onWithout={() => orDraft && choices.see(orDraft.without)}
      onDraft={() => onDraft(errand.channel)}
      picked={choices.ways[listing] ?? null}
      onPick={(picked) => choices.pick(listing, picked)}
    />
  );
}

/** All that is to send of one event, and what keeps the rest. */
export function EventSection({
  year,
  decide,
  decideErrand,
  onSaid,
  alone,
  ...props
}: EventProps & {
  year: number;
  /** No other event here is called the same. */
  alone: boolean;
  decide: Decisions;
  decideErrand: (errandId: number, verdict: 'again' | 'drop') => Promise<string | null>;
  onSaid: (said: Answer) => void;
}) {
  const { event, choices } = props;
  return (
    <section className={classes.event} aria-label={alone ? event.title : `${event.title}, ${event.code}`}>
      <DateBlock date={event.date} thisYear={year} />
      <div>
        <h2>
          <Link href={`/records/${event.recordId}`}>{event.title}</Link> <span className="code">{event.code}</span>
        </h2>
        <Clashes event={event} choices={choices} />
        {byChange(event.errands.filter((errand) => !errand.ownMoment)).map((group) => (
          <ChangeRow key={group.sort} group={group} zone={event.zone} choices={choices}>
            {group.errands.map((errand) => (
              <EventErrand
                key={errand.listing}
                errand={errand}
                momentTold={sharedMoment(group.errands) !== null}
                {...props}
              />
            ))}
          </ChangeRow>
        ))}
        <LockedRows event={event} choices={choices} />
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
              <DriftTable listing={asking} decide={decide} onSaid={onSaid} />
            </div>
          </Listing>
        ))}
        <WaitingRows event={event} choices={choices} />
        {event.noPost ? (
          <p className={classes.wait}>
            No post about it. One is offered in <Link href={`/records/${event.recordId}#publicity`}>its record</Link>,
            under Publicity.
          </p>
        ) : null}
        {event.takenOff.length === 0 ? null : (
          <p className={classes.wait}>
            Taken off: {event.takenOff.length === 1 ? 'one post' : `${event.takenOff.length} posts`} planned before it
            was {event.takenOff[0]?.turn}. Put back what still fits in{' '}
            <Link href={`/records/${event.recordId}#notices`}>its record</Link>.
          </p>
        )}
      </div>
    </section>
  );
}

/** Double bookings that are to be seen before anything tells of the event. */
function Clashes({ event, choices }: Pick<EventProps, 'event' | 'choices'>) {
  if (!event.errands.some((errand) => !tellsNothingNew(errand.op)) && event.locked.length === 0) return null;
  return event.clashes.map((clash) => (
    <label key={clash.key} className={classes.seen}>
      <input type="checkbox" checked={choices.seen.has(clash.key)} onChange={() => choices.see(clash.key)} />
      <span>{clash.words} I have seen it.</span>
    </label>
  ));
}

function LockedRows({ event, choices }: Pick<EventProps, 'event' | 'choices'>) {
  return event.locked.map((locked) => (
    <Listing
      key={locked.listing}
      channel={locked.channel}
      part={locked.part}
      standing="due"
      says={locked.ways.length > 1 ? 'is locked there: pick a way' : 'is locked there'}
    >
      <WayPicker
        {...locked}
        eventCode={event.code}
        eventDate={event.date}
        picked={choices.ways[locked.listing] ?? null}
        onPick={(next) => choices.pick(locked.listing, next)}
      />
    </Listing>
  ));
}

/** What goes behind an errand that is under way, and what cannot go yet. */
function WaitingRows({ event, choices }: Pick<EventProps, 'event' | 'choices'>) {
  return (
    <>
      {event.busy
        .filter((item) => item.more)
        .map((item) => (
          <Behind
            key={item.listing}
            channel={item.channel}
            chosen={!choices.out.has(item.listing)}
            onFlip={() => choices.flip(item.listing)}
          />
        ))}
      {event.held.map((held) =>
        held.freedBy.length === 0 ? (
          <Listing key={held.listing} channel={held.channel} part="" standing="unplaced" says="cannot go yet">
            <Held record={event.recordId} {...held} />
          </Listing>
        ) : (
          <Freed
            key={held.listing}
            held={held}
            ready={isFreed(held, choices)}
            chosen={choices.freed.includes(held)}
            onFlip={() => choices.flip(held.listing)}
          />
        ),
      )}
    </>
  );
}
