'use client';

import { useMay } from '@/ui/may/May';
import type { RecordId } from '@/core/base/ids';
import { useTransition } from 'react';
import type { Outcome } from '@/core/listing/compare';
import { splitKey, type ShownValue } from '@/core/listing/shown';
import type { ReadBackListing } from '@/views/drift';
import classes from './Drift.module.css';

export type Answer = { ok: true; value: string } | { ok: false; error: string };
type Decide = (
  recordId: RecordId,
  listing: string,
  fields: { key: string; seen: ShownValue | null }[],
) => Promise<Answer>;

/**
 * The ways out of a drift: ours again, theirs into the record, theirs on this channel alone, letting a deleted listing
 * go, and taking a second one down.
 */
export interface Decisions {
  ours: Decide;
  theirs: Decide;
  here: Decide;
  go: Decide;
  oneDown: (listing: string, place: string) => Promise<Answer>;
}

const outcomeWords: Partial<Record<Outcome, string>> = {
  'at-odds': 'changed on both sides',
  late: 'late to show',
  drifted: 'drifted',
};

interface DriftTableProps {
  listing: ReadBackListing;
  decide: Decisions;
  /** Told what came of a decision: what is decided leaves the list, and its word must not go with it. */
  onSaid: (answer: Answer) => void;
}

/** What a channel shows against what was sent, field by field, each with its ways out. */
export function DriftTable(props: DriftTableProps) {
  const deciding = useDeciding(props);
  const { listing, busy, settle, decide } = deciding;
  return (
    <>
      <Gone deciding={deciding} />
      <Twins deciding={deciding} />
      {listing.fields.length > 0 && !listing.gone ? (
        <table className={classes.drift}>
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
            {listing.fields.map((field) => (
              <FieldRow key={field.key} deciding={deciding} field={field} />
            ))}
          </tbody>
        </table>
      ) : null}
      {deciding.sends && listing.fields.length > 1 && !listing.gone ? (
        <button
          type="button"
          className="plainButton"
          disabled={busy}
          onClick={() => settle(decide.ours, listing.fields)}
        >
          Send ours again for all {listing.fields.length} fields
        </button>
      ) : null}
    </>
  );
}

/** What is decided of a listing, and told when it came to something. */
function useDeciding({ listing, decide, onSaid }: DriftTableProps) {
  const [busy, start] = useTransition();
  const said = (work: () => Promise<Answer>) =>
    start(async () => {
      const failed: Answer = { ok: false, error: 'The house did not answer. Look again and decide once more.' };
      onSaid(await work().catch(() => failed));
    });
  const settle = (how: Decide, fields: ReadBackListing['fields']) =>
    said(() =>
      how(
        listing.recordId,
        listing.listing,
        fields.map((field) => ({ key: field.key, seen: field.observed })),
      ),
    );
  return { busy, settle, decide, listing, said, sends: useMay('send') };
}

type Deciding = ReturnType<typeof useDeciding>;

/** It was deleted there: it is placed anew, or let go of. */
function Gone({ deciding: { listing, busy, settle, decide, sends } }: { deciding: Deciding }) {
  if (!listing.gone) return null;
  if (!sends) return <p className={classes.gone}>It was deleted there.</p>;
  return (
    <p className={classes.gone}>
      It was deleted there.{' '}
      <button type="button" className="quietButton" disabled={busy} onClick={() => settle(decide.ours, listing.fields)}>
        Place it again
      </button>{' '}
      <button type="button" className="quietButton" disabled={busy} onClick={() => settle(decide.go, [])}>
        Let it go
      </button>
    </p>
  );
}

/** It stands there more than once: which is to go. */
function Twins({ deciding: { listing, busy, said, decide, sends } }: { deciding: Deciding }) {
  if (!(listing.twins.length > 1)) return null;
  return (
    <div className={classes.gone}>
      <p>
        It stands there {listing.twins.length === 2 ? 'twice' : `${listing.twins.length} times`}: look at each, and take
        down what is too much.
      </p>
      <ul>
        {listing.twins.map(({ id, address }, i) => (
          <li key={id}>
            <Place address={address} /> {i === 0 ? '(held for ours)' : '(the other)'}{' '}
            {sends ? (
              <button
                type="button"
                className="quietButton"
                disabled={busy}
                aria-label={`Take ${address} down`}
                onClick={() => said(() => decide.oneDown(listing.listing, id))}
              >
                Take this one down
              </button>
            ) : null}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** One field that shows something else, with its ways out. */
function FieldRow({
  deciding: { busy, settle, decide, sends },
  field,
}: {
  deciding: Deciding;
  field: ReadBackListing['fields'][number];
}) {
  return (
    <tr data-outcome={field.outcome} data-field={splitKey(field.key).field}>
      <td>
        {field.label}
        <small>{outcomeWords[field.outcome] ?? field.outcome}</small>
      </td>
      <td>
        {field.words.sent}
        {field.outcome === 'at-odds' ? <small>the record now says: {field.words.wanted}</small> : null}
      </td>
      <td className={classes.theirs}>{field.words.observed}</td>
      <td className={classes.ways}>
        {sends ? (
          <>
            <button type="button" className="quietButton" disabled={busy} onClick={() => settle(decide.ours, [field])}>
              Send ours again
            </button>
            <button
              type="button"
              className="quietButton"
              disabled={busy || !field.takeable}
              title={
                field.takeable
                  ? undefined
                  : 'It is filled, fitted or capped from other facts: it cannot be put back into the record as it stands.'
              }
              onClick={() => settle(decide.theirs, [field])}
            >
              Take theirs into the record
            </button>
            {!field.takeable && field.keepable ? (
              <button
                type="button"
                className="quietButton"
                disabled={busy}
                onClick={() => settle(decide.here, [field])}
              >
                Keep theirs here only
              </button>
            ) : null}
          </>
        ) : null}
      </td>
    </tr>
  );
}

/** Where a listing is seen; some channels have only an id for it. */
function Place({ address }: { address: string }) {
  return /^https?:/.test(address) ? (
    <a href={address} target="_blank" rel="noopener">
      {address}
    </a>
  ) : (
    <span className="code">{address}</span>
  );
}

/** What came of the last decision. */
export function Said({ answer }: { answer: Answer | null }) {
  if (answer === null) return null;
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
