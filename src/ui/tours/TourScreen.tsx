'use client';

import { Fields, WhereOpen } from '@/ui/may/Fields';
import { useMay } from '@/ui/may/May';
import { fail } from '@/core/base/result';
import { noAnswer } from '@/ui/no-answer';
import { Select, Textarea, TextInput } from '@mantine/core';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { mostPasteChars } from '@/core/dates/paste-limit';
import { parseTimeOfDay, knownDayWords } from '@/core/dates/date-words';
import type { Result } from '@/core/base/result';
import type { TourShared } from '@/core/record/tour';
import { DateBlock } from '@/ui/date-block';
import { Pennant } from '@/ui/pennant';
import { LeftNote, useTyped } from '@/ui/typed';
import { Still, useReady } from '@/ui/ready';
import { DateField } from '@/ui/date-field';
import type { TourMap, TourStop } from '@/views/tours';
import classes from './Tours.module.css';
import { WorldMap, type MapStop } from './WorldMap';

type StopChange = { id: string; code: string; takes: string[]; keeps: string[] };
export type SaveTourAnswer = Result<{ revision: number; stops: StopChange[] }, { message: string; field: string }[]>;

export interface TourScreenProps {
  tour: { id: string; name: string; revision: number; shared: TourShared };
  stops: TourStop[];
  /** Where those that have a point lie, in their order. */
  map: TourMap;
  channels: { id: string; name: string }[];
  now: number;
  save: (input: { name: string; shared: TourShared; base: number; dry: boolean }) => Promise<SaveTourAnswer>;
  /** What one of its dates says of the shared facts. */
  sharedOfDate: (recordId: string) => Promise<TourShared | null>;
  addDates: (
    text: string,
  ) => Promise<
    Result<
      { made: number; known: number; notes: string[]; broken: { line: number; field: string; text: string }[] },
      string
    >
  >;
}

/** A tour: its dates in order with the way between them, on the map, and what they share. */
export function TourScreen(props: TourScreenProps) {
  const whole = useTourStops(props);
  const writes = useMay('write');
  const { ready, tour, stops, first, last, km, mapped, chosen, setChosen } = whole;
  return (
    <div className={classes.page}>
      <div className={classes.head}>
        <h1>{tour.name}</h1>
        <span>
          {stops.length} {stops.length === 1 ? 'date' : 'dates'}
          {first && last ? `, ${knownDayWords(first.date, false)} to ${knownDayWords(last.date)}` : ''},{' '}
          {km.toLocaleString('en')} km
        </span>
        <Link href={`/season?find=${encodeURIComponent(tour.name)}`}>Its dates in the season</Link>
        <Link href="/tours">All tours</Link>
      </div>
      <Still ready={ready}>
        <div className={classes.top}>
          <WorldMap stops={mapped} map={props.map} chosen={chosen} onChoose={setChosen} />
          <Fields open={writes}>
            <SharedForm key={tour.revision} {...props} />
          </Fields>
        </div>
        {stops.length === 0 ? (
          <p className={classes.muted}>
            No date yet. Paste them below, or open a record and choose this tour under Essentials.
          </p>
        ) : (
          <div className={classes.wide} role="region" aria-label="Table of dates" tabIndex={0}>
            <table className={classes.table} aria-label="Dates of the tour">
              <thead>
                <tr>
                  <th>date</th>
                  <th>start</th>
                  <th>place</th>
                  <th>promoter</th>
                  <th>price</th>
                  <th className={classes.num}>way</th>
                  <th className={classes.num}>rest days</th>
                  <th>of its own</th>
                  <th>channels</th>
                </tr>
              </thead>
              <tbody>
                {stops.map((stop) => (
                  <StopRow key={stop.id} whole={whole} stop={stop} />
                ))}
              </tbody>
            </table>
          </div>
        )}
        {writes ? <PasteDates addDates={props.addDates} /> : null}
      </Still>
    </div>
  );
}

/** The tour with its stops. */
function useTourStops(props: TourScreenProps) {
  const { tour, stops, channels, now } = props;
  const [chosen, setChosen] = useState<string | null>(null);
  const mapped = useMemo<MapStop[]>(
    () =>
      stops.flatMap((stop, i) =>
        stop.point ? [{ id: stop.id, label: `${stop.town}, ${knownDayWords(stop.date, false)}`, n: i + 1 }] : [],
      ),
    [stops],
  );
  const km = stops.reduce((sum, stop) => sum + (stop.km ?? 0), 0);
  const year = new Date(now).getUTCFullYear();
  const [first] = stops;
  const last = stops[stops.length - 1];
  const ready = useReady();
  return { chosen, setChosen, year, channels, ready, tour, stops, first, last, km, mapped, props };
}

type TourStops = ReturnType<typeof useTourStops>;

/** One date of the tour: where, how it stands, and on which channels. */
function StopRow({
  whole: { chosen, setChosen, year, channels },
  stop,
}: {
  whole: TourStops;
  stop: TourScreenProps['stops'][number];
}) {
  const tight = stop.gapHours !== null && stop.neededHours !== null && stop.gapHours < stop.neededHours;
  return (
    <tr
      data-chosen={stop.id === chosen || undefined}
      onMouseEnter={() => setChosen(stop.id)}
      onMouseLeave={() => setChosen(null)}
    >
      <td>
        <Link href={`/records/${stop.id}`} title={`${stop.town}, ${knownDayWords(stop.date)}`}>
          <span className="visuallyHidden">{stop.town}, </span>
          <DateBlock date={stop.date} thisYear={year} />
        </Link>
      </td>
      <td>
        {stop.time}
        <small>{stop.zone.split('/').pop()?.replaceAll('_', ' ')}</small>
      </td>
      <td>
        {stop.town}
        <small>
          {stop.venue}, {stop.country}
        </small>
      </td>
      <td>
        {stop.promoter}
        <small>{stop.link === '' ? 'no link yet' : hostOf(stop.link)}</small>
      </td>
      <td>{stop.price}</td>
      <td className={classes.num}>
        {stop.km === null ? '–' : `${stop.km.toLocaleString('en')} km`}
        {tight ? (
          <small className={classes.tight}>
            {Math.round(stop.gapHours ?? 0)} h, needs {Math.round(stop.neededHours ?? 0)}
          </small>
        ) : null}
      </td>
      <td className={classes.num}>{stop.restDays ?? '–'}</td>
      <td className={classes.own}>{stop.own.join(', ')}</td>
      <td>
        <span className={classes.pennants} data-channels={channels.length > 8 ? 'many' : undefined}>
          {stop.standings.map((standing, i) => (
            <Pennant
              key={channels[i]?.id}
              standing={standing}
              channel={channels[i]?.name ?? ''}
              size={channels.length > 8 ? 16 : 22}
            />
          ))}
        </span>
      </td>
    </tr>
  );
}

function hostOf(link: string): string {
  try {
    return new URL(link).host;
  } catch {
    return link;
  }
}

/** What all dates share. Before it is saved, it is said which dates take it over and which have their own. */
function SharedForm(props: TourScreenProps) {
  const typing = useTyping(props);
  const { kept, name, error, setName, setPreview, shared, set, send, preview, takes, others, keeps } = typing;
  return (
    <section className={classes.shared} aria-label="What the dates share">
      <h2>What the dates share</h2>
      <LeftNote form={kept} name="It" />
      <TextInput
        label="Name of the tour"
        value={name}
        error={error('name')}
        onChange={(e) => {
          setName(e.currentTarget.value);
          setPreview(null);
        }}
      />
      <TextInput
        label="Title of every date"
        value={shared.title}
        error={error('shared.title')}
        onChange={(e) => set({ title: e.currentTarget.value })}
      />
      <TextInput
        label="Subtitle"
        value={shared.subtitle}
        error={error('shared.subtitle')}
        onChange={(e) => set({ subtitle: e.currentTarget.value })}
      />
      <Textarea
        label="Teaser"
        autosize
        minRows={2}
        maxRows={5}
        value={shared.words.teaser}
        error={error('shared.words.teaser')}
        onChange={(e) => set({ words: { ...shared.words, teaser: e.currentTarget.value } })}
      />
      <MomentFields typing={typing} />
      <TakeFrom {...props} onTake={(part) => set(part)} />
      <div className={classes.row}>
        <button type="button" className="quietButton" onClick={() => void send(true)}>
          See what it changes
        </button>
        <button type="button" className="quietButton" disabled={preview === null} onClick={() => void send(false)}>
          Save for {takes.length} {takes.length === 1 ? 'date' : 'dates'}
        </button>
      </div>
      {others.map((other) => (
        <p key={other.message} className="problem">
          {other.message}
        </p>
      ))}
      {preview === null ? null : (
        <p className={classes.outcome} role="status">
          {takes.length === 0
            ? 'No date changes. '
            : `${takes.length} dates take over: ${[...new Set(takes.flatMap((change) => change.takes))].join(', ')}. `}
          {keeps.length > 0
            ? `${keeps.map((change) => change.code).join(', ')} ${keeps.length === 1 ? 'keeps its' : 'keep their'} own ${[...new Set(keeps.flatMap((change) => change.keeps))].join(', ')}.`
            : ''}
        </p>
      )}
    </section>
  );
}

/** What the dates share, as it is typed. */
function useTyping(props: TourScreenProps) {
  const { tour, save } = props;
  const kept = useTyped(tour.id, { name: tour.name, shared: tour.shared });
  const { name, shared } = kept.typed;
  const setName = (name: string) => kept.setTyped((now) => ({ ...now, name }));
  const [time, setTime] = useState(tour.shared.onSale?.time ?? '10:00');
  const [preview, setPreview] = useState<StopChange[] | null>(null);
  const [errors, setErrors] = useState<{ message: string; field: string }[]>([]);
  const set = (part: Partial<TourShared>) => {
    kept.setTyped((now) => ({ ...now, shared: { ...now.shared, ...part } }));
    setPreview(null);
  };
  const send = async (dry: boolean) => {
    const answer = await save({ name, shared, base: tour.revision, dry }).catch(() =>
      fail([{ field: '', message: noAnswer }]),
    );
    if (!answer.ok) return setErrors(answer.error);
    setErrors([]);
    if (!dry) kept.settle(kept.typed);
    setPreview(dry ? answer.value.stops : null);
  };
  const error = (field: string) => errors.find((error) => error.field === field)?.message;
  const others = errors.filter(
    (error) => !['name', 'shared.title', 'shared.subtitle', 'shared.words.teaser'].includes(error.field),
  );
  const takes = preview?.filter((change) => change.takes.length > 0) ?? [];
  const keeps = preview?.filter((change) => change.keeps.length > 0) ?? [];
  return {
    kept,
    shared,
    set,
    time,
    setTime,
    name,
    error,
    setName,
    setPreview,
    props,
    send,
    preview,
    takes,
    others,
    keeps,
  };
}

type Typing = ReturnType<typeof useTyping>;

/** When it is announced, and when the sale opens. */
function MomentFields({ typing: { shared, set, time, setTime } }: { typing: Typing }) {
  return (
    <div className={classes.row}>
      <DateField
        w={150}
        label="On sale, everywhere"
        value={shared.onSale?.date ?? null}
        onDate={(date) => set({ onSale: { date, time: parseTimeOfDay(time) ?? '10:00' } })}
        onClear={() => set({ onSale: null })}
      />
      <TextInput
        w={70}
        label="at"
        value={time}
        onChange={(e) => {
          setTime(e.currentTarget.value);
          const read = parseTimeOfDay(e.currentTarget.value);
          if (read && shared.onSale) set({ onSale: { ...shared.onSale, time: read } });
        }}
      />
      <span>local time</span>
    </div>
  );
}

/** Pictures, line-up and the longer words are made in a record; the tour takes them from one of its dates. */
function TakeFrom({ stops, sharedOfDate, onTake }: TourScreenProps & { onTake: (part: Partial<TourShared>) => void }) {
  const [said, setSaid] = useState('');
  const take = async (id: string | null) => {
    if (id === null) return;
    const shared = await sharedOfDate(id).catch(() => undefined);
    if (shared === undefined) return setSaid(noAnswer);
    if (shared === null) return setSaid('That date is not there any more.');
    onTake({ lineUp: shared.lineUp, pictures: shared.pictures, tags: shared.tags, words: shared.words });
    setSaid(
      `Taken: ${shared.pictures.length} pictures, ${shared.lineUp.length} names, all words. See what it changes, then save.`,
    );
  };
  return (
    <WhereOpen>
      <Select
        label="Take pictures, line-up and words from a date"
        placeholder="choose one"
        data={stops.map((stop) => ({ value: stop.id, label: `${knownDayWords(stop.date, false)}, ${stop.town}` }))}
        value={null}
        onChange={(id) => void take(id)}
        searchable
        limit={40}
      />
      {said === '' ? null : <p className={classes.muted}>{said}</p>}
    </WhereOpen>
  );
}

function PasteDates({ addDates }: Pick<TourScreenProps, 'addDates'>) {
  const [text, setText] = useState('');
  const [said, setSaid] = useState<string[]>([]);
  const add = async () => {
    if (text.length > mostPasteChars)
      return setSaid([
        `More than ${mostPasteChars.toLocaleString('en')} characters. Paste fewer rows, or read them as a file.`,
      ]);
    const report = await addDates(text).catch(() => ({
      ok: false as const,
      error: 'The dates did not reach the house. They are kept here; try again.',
    }));
    if (!report.ok) return setSaid([report.error]);
    setSaid([
      `${report.value.made} dates added, ${report.value.known} known already.`,
      ...report.value.notes,
      ...report.value.broken.map((row) => `Line ${row.line}, ${row.field}: ${row.text}`),
    ]);
    if (report.value.broken.length === 0) setText('');
  };
  return (
    <section className={classes.paste} aria-label="Add dates">
      <h2>Add dates from a table</h2>
      <Textarea
        label="Paste CSV; the first line names the columns"
        autosize
        minRows={3}
        maxRows={12}
        placeholder={
          'date,start,doors,venue,town,country,zone,price,currency,tickets_link,organiser\n2027-06-12,20:00,19:00,Harbour Hall,Bergen,Norway,Europe/Oslo,30,EUR,https://…,Fjord Nights'
        }
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
      />
      <div className={classes.row}>
        <button type="button" className="quietButton" disabled={text.trim() === ''} onClick={() => void add()}>
          Add these dates
        </button>
        <span>Each gets what the tour shares; a row that was read before is not taken twice.</span>
      </div>
      {said.map((words) => (
        <p key={words} className={classes.outcome} role="status">
          {words}
        </p>
      ))}
    </section>
  );
}
