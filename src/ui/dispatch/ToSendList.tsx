'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { channelById } from '@/channels/registry';
import { momentWords } from '@/core/dates/date-words';
import type { Finding } from '@/core/findings/finding';
import type { Change, Operation } from '@/core/errands/plan';
import { DateBlock } from '@/ui/date-block';
import { FindingLine } from '@/ui/finding-line';
import { Pennant } from '@/ui/pennant';
import { ChangeLines } from './ChangeLines';
import classes from './Dispatch.module.css';

interface ToSendEvent {
  recordId: string;
  code: string;
  title: string;
  date: string | null;
  zone: string;
  errands: {
    listing: string;
    channel: string;
    part: string;
    op: Operation;
    changes: Change[];
    waitsFor: string[];
    notBefore: number | null;
    requests: number;
    findings: Finding[];
  }[];
  held: { listing: string; channel: string; reasons: Finding[]; waitsFor: string | null }[];
}

interface ToSendListProps {
  events: ToSendEvent[];
  /** Year of today. */
  year: number;
  /** Only one record's errands are listed; leads back to all. */
  narrowed: boolean;
  /** Why there is nothing to send. */
  nothing: keyof typeof nothingWords | null;
  /** Makes a dispatch of the listings named; gives its id, or what went wrong. */
  send: (listings: string[]) => Promise<{ ok: true; value: string } | { ok: false; error: string }>;
}

const nothingWords = {
  gone: 'this event is not there any more.',
  private: 'it is private, and never leaves the house. Make it public or unlisted in its record, under Publicity.',
  nowhere: 'no channel is to show it as it stands. The proof in its record says why.',
  underway: 'what was sent is on its way, or not read back yet.',
  asks: 'but a channel shows something else than was sent, or refused it. Read-back and the earlier dispatches say which.',
  'in-step': 'every channel has what the records say.',
} as const;

const verbs: Record<Operation, string> = { place: 'place', amend: 'amend', withdraw: 'take down', renew: 'renew' };
const shownAtFirst = 40;

/** What is to be sent: by event, before and after by field. Take out what should wait, then send the rest. */
export function ToSendList({ events, year, narrowed, nothing, send }: ToSendListProps) {
  const router = useRouter();
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const [most, setMost] = useState(shownAtFirst);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const errands = events.flatMap((one) => one.errands);
  // What is under embargo waits for its moment: it goes along only when asked for.
  const chosen = errands.filter((one) => (one.notBefore === null) !== out.has(one.listing));
  const flip = (listing: string) => {
    const next = new Set(out);
    if (!next.delete(listing)) next.add(listing);
    setOut(next);
  };
  const go = async () => {
    setBusy(true);
    const answer = await send(chosen.map((one) => one.listing));
    if (answer.ok) return router.push(`/dispatch/${answer.value}`);
    setBusy(false);
    setProblem(answer.error);
    return undefined;
  };
  return (
    <>
      <div className={classes.list}>
        {nothing === null ? null : (
          <p className={classes.empty}>
            Nothing is to send{narrowed ? ' for this event' : ''}
            {nothing === 'asks' ? ',' : ':'} {nothingWords[nothing]}
          </p>
        )}
        {events.slice(0, most).map((event) => (
          <section key={event.recordId} className={classes.event} aria-label={event.title}>
            <DateBlock date={event.date ?? ''} thisYear={year} />
            <div>
              <h2>
                <Link href={`/records/${event.recordId}`}>{event.title}</Link>{' '}
                <span className="code">{event.code}</span>
              </h2>
              {event.errands.map((one) => (
                <div key={one.listing} className={classes.errand} data-channel={one.channel}>
                  <label className={classes.errandHead}>
                    <input type="checkbox" checked={chosen.includes(one)} onChange={() => flip(one.listing)} />
                    <Pennant standing={one.notBefore === null ? 'due' : 'embargoed'} silent size={20} />
                    <b>{channelById(one.channel).rules.name}</b>
                    {one.part === '' ? '' : ` ${one.part}`}
                    <span>{verbs[one.op]}</span>
                    {one.waitsFor.length > 0 ? (
                      <span>after {one.waitsFor.join(', ')}, which gives the ticket link</span>
                    ) : null}
                    {one.notBefore === null ? null : <span>not before {momentWords(one.notBefore, event.zone)}</span>}
                    <span className={classes.cost}>
                      can be undone · {one.requests} {one.requests === 1 ? 'request' : 'requests'}
                    </span>
                  </label>
                  <ChangeLines channel={one.channel} op={one.op} changes={one.changes} brief={one.op === 'place'} />
                  {one.findings.map((f) => (
                    <FindingLine key={f.field + f.code} finding={f} about={labelOf(one.channel, f.field)} />
                  ))}
                </div>
              ))}
              {event.held.map((one) => (
                <div key={one.listing} className={classes.errand} data-channel={one.channel}>
                  <div className={classes.errandHead}>
                    <span className={classes.noBox} />
                    <Pennant standing="unplaced" silent size={20} />
                    <b>{channelById(one.channel).rules.name}</b>
                    <span>cannot go yet</span>
                  </div>
                  {one.reasons.map((f) => (
                    <FindingLine key={f.field + f.code} finding={f} about={labelOf(one.channel, f.field)} />
                  ))}
                  {one.waitsFor === null ? null : (
                    <p className={classes.wait}>
                      waits for the ticket link from {channelById(one.waitsFor).rules.name}
                    </p>
                  )}
                </div>
              ))}
            </div>
          </section>
        ))}
        {events.length > most ? (
          <button type="button" className="plainButton" onClick={() => setMost(most + 200)}>
            Show more: {events.length - most} further events
          </button>
        ) : null}
      </div>
      {errands.length > 0 ? (
        <div className={classes.bar} role="region" aria-label="Send">
          <p>
            {problem === null ? (
              <>
                <b>{chosen.length}</b> of {errands.length} {errands.length === 1 ? 'errand' : 'errands'} chosen. Links
                first, the rest beside each other.
              </>
            ) : (
              <span role="alert">{problem}</span>
            )}
          </p>
          <button type="button" className="sendButton" disabled={busy || chosen.length === 0} onClick={() => void go()}>
            Send {chosen.length} {chosen.length === 1 ? 'errand' : 'errands'}
          </button>
        </div>
      ) : null}
    </>
  );
}

function labelOf(channel: string, field: string): string {
  return channelById(channel).rules.rows.find((row) => row.field === field)?.label ?? field;
}
