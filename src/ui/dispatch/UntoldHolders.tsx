'use client';

import { NativeSelect } from '@mantine/core';
import Link from 'next/link';
import { useState, useTransition } from 'react';
import type { Result } from '@/core/base/result';
import { listWords } from '@/core/base/list-words';
import { momentWords } from '@/core/dates/date-words';
import { useMay } from '@/ui/may/May';
import { noAnswer } from '@/ui/no-answer';
import type { ToldNobody } from '@/views/dispatch';

interface UntoldHoldersProps {
  told: ToldNobody;
  zone: string;
  /** They were told, or nobody needs to be. */
  say: (listing: string, how: 'told' | 'nobody') => Promise<Result<null, string>>;
  /** Drafts a post or letter for them. */
  post: (listing: string, draft: { account: string; wording: string | null }) => Promise<Result<null, string>>;
}

/** Who bought and was told by nobody of what changed: it stands here until somebody decides. */
export function UntoldHolders({ told, zone, say, post }: UntoldHoldersProps) {
  const { holders } = told;
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
      {holders.map(({ listingId, recordId, title, channel, sold, what, at, by }) => (
        <div key={listingId}>
          <b>
            {sold} who bought by {channel}
          </b>{' '}
          were told by nobody of what is new of <Link href={`/records/${recordId}`}>{title}</Link>: {listWords(what)} (
          {by}, {momentWords(at, zone)}).{' '}
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
          <DraftFor told={told} busy={busy} onDraft={(draft, words) => run(() => post(listingId, draft), words)} />
        </div>
      ))}
      <p role="status">{said}</p>
    </section>
  );
}

/** On which account it is told, and in which words: a post or letter is drafted, and goes by a yes like any other. */
function DraftFor({
  told: { accounts, wordings },
  busy,
  onDraft,
}: {
  told: ToldNobody;
  busy: boolean;
  onDraft: (draft: { account: string; wording: string | null }, words: string) => void;
}) {
  const [to, setTo] = useState(accounts[0]?.id);
  const [wording, setWording] = useState('');
  const account = accounts.find(({ id }) => id === to) ?? accounts[0];
  if (!account) return null;
  const what = account.letter ? 'letter' : 'post';
  const done = `A ${what} on ${account.name} is drafted: tick it below${account.letter ? ', and say in the record to whom it goes' : ''}.`;
  return (
    <div className="toldDraft">
      <NativeSelect
        size="xs"
        aria-label="On which account"
        data={accounts.map(({ id, name, letter }) => ({ value: id, label: `${name} (${letter ? 'letter' : 'post'})` }))}
        value={account.id}
        onChange={(e) => {
          const id = e.currentTarget.value;
          setTo(accounts.find((other) => other.id === id)?.id);
        }}
      />
      {wordings.length === 0 ? null : (
        <NativeSelect
          size="xs"
          aria-label="In which words"
          data={[
            { value: '', label: 'in words from the record' },
            ...wordings.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          value={wording}
          onChange={(e) => setWording(e.currentTarget.value)}
        />
      )}
      <button
        type="button"
        className="plainButton"
        disabled={busy}
        onClick={() => onDraft({ account: account.id, wording: wording === '' ? null : wording }, done)}
      >
        Draft a {what} for them
      </button>
    </div>
  );
}
