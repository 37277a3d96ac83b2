import Papa from 'papaparse';
import type { Facts } from '../facts/facts';
import { withoutSecrets } from '../facts/secrets';
import { readMarkup, writePlain } from '../words/markup';
import { toDecimal } from '../base/money';
import type { PerformanceFacts } from '../facts/performance-facts';
import type { RecordContent } from '../record/record';
import type { Precision } from '../record/choices';
import { toLocal, type Instant } from '../base/zones';
import { neededColumns, otherColumns, statusText } from './csv-cells';

/** One record to write, with what it says. */
export interface RecordToWrite {
  code: string;
  /** The house and the record, so that both are known again. */
  writtenFrom: string;
  content: RecordContent;
  facts: Facts;
}

type Column = (typeof neededColumns)[number] | (typeof otherColumns)[number];
const columns: readonly Column[] = ['ref', ...neededColumns, ...otherColumns.filter((column) => column !== 'ref')];

/**
 * Records as a table (CSV, RFC 4180) with the columns that are read: one row for each performance. What one row can
 * hold is written; price levels beyond the first full price and the first concession, parts of the house and pictures
 * are not. A cell that a spreadsheet would take for a formula is put behind an apostrophe.
 */
export function writeEventsCsv(records: readonly RecordToWrite[]): string {
  const rows = records.flatMap((record) =>
    [...record.facts.performances, ...record.facts.held].map((performance) => rowOf(record, performance)),
  );
  return `${Papa.unparse({ fields: [...columns], data: rows.map((row) => columns.map((name) => row[name] ?? '')) }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}

const audienceName = (audience: RecordContent['audience']) => (audience.who === 'group' ? audience.name : audience.who);

/** A date as far as it is known, in the way it is read. */
const dateText: Record<Precision, (date: string) => string> = {
  open: () => 'open',
  month: (date) => date.slice(0, 7),
  day: (date) => date,
  exact: (date) => date,
};

function rowOf(
  { code, writtenFrom, content, facts }: RecordToWrite,
  performance: PerformanceFacts,
): Partial<Record<Column, string>> {
  const time = (at: Instant | null) => (at === null ? '' : toLocal(at, performance.zone).time);
  const { tickets, publicity } = content;
  // A pass for several dates is no price of one of them.
  const levels = tickets.levels.filter((level) => level.admits === 1 && level.covers.kind === 'one');
  const priceOf = (concession: boolean) =>
    levels.find((level) => (concession ? level.buyers === 'concession' : level.buyers === 'anyone'))?.price;
  const money = (minor: number | undefined) => (minor === undefined ? '' : toDecimal(minor, tickets.currency));
  const opens = levels.find((level) => level.opens?.kind === 'at')?.opens;
  const raw = content.performances.find((candidate) => candidate.id === performance.id);
  // A table goes to anybody: what is for some alone is in none of its cells.
  return withoutSecrets(
    {
      ref: content.performances.length === 1 ? code : `${code}/${performance.id}`,
      written_from: `${writtenFrom}/${performance.id}`,
      title: content.title,
      subtitle: content.subtitle,
      event_type: [content.eventType, ...content.categories].join('; '),
      stage: performance.pencilled ? 'pencilled' : content.stage,
      status: statusText(performance),
      date: dateText[performance.precision](performance.date),
      doors: time(performance.doors),
      start: time(performance.start),
      end: raw?.end ?? '',
      zone: performance.zone,
      venue: performance.place?.venue ?? '',
      room: performance.place?.room ?? '',
      town: performance.place?.town ?? '',
      country: performance.place?.country ?? '',
      address: performance.place?.address ?? '',
      capacity:
        performance.place?.capacity === null || performance.place === null ? '' : String(performance.place.capacity),
      price: tickets.mode === 'free entry' ? 'free' : money(priceOf(false)),
      concession: money(priceOf(true)),
      currency: tickets.currency,
      line_up: content.lineUp
        .map((entry) => (entry.role === 'headliner' ? entry.name : `${entry.name} (${entry.role})`))
        .join('; '),
      teaser: content.words.teaser,
      text: writePlain(readMarkup(content.words.full)),
      public: publicity.visibility === 'public' ? 'yes' : 'no',
      announce: publicity.announce ? `${publicity.announce.date} ${publicity.announce.time}` : '',
      tickets_link: tickets.mode === 'elsewhere' ? (tickets.link ?? '') : '',
      tags: content.tags.join('; '),
      hashtags: content.hashtags.join('; '),
      audience: content.audience.who === 'everyone' ? '' : audienceName(content.audience),
      organiser: facts.organiser?.name ?? '',
      on_sale: opens?.kind === 'at' ? `${opens.date} ${opens.time}` : '',
    },
    facts.secrets,
  );
}
