'use client';

import Link from 'next/link';
import { useState } from 'react';
import { clashNames, clashWords, sideWords } from '@/core/clashes/clash-words';
import type { Clash } from '@/core/clashes/clashes';
import type { Mention } from '@/core/words/mention';
import { toLocal } from '@/core/base/zones';
import { DateBlock } from '@/ui/date-block';
import classes from './Clashes.module.css';

interface ClashListProps {
  clashes: Clash[];
  /** Typed facts in the words of events that are wrong or stale. */
  words: { record: string; code: string; title: string; where: string; mention: Mention }[];
  year: number;
}

const shownAtOnce = 300;

/** Everything in the season that cannot be as it stands, each explained with its evidence. */
export function ClashList({ clashes, words, year }: ClashListProps) {
  const [kind, setKind] = useState<string>('all');
  const kinds = [...new Set(clashes.map((one) => one.code))];
  const shown = kind === 'words' ? [] : clashes.filter((one) => kind === 'all' || one.code === kind);
  const tab = (id: string, name: string, count: number) => (
    <button key={id} type="button" role="tab" aria-selected={kind === id} onClick={() => setKind(id)}>
      {name} <span>{count}</span>
    </button>
  );
  return (
    <div className={classes.page}>
      <h1>Clashes</h1>
      <p className={classes.lead}>
        What cannot be as it stands across the season, with the evidence. Each goes away by itself when a record is put
        right.
      </p>
      <div className={classes.tabs} role="tablist" aria-label="Sorts of clashes">
        {tab('all', 'All', clashes.length + words.length)}
        {kinds.map((code) => tab(code, clashNames[code], clashes.filter((one) => one.code === code).length))}
        {words.length > 0 ? tab('words', 'words against facts', words.length) : null}
      </div>
      {clashes.length + words.length === 0 ? (
        <p className={classes.empty}>Nothing clashes: rooms, artists, sales and words all agree.</p>
      ) : null}
      {shown.slice(0, shownAtOnce).map((one) => (
        <div
          key={`${one.code} ${one.a.performance} ${one.b?.performance} ${'level' in one ? one.level : ''}`}
          className={classes.row}
          data-weight={one.weight}
        >
          <DateBlock date={toLocal(one.a.at, one.a.zone).date} thisYear={year} />
          <span className={classes.kind}>{clashNames[one.code]}</span>
          <div>
            <p>{clashWords(one)}</p>
            <p className={classes.sides}>
              <Link href={`/records/${one.a.record}#dates`}>{sideWords(one.a)}</Link>
              {one.b ? (
                <>
                  {' '}
                  and <Link href={`/records/${one.b.record}#dates`}>{sideWords(one.b)}</Link>
                </>
              ) : null}
            </p>
          </div>
        </div>
      ))}
      {kind === 'all' || kind === 'words'
        ? words.slice(0, shownAtOnce).map((one, i) => (
            <div
              key={`${one.record} ${i}`}
              className={classes.row}
              data-weight={one.mention.verdict === 'stale' ? 'warns' : 'stops'}
            >
              <span className="code">{one.code}</span>
              <span className={classes.kind}>{one.mention.verdict === 'stale' ? 'was right once' : 'contradicts'}</span>
              <div>
                <p>
                  “{one.mention.text}” in the {one.where}; the record says {one.mention.says}.
                </p>
                <p className={classes.sides}>
                  <Link href={`/records/${one.record}#${one.where === 'notice' ? 'notices' : 'words'}`}>
                    {one.title}
                  </Link>
                </p>
              </div>
            </div>
          ))
        : null}
      {shown.length > shownAtOnce ? (
        <p className={classes.lead}>and {shown.length - shownAtOnce} more of these</p>
      ) : null}
    </div>
  );
}
