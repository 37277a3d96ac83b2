import Link from 'next/link';
import { groupBy } from '@/core/base/group-by';
import { listWords } from '@/core/base/list-words';
import { findingWords } from '@/core/findings/finding-words';
import { standingWords } from '@/core/listing/standing';
import { shortDate } from '@/core/dates/date-words';
import { Pennant } from '@/ui/pennant';
import changes from '@/ui/record/change/Change.module.css';
import { flipped, Row } from '@/ui/record/change/GoingRows';
import { whenWords } from '@/ui/record/change/when-words';
import { WayFields } from '@/ui/record/change/WayFields';
import type { ManyEvent, ManyView } from '@/views/many';
import classes from './Many.module.css';
import type { Said } from './said';

export interface SumRowProps {
  view: ManyView;
  said: Said;
  put: (part: Partial<Said>) => void;
}

const nameIn = ({ names }: ManyView, channel: string) => (names as Record<string, string>)[channel] ?? channel;
const times = (count: number) => (count === 1 ? 'one event' : `${count} events`);

interface TickedProps {
  view: ManyView;
  channel: string;
  count: number;
  on: boolean;
  onFlip: () => void;
}

/** A channel with its pennant, its tick, and how many events of it there are. */
function Ticked({ view, channel, count, on, onFlip }: TickedProps) {
  return (
    <label className={changes.ticked} data-off={!on || undefined}>
      <input type="checkbox" checked={on} onChange={onFlip} />
      <Pennant standing="due" silent size={18} />
      <b>{nameIn(view, channel)}</b> <span className={changes.quiet}>{count}</span>
    </label>
  );
}

/** What goes by itself: at once, and by the channel's own habit. */
export function GoesRows({ view, said, put }: SumRowProps) {
  const { atOnce, later, busy } = view.sum;
  const when = (at: number) => whenWords(at, view.now, view.zone);
  const ticked = (channel: string, count: number) => (
    <Ticked
      key={channel}
      {...{ view, channel, count }}
      on={!said.out.has(channel)}
      onFlip={() => put({ out: flipped(said.out, channel) })}
    />
  );
  const sum = atOnce.reduce((all, { count }) => all + count, 0);
  const last = Math.max(...atOnce.map(({ by }) => by.asRule));
  return (
    <>
      {atOnce.length === 0 ? null : (
        <Row name="Right at once" says={sum === 1 ? 'one listing' : `${sum} listings`}>
          <div className={changes.line}>
            <span className={changes.strip}>{atOnce.map(({ channel, count }) => ticked(channel, count))}</span>
            <span className={changes.by}>by {when(last)}</span>
          </div>
          {busy === 0 ? null : (
            <p className={changes.quiet}>
              {busy === 1 ? 'An errand is' : `${busy} errands are`} under way; what changes goes behind
            </p>
          )}
        </Row>
      )}
      {later.length === 0 ? null : (
        <Row name="Right later" says="by the channel’s own habit">
          {later.map(({ channel, count, by, afterDoors, goes }) => (
            <div key={channel} className={changes.line}>
              <span className={changes.strip}>
                {goes ? (
                  ticked(channel, count)
                ) : (
                  <span className={changes.ticked}>
                    <Pennant standing="due" silent size={18} />
                    <b>{nameIn(view, channel)}</b> <span className={changes.quiet}>{count}, what it is shown</span>
                  </span>
                )}
                {afterDoors === 0 ? null : (
                  <span className={changes.red}>
                    {afterDoors === 1 ? 'one of them' : `${afterDoors} of them`} after the doors open
                  </span>
                )}
              </span>
              <span className={changes.by}>
                <b>{when(by.asRule)}</b>
                {by.atLatest === by.asRule ? '' : `, ${when(by.atLatest)} at the latest`}
              </span>
            </div>
          ))}
        </Row>
      )}
    </>
  );
}

/** What is locked, on each channel together: one word decides all of it. */
export function LockedRows({ view, said, put }: SumRowProps) {
  return view.sum.locked.map(({ key, channel, listings, sold, fields, ways }) => (
    <Row
      key={key}
      red
      name="Locked there"
      says={`${nameIn(view, channel)}, ${times(listings.length)}${sold > 0 ? `: ${sold} sold` : ''}`}
    >
      <p className={changes.quiet}>{listWords(fields)}: the same for all of them</p>
      <WayFields
        name={key}
        {...{ ways, sold }}
        code={String(listings.length)}
        reason={view.reason}
        until={view.until}
        picked={said.ways[key] ?? null}
        onPick={(picked) => put({ ways: { ...said.ways, [key]: picked } })}
      />
    </Row>
  ));
}

/** What does not go by itself, and warnings to be seen first. */
export function AsksRows({ view }: { view: ManyView }) {
  const { asks, held } = view.sum;
  if (asks.length + held.length + view.unseen.length === 0) return null;
  return (
    <Row name="Waits for a decision" says="it does not go by itself">
      {asks.map(({ channel, standing, count }) => (
        <p key={`${channel} ${standing}`} className={changes.strip}>
          <Pennant standing={standing} silent size={18} />
          <b>{nameIn(view, channel)}</b>
          <span>
            {times(count)} {standingWords[standing].name.toLowerCase()}: decided in Read-back or Dispatch
          </span>
        </p>
      ))}
      {[...groupBy(held, ({ reasons }) => reasons.map(findingWords).join(' '))].map(([why, items]) => (
        <p key={why}>
          <b>{listWords(items.map(({ channel, count }) => `${nameIn(view, channel)} ${count}`))}</b> {why}
        </p>
      ))}
      {view.unseen.slice(0, 12).map(({ words, count }) => (
        <p key={words} className={changes.warns}>
          {words} {count > 1 ? `(${count} times)` : ''}
        </p>
      ))}
      {view.unseen.length > 12 ? <p className={changes.warns}>and {view.unseen.length - 12} more</p> : null}
    </Row>
  );
}

const mendings = {
  edit: 'follows: it can be edited where it stands',
  anew: 'cannot be changed there: a correction is drafted',
  none: 'is past mending',
};

/** What was said already and what tells people: each only if somebody says so. */
export function TellsRows({ view, said, put }: SumRowProps) {
  const { said: quoted, apart } = view.sum;
  return (
    <>
      {quoted.length === 0 ? null : (
        <Row name="Said already" says="quotes the old fact">
          {quoted.map(({ channel, mending, count }) => {
            const key = mending === 'edit' ? 'out' : 'corrected';
            return (
              <div key={`${channel} ${mending}`} className={changes.line}>
                <span className={changes.strip}>
                  <Pennant standing={mending === 'edit' ? 'instep' : 'unread'} silent size={18} />
                  <b>{nameIn(view, channel)}</b>
                  <span>
                    {times(count)}: {mendings[mending]}
                  </span>
                </span>
                {mending === 'none' ? null : (
                  <label className={changes.by}>
                    <input
                      type="checkbox"
                      checked={mending === 'edit' ? !said.out.has(channel) : said.corrected.has(channel)}
                      onChange={() => put({ [key]: flipped(said[key], channel) })}
                    />{' '}
                    {mending === 'edit' ? 'edit them' : 'send the corrections'}
                  </label>
                )}
              </div>
            );
          })}
        </Row>
      )}
      {apart.length === 0 ? null : (
        <Row name="Only if you say so" says="it tells people, or waits for its moment">
          <p className={changes.strip}>
            {apart.map(({ channel, count, tells }) => (
              <label key={`${channel} ${tells}`} className={changes.ticked}>
                <input
                  type="checkbox"
                  checked={said.asked.has(channel)}
                  onChange={() => put({ asked: flipped(said.asked, channel) })}
                />
                <Pennant standing="unplaced" silent size={18} />
                <b>{nameIn(view, channel)}</b>
                <span className={changes.quiet}>
                  {count}
                  {tells === 'nobody' ? '' : `, tells ${tells}`}
                </span>
              </label>
            ))}
          </p>
        </Row>
      )}
    </>
  );
}

/** What moves along, who holds a ticket, and who is wrong until when. */
export function FollowsRows({ view, said }: SumRowProps) {
  const { moments, sentences, arises, holders, wrong, locked } = view.sum;
  const codes = new Map(view.events.map(({ id, code }) => [id as string, code]));
  const step = new Set(
    locked
      .filter(({ key, ways }) => ways.find(({ id }) => id === said.ways[key]?.way)?.tells === 'buyers')
      .map(({ channel }) => channel),
  );
  const sum = holders.reduce((all, { sold }) => all + sold, 0);
  return (
    <>
      {moments + sentences.length + arises.length === 0 ? null : (
        <Row name="Moves with it" says="sale, words, seats">
          {moments === 0 ? null : <p>{moments} moments of the sale move along</p>}
          {sentences.slice(0, 8).map(({ record, where, text }) => (
            <p key={`${record} ${where} ${text}`}>
              {codes.get(record)}: “{text}” in the {where} <span className={changes.red}>contradicts</span>
            </p>
          ))}
          {sentences.length > 8 ? <p>and {sentences.length - 8} more sentences</p> : null}
          {arises.map(({ finding, count }) => (
            <p key={finding.code} className={changes.red}>
              {findingWords(finding)} {count > 1 ? `(${count} times)` : ''}
            </p>
          ))}
        </Row>
      )}
      {holders.length === 0 ? null : (
        <Row name="Who holds a ticket" says={`${sum} ${sum === 1 ? 'ticket' : 'tickets'}`}>
          {holders.map(({ channel, sold, events, told }) => {
            const tells = told === 'step' || (told === 'way' && step.has(channel));
            return (
              <p key={`${channel} ${told}`}>
                <b>
                  {sold} by {nameIn(view, channel)}
                </b>{' '}
                for {times(events)}{' '}
                <span className={tells ? undefined : changes.red}>
                  {tells
                    ? 'told by the channel’s own step'
                    : told === 'way'
                      ? 'told by the channel, if you pick its step; else by nobody'
                      : 'told by nobody: write a letter or a post, or say so at the door'}
                </span>
              </p>
            );
          })}
        </Row>
      )}
      {wrong.length === 0 ? null : (
        <Row name="Wrong until then" says="who shows the old fact, how long">
          {wrong.map(({ channels, until }) => (
            <p key={channels.join()} className={changes.quiet}>
              {listWords(channels.map((channel) => nameIn(view, channel)))}, until{' '}
              {whenWords(until.asRule, view.now, view.zone)}
              {until.atLatest === until.asRule
                ? ''
                : ` (${whenWords(until.atLatest, view.now, view.zone)} at the latest)`}
            </p>
          ))}
        </Row>
      )}
    </>
  );
}

const brief = (words: string) => (words.length > 40 ? `${words.slice(0, 39)}…` : words);

interface EventRowsProps {
  events: readonly ManyEvent[];
  onLeaveOut: (ids: string[]) => void;
}

/** That some of them cannot be so, why, and the way on without them. */
export function StoppedNote({ events, onLeaveOut }: EventRowsProps) {
  const stopped = events.filter(({ state }) => state === 'stopped');
  if (stopped.length === 0) return null;
  const whys = [...new Set(stopped.map(({ code, why }) => (stopped.length > 3 ? why : `${code}: ${why}`)))];
  return (
    <p className="problem" role="alert">
      {stopped.length === 1 ? 'One of them' : `${stopped.length} of them`} cannot be so, and nothing is saved with{' '}
      {stopped.length === 1 ? 'it' : 'them'} in. {whys.slice(0, 3).join(' ')}{' '}
      <button type="button" className="plainButton" onClick={() => onLeaveOut(stopped.map(({ id }) => id))}>
        Leave {stopped.length === 1 ? 'it' : 'them'} out
      </button>
    </p>
  );
}

/** The events one by one, with what changes of each. */
export function EventRows({ events, onLeaveOut }: EventRowsProps) {
  return (
    <Row name={events.length === 1 ? 'The event' : `The ${events.length} events`} says="one by one">
      <ul className={classes.events}>
        {events.map(({ id, code, title, date, state, why, facts, locked }) => (
          <li key={id}>
            <span className={classes.day}>{date.length === 10 ? shortDate(date) : 'open'}</span>
            <Link href={`/records/${id}`} prefetch={false} title={code}>
              {title}
            </Link>
            {state === 'changes' ? (
              <span>
                {facts.slice(0, 3).map(({ label, before, after }) => (
                  <span key={label} className={classes.fact}>
                    {label} <ins>{brief(after)}</ins> <del>{brief(before)}</del>
                  </span>
                ))}
                {facts.length === 0 ? 'changes' : null}
                {locked > 0 ? <span className={changes.red}> locked</span> : null}
              </span>
            ) : (
              <span className={state === 'stopped' ? changes.red : changes.quiet}>
                {state === 'stopped' ? why : 'says so already'}
              </span>
            )}
            <button
              type="button"
              className="plainButton"
              aria-label={`Leave ${title} out`}
              onClick={() => onLeaveOut([id])}
            >
              leave out
            </button>
          </li>
        ))}
      </ul>
    </Row>
  );
}
