'use client';

import Link from 'next/link';
import { useMemo, useState } from 'react';
import { clashNames, clashWords, sideWords } from '@/core/clashes/clash-words';
import { groupClashes } from '@/core/clashes/group-clashes';
import type { Clash } from '@/core/clashes/clashes';
import type { Mention } from '@/core/words/mention';
import { shortDate } from '@/core/dates/date-words';
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
/** Other dates of a run that are named; the rest is counted. */
const namedDates = 6;

/** On which other dates the same is so. */
function alsoOn(more: readonly Clash[]): string {
  const dates = [...new Set(more.map(({ a }) => shortDate(toLocal(a.at, a.zone).date)))];
  const rest = dates.length - namedDates;
  return `So it is on ${dates.slice(0, namedDates).join(', ')}${rest > 0 ? ` and ${rest} more dates` : ''}.`;
}

/** Everything in the season that cannot be as it stands, each explained with its evidence. */
export function ClashList({ clashes, words, year }: ClashListProps) {
  const [kind, setKind] = useState<string>('all');
  const groups = useMemo(() => groupClashes(clashes), [clashes]);
  const kinds = [...new Set(clashes.map((clash) => clash.code))];
  const shown = kind === 'words' ? [] : groups.filter(({ first }) => kind === 'all' || first.code === kind);
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
        {tab('all', 'All', groups.length + words.length)}
        {kinds.map((code) => tab(code, clashNames[code], groups.filter(({ first }) => first.code === code).length))}
        {words.length > 0 ? tab('words', 'words against facts', words.length) : null}
      </div>
      {clashes.length + words.length === 0 ? (
        <p className={classes.empty}>Nothing clashes: rooms, artists, sales and words all agree.</p>
      ) : null}
      {shown.slice(0, shownAtOnce).map(({ first: clash, weight, more }) => (
        <div
          key={`${clash.code} ${clash.a.performance} ${clash.b?.performance} ${'level' in clash ? clash.level : ''}`}
          className={classes.row}
          data-weight={weight}
        >
          <DateBlock date={toLocal(clash.a.at, clash.a.zone).date} thisYear={year} />
          <span className={classes.kind}>{clashNames[clash.code]}</span>
          <div>
            <p>{clashWords(clash)}</p>
            {more.length === 0 ? null : <p className={classes.sides}>{alsoOn(more)}</p>}
            <p className={classes.sides}>
              <Link href={`/records/${clash.a.record}#dates`}>{sideWords(clash.a)}</Link>
              {clash.b ? (
                <>
                  {' '}
                  and <Link href={`/records/${clash.b.record}#dates`}>{sideWords(clash.b)}</Link>
                </>
              ) : null}
            </p>
          </div>
        </div>
      ))}
      {kind === 'all' || kind === 'words'
        ? words.slice(0, shownAtOnce).map((word, i) => (
            <div
              key={`${word.record} ${i}`}
              className={classes.row}
              data-weight={word.mention.verdict === 'stale' ? 'warns' : 'stops'}
            >
              <span className="code">{word.code}</span>
              <span className={classes.kind}>
                {word.mention.verdict === 'stale' ? 'was right once' : 'contradicts'}
              </span>
              <div>
                <p>
                  “{word.mention.text}” in the {word.where}; the record says {word.mention.says}.
                </p>
                <p className={classes.sides}>
                  <Link href={`/records/${word.record}#${word.where === 'notice' ? 'notices' : 'words'}`}>
                    {word.title}
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
