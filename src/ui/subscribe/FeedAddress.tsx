'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { CalendarFeed } from '@/views/feeds';
import classes from './Subscribe.module.css';

/** The address of a calendar, to be handed on, with what a calendar program wants to be told. */
export function FeedAddress({ feed: { id, name, address, forAll } }: { feed: CalendarFeed }) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    void navigator.clipboard.writeText(address).then(
      () => setCopied(true),
      () => setCopied(false),
    );
  return (
    <div className={classes.feed}>
      <p>
        <Link href={`/channels?channel=${id}`}>{name}</Link>{' '}
        {forAll ? 'whoever has the address reads it' : 'for some alone: hand its address to them and to nobody else'}
      </p>
      <p className={classes.address}>
        <input
          readOnly
          value={address}
          aria-label={`Address of ${name}`}
          onFocus={(event) => event.currentTarget.select()}
        />
        <button type="button" className="quietButton" onClick={copy}>
          {copied ? 'Copied' : 'Copy'}
        </button>
        <a href={address.replace(/^https?:/, 'webcal:')}>Open in a calendar program</a>
      </p>
      <p className={classes.how}>
        In a calendar program: add a calendar by its address (“from URL”, “subscribe”), and paste this one.
        <br />
        On a telephone: in the settings of its calendar, add an account of the sort “subscribed calendar”.
        <br />
        As news (Atom), what was announced and changed, for a feed reader or a website:{' '}
        <a href={address.replace(/\.ics$/, '.atom')}>{name} as news</a>
      </p>
    </div>
  );
}
