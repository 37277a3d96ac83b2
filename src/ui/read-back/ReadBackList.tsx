'use client';

import Link from 'next/link';
import { useState, useTransition } from 'react';
import type { Outcome } from '@/core/listing/compare';
import { momentWords } from '@/core/dates/date-words';
import { splitKey, type ShownValue } from '@/core/listing/shown';
import { standingWords, type Standing } from '@/core/listing/standing';
import { valueWords } from '@/core/listing/value-words';
import { DateBlock } from '@/ui/date-block';
import { Pennant } from '@/ui/pennant';
import classes from './ReadBack.module.css';

interface AskingListing {
  listing: string;
  recordId: string;
  code: string;
  title: string;
  date: string | null;
  channelName: string;
  /** Which of a long run’s listings it is: `part 2`; empty for the only one. */
  part: string;
  standing: Standing;
  observedAt: number | null;
  publicUrl: string | null;
  fields: {
    key: string;
    label: string;
    wanted: ShownValue | null;
    sent: ShownValue | null;
    observed: ShownValue | null;
    outcome: Outcome;
    takeable: boolean;
  }[];
}

type Answer = { ok: true; value: string } | { ok: false; error: string };
type Decide = (recordId: string, listing: string, keys: string[]) => Promise<Answer>;

interface ReadBackListProps {
  asks: AskingListing[];
  year: number;
  zone: string;
  sendOurs: Decide;
  takeTheirs: Decide;
}

/** What channels show against what was sent, field by field, each with its two ways out. */
export function ReadBackList({ asks, year, zone, sendOurs, takeTheirs }: ReadBackListProps) {
  const [said, setSaid] = useState<Record<string, Answer>>({});
  const [busy, start] = useTransition();
  const decide = (how: Decide, one: AskingListing, keys: string[]) =>
    start(async () => {
      const answer = await how(one.recordId, one.listing, keys);
      setSaid((before) => ({ ...before, [one.listing]: answer }));
    });
  return (
    <div className={classes.list}>
      {asks.map((one) => (
        <section
          key={one.listing}
          className={classes.listing}
          aria-label={`${one.title} on ${one.channelName}${one.part === '' ? '' : `, ${one.part}`}`}
        >
          <DateBlock date={one.date ?? ''} thisYear={year} />
          <div>
            <h2>
              <Pennant standing={one.standing} channel={one.channelName} /> {one.channelName}
              {one.part === '' ? '' : `, ${one.part}`} <span>{standingWords[one.standing].name.toLowerCase()}</span>
              <Link href={`/records/${one.recordId}`}>{one.title}</Link>
              <span className={classes.read}>
                {one.observedAt === null ? 'not read yet' : `read ${momentWords(one.observedAt, zone)}`}
                {one.publicUrl === null ? null : (
                  <>
                    {' '}
                    ·{' '}
                    <a href={one.publicUrl} target="_blank" rel="noopener">
                      public page
                    </a>
                  </>
                )}
              </span>
            </h2>
            <table>
              <thead>
                <tr>
                  <th>field</th>
                  <th>we sent</th>
                  <th>it shows</th>
                  <th>
                    <span className="visuallyHidden">decide</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {one.fields.map((field) => (
                  <tr key={field.key} data-outcome={field.outcome} data-field={splitKey(field.key).field}>
                    <td>
                      {field.label}
                      <small>{field.outcome === 'at-odds' ? 'changed on both sides' : field.outcome}</small>
                    </td>
                    <td>
                      {brief(field.sent)}
                      {field.outcome === 'at-odds' ? <small>the record now says: {brief(field.wanted)}</small> : null}
                    </td>
                    <td className={classes.theirs}>{brief(field.observed)}</td>
                    <td className={classes.ways}>
                      <button
                        type="button"
                        className="quietButton"
                        disabled={busy}
                        onClick={() => decide(sendOurs, one, [field.key])}
                      >
                        Send ours again
                      </button>
                      <button
                        type="button"
                        className="quietButton"
                        disabled={busy || !field.takeable}
                        title={
                          field.takeable
                            ? undefined
                            : 'This field is made from other facts; it cannot be taken into the record.'
                        }
                        onClick={() => decide(takeTheirs, one, [field.key])}
                      >
                        Take theirs into the record
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {one.fields.length > 1 ? (
              <button
                type="button"
                className="plainButton"
                disabled={busy}
                onClick={() =>
                  decide(
                    sendOurs,
                    one,
                    one.fields.map((f) => f.key),
                  )
                }
              >
                Send ours again for all {one.fields.length} fields
              </button>
            ) : null}
            <Said answer={said[one.listing]} />
          </div>
        </section>
      ))}
    </div>
  );
}

function Said({ answer }: { answer: Answer | undefined }) {
  if (!answer) return null;
  return answer.ok ? (
    <p className={classes.said} role="status">
      {answer.value}
    </p>
  ) : (
    <p className="problem" role="alert">
      {answer.error}
    </p>
  );
}

function brief(value: ShownValue | null): string {
  const words = valueWords(value);
  return words.length > 300 ? `${words.slice(0, 299)}…` : words;
}
