'use client';

import Link from 'next/link';
import { useState, useTransition } from 'react';
import type { Result } from '@/core/base/result';
import { listWords } from '@/core/base/list-words';
import { momentWords } from '@/core/dates/date-words';
import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import type { UntoldHolders as Holders } from '@/views/dispatch';

interface UntoldHoldersProps {
  holders: readonly Holders[];
  zone: string;
  /** They were told, or nobody needs to be. */
  say: (listing: string, how: 'told' | 'nobody') => Promise<Result<null, string>>;
  /** Drafts a post for them. */
  post: (listing: string) => Promise<Result<null, string>>;
}

/** Who bought and was told by nobody of what changed: it stands here until somebody decides. */
export function UntoldHolders({ holders, zone, say, post }: UntoldHoldersProps) {
  const [said, setSaid] = useState('');
  const [busy, start] = useTransition();
  const decides = useMay('send');
  if (holders.length === 0 && said === '') return null;
  const run = (work: () => Promise<Result<null, string>>, done: string) =>
    start(async () => {
      const answer = await work().catch(() => ({ ok: false as const, error: noAnswer }));
      setSaid(answer.ok ? done : answer.error);
    });
  return (
    <section className="told" aria-label="Who bought and was told by nobody">
      {holders.map(({ listingId, recordId, title, channel, sold, what, at, by, post: account }) => (
        <p key={listingId}>
          <b>
            {sold} who bought by {channel}
          </b>{' '}
          were told by nobody of what is new of <Link href={`/records/${recordId}`}>{title}</Link>: {listWords(what)} (
          {by}, {momentWords(at, zone)}).{' '}
          {account === null ? null : (
            <>
              <button
                type="button"
                className="plainButton"
                disabled={busy}
                onClick={() => run(() => post(listingId), `A post on ${account} is drafted: tick it below.`)}
              >
                Draft a post on {account}
              </button>{' '}
            </>
          )}
          {decides ? (
            <>
              <button
                type="button"
                className="plainButton"
                disabled={busy}
                onClick={() => run(() => say(listingId, 'told'), 'Kept: they were told.')}
              >
                We told them
              </button>{' '}
              <button
                type="button"
                className="plainButton"
                disabled={busy}
                onClick={() => run(() => say(listingId, 'nobody'), 'Kept: nobody needs to be told.')}
              >
                Nobody needs to be told
              </button>
            </>
          ) : null}
        </p>
      ))}
      <p role="status">{said}</p>
    </section>
  );
}
