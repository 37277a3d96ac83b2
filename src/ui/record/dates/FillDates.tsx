import { Checkbox, Select, Textarea, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import { dateParts, parseTimeOfDay, shortDate } from '@/core/dates/date-words';
import type { PerformanceDraft } from '@/core/record/draft';
import { timesFrom } from '@/core/recurrence/moved-times';
import { pasteDates } from '@/core/dates/paste-dates';
import { recordLimits } from '@/core/record/choices';
import { occurrences, patternWords, recurrenceId, type Occurrence } from '@/core/recurrence/recurrence';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';

interface FillDatesProps {
  performances: PerformanceDraft[];
  today: string;
  onFill: (performances: PerformanceDraft[], rule: string | null) => void;
  onCancel: () => void;
}

/** A performance like the first, on a day that was filled in. */
function filledFrom(first: PerformanceDraft, { id, date, time }: Occurrence, ids: Set<string>): PerformanceDraft {
  return {
    ...first,
    id: freeId(id, ids),
    date,
    ...(time === '' ? {} : timesFrom(first, time)),
    precision: 'exact',
    repeat: null,
    soldOut: false,
    turn: 'none',
    note: '',
  };
}

const days = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
const dayNames = { MO: 'Mon', TU: 'Tue', WE: 'Wed', TH: 'Thu', FR: 'Fri', SA: 'Sat', SU: 'Sun' };

/** Fills a run: weekly, monthly or daily by a pattern, by a rule of one's own, or by pasting dates. */
export function FillDates({ performances, today, onFill, onCancel }: FillDatesProps) {
  const [first] = performances;
  const [way, setWay] = useState<'pattern' | 'paste'>('pattern');
  const [replace, setReplace] = useState(false);
  const [found, setFound] = useState<{ dates: Occurrence[]; rule: string | null; problems: string[] }>({
    dates: [],
    rule: null,
    problems: [],
  });
  if (!first) return null;
  const have = new Set(performances.map((performance) => `${performance.date} ${performance.start}`));
  const fresh = replace ? found.dates : found.dates.filter((date) => !have.has(`${date.date} ${date.time}`));
  const fill = () => {
    const ids = new Set(replace ? [] : performances.map((performance) => performance.id));
    const made = fresh.map((occurrence) => filledFrom(first, occurrence, ids));
    onFill(replace ? made : [...performances, ...made], found.rule);
  };
  const full = (replace ? 0 : performances.length) + fresh.length > recordLimits.performances;
  return (
    <div className={classes.newVenue} role="group" aria-label="Fill dates">
      <div className={classes.inline}>
        {(['pattern', 'paste'] as const).map((text) => (
          <button
            key={text}
            type="button"
            className={classes.tab}
            aria-pressed={way === text}
            onClick={() => setWay(text)}
          >
            {text === 'pattern' ? 'by pattern' : 'pasted dates'}
          </button>
        ))}
      </div>
      {way === 'pattern' ? (
        <PatternFields first={first} onFound={setFound} />
      ) : (
        <PasteFields today={today} start={first.start} onFound={setFound} />
      )}
      {found.problems.map((words) => (
        <p key={words} className="problem">
          {words}
        </p>
      ))}
      {full ? (
        <p className="problem">
          A record holds at most {recordLimits.performances.toLocaleString('en')} performances. Take fewer dates.
        </p>
      ) : null}
      {fresh.length > 0 ? (
        <p className={classes.muted}>
          {fresh.length} {fresh.length === 1 ? 'date' : 'dates'}:{' '}
          {fresh
            .slice(0, 6)
            .map((occurrence) => `${shortDate(occurrence.date)}${occurrence.time === '' ? '' : ` ${occurrence.time}`}`)
            .join(', ')}
          {fresh.length > 6 ? ` … ${shortDate(fresh[fresh.length - 1]?.date ?? '', true)}` : ''}
        </p>
      ) : null}
      <div className={classes.inline}>
        <Checkbox
          label={`in place of the ${performances.length === 1 ? 'one' : performances.length} there ${performances.length === 1 ? 'is' : 'are'}`}
          checked={replace}
          onChange={(e) => setReplace(e.currentTarget.checked)}
        />
        <button type="button" className="quietButton" disabled={fresh.length === 0 || full} onClick={fill}>
          {replace ? 'Put in their place' : 'Add'} {fresh.length} {fresh.length === 1 ? 'performance' : 'performances'}
        </button>
        <button type="button" className="plainButton" onClick={onCancel}>
          Never mind
        </button>
      </div>
    </div>
  );
}

type OnFound = (found: { dates: Occurrence[]; rule: string | null; problems: string[] }) => void;

interface PatternFieldsProps {
  first: PerformanceDraft;
  onFound: OnFound;
}

function PatternFields(props: PatternFieldsProps) {
  const pattern = usePattern(props);
  const { typed, set } = pattern;
  return (
    <>
      <PatternGrid pattern={pattern} />
      {typed.every === 'week' ? (
        <div className={classes.inline}>
          {days.map((day) => (
            <Checkbox
              key={day}
              label={dayNames[day]}
              checked={typed.on.includes(day)}
              onChange={(e) =>
                set({
                  on: e.currentTarget.checked ? [...typed.on, day] : typed.on.filter((candidate) => candidate !== day),
                })
              }
            />
          ))}
        </div>
      ) : null}
      {typed.every === 'month' ? <p className={classes.muted}>{monthWords(typed.from)}</p> : null}
      <button type="button" className="plainButton" onClick={() => set({})}>
        Show the dates
      </button>
    </>
  );
}

/** The pattern as it is typed, and the dates that it makes. */
function usePattern({ first, onFound }: PatternFieldsProps) {
  const weekday = days[(new Date(`${first.date}T00:00:00Z`).getUTCDay() + 6) % 7] ?? 'MO';
  const [typed, setTyped] = useState({
    every: 'week',
    interval: '1',
    on: [weekday] as string[],
    from: first.date,
    count: '8',
    times: first.start,
    except: '',
    extra: '',
    rule: '',
  });
  const set = (part: Partial<typeof typed>) => {
    const next = { ...typed, ...part };
    setTyped(next);
    onFound(findDates(next, first.zone));
  };
  return { typed, set };
}

type Pattern = ReturnType<typeof usePattern>;

/** How often, from when, until when. */
function PatternGrid({ pattern: { typed, set } }: { pattern: Pattern }) {
  return (
    <div className={classes.grid}>
      <Select
        className={classes.w2}
        label="Every"
        data={['day', 'week', 'month', 'rule of my own']}
        value={typed.every}
        allowDeselect={false}
        onChange={(every) => set({ every: every ?? 'week' })}
      />
      {typed.every === 'rule of my own' ? (
        <TextInput
          className={classes.w4}
          label="Rule (RFC 5545)"
          placeholder="FREQ=MONTHLY;BYDAY=1FR;COUNT=6"
          value={typed.rule}
          onChange={(e) => set({ rule: e.currentTarget.value })}
        />
      ) : (
        <>
          <TextInput
            className={classes.w1}
            label="Every n"
            value={typed.interval}
            onChange={(e) => set({ interval: e.currentTarget.value })}
          />
          <TextInput
            className={classes.w1}
            label="How many"
            value={typed.count}
            onChange={(e) => set({ count: e.currentTarget.value })}
          />
        </>
      )}
      <DateField className={classes.w2} label="From" value={typed.from} onDate={(from) => set({ from })} />
      <TextInput
        className={classes.w2}
        label="At (several: 11:00, 14:00)"
        value={typed.times}
        onChange={(e) => set({ times: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w2}
        label="Not on"
        placeholder="16 March, 23 March"
        value={typed.except}
        onChange={(e) => set({ except: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w2}
        label="Also on"
        placeholder="Thu 18 March"
        value={typed.extra}
        onChange={(e) => set({ extra: e.currentTarget.value })}
      />
    </div>
  );
}

/**
 * The id, or the first of `id-b`, `id-c` … that no performance has: one that was moved keeps the id of the date it was
 * made for.
 */
function freeId(id: string, taken: Set<string>): string {
  const free =
    [id, ...Array.from('bcdefghijklmnopqrstuvwxyz', (letter) => `${id}-${letter}`)].find(
      (candidate) => !taken.has(candidate),
    ) ?? `${id}-${taken.size}`;
  taken.add(free);
  return free;
}

/** `the second Friday of the month`. */
function monthWords(from: string): string {
  const { day, weekday } = dateParts(from);
  return `on the ${['first', 'second', 'third', 'fourth', 'fifth'][Math.ceil(day / 7) - 1]} ${weekday} of the month`;
}

function findDates(
  typed: {
    every: string;
    interval: string;
    on: string[];
    from: string;
    count: string;
    times: string;
    except: string;
    extra: string;
    rule: string;
  },
  zone: string,
): { dates: Occurrence[]; rule: string | null; problems: string[] } {
  const list = (text: string) => text.split(/[\s,;]+/).filter((candidate) => candidate !== '');
  const times = list(typed.times).map((text) => parseTimeOfDay(text) ?? `?${text}`);
  const wrong = times.find((time) => time.startsWith('?'));
  if (wrong)
    return { dates: [], rule: null, problems: [`“${wrong.slice(1)}” is no time of day. Write it like 19:30.`] };
  if (typed.every !== 'rule of my own' && !(/^\d{1,4}$/.test(typed.count) && Number(typed.count) > 0))
    return { dates: [], rule: null, problems: [`“${typed.count}” is no number of times. Write a whole number.`] };
  if (typed.every !== 'rule of my own' && !/^[1-9]\d{0,2}$/.test(typed.interval.trim()))
    return {
      dates: [],
      rule: null,
      problems: [`“${typed.interval}” is no step. Write a whole number: 2 for every other ${typed.every}.`],
    };
  const [except, extra] = [typed.except, typed.extra].map((text) =>
    text.trim() === '' ? { dates: [], problems: [] } : pasteDates(text, typed.from),
  );
  const odd = [
    ...(except?.problems.map((problem) => `Not on: ${problem.why}`) ?? []),
    ...(extra?.problems.map((problem) => `Also on: ${problem.why}`) ?? []),
  ];
  if (odd.length > 0) return { dates: [], rule: null, problems: odd.slice(0, 6) };
  const on = (found: typeof except) => found?.dates.map((date) => date.date) ?? [];
  const day = days[(new Date(`${typed.from}T00:00:00Z`).getUTCDay() + 6) % 7];
  const nth = Math.ceil(dateParts(typed.from).day / 7);
  const parts: Record<string, string> = {
    day: 'FREQ=DAILY',
    week: `FREQ=WEEKLY;WKST=MO;BYDAY=${typed.on.join(',') || day}`,
    month: `FREQ=MONTHLY;BYDAY=${nth}${day}`,
  };
  const rule =
    typed.every === 'rule of my own'
      ? typed.rule
      : `${parts[typed.every]};INTERVAL=${Number(typed.interval)};COUNT=${typed.count}`;
  const made = occurrences({ rule, first: typed.from, times, except: on(except), extra: on(extra), zone });
  return made.ok
    ? { dates: made.value, rule, problems: [] }
    : { dates: [], rule: null, problems: [patternWords(made.error)] };
}

function PasteFields({ today, start, onFound }: { today: string; start: string; onFound: OnFound }) {
  const [text, setText] = useState('');
  const hint = useMemo(() => `Thu 18 March 2027 19:30\n2027-03-25, 11:00, 14:00`, []);
  const read = (next: string) => {
    setText(next);
    const { dates, problems } = pasteDates(next, today);
    const all = dates.flatMap((date) =>
      (date.times.length > 0 ? date.times : [start]).map((time) => ({
        id: recurrenceId(date.date, time || '00:00'),
        date: date.date,
        time,
      })),
    );
    const unique = [...new Map(all.map((item) => [item.id, item])).values()];
    onFound({
      dates: unique,
      rule: null,
      problems: problems
        .slice(0, 6)
        .map((problem) => `Line ${problem.line}, “${problem.text.slice(0, 60)}”: ${problem.why}`),
    });
  };
  return (
    <Textarea
      label="One date a line, with or without times"
      autosize
      minRows={3}
      maxRows={10}
      placeholder={hint}
      value={text}
      onChange={(e) => read(e.currentTarget.value)}
    />
  );
}
