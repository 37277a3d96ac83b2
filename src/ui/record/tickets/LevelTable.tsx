import { Opener } from '@/ui/may/Opener';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { Select, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { Facts } from '@/core/facts/facts';
import type { LevelDraft, TicketsDraft } from '@/core/record/draft';
import { moneyWords } from '@/core/base/money';
import { firstFee } from '@/core/facts/sale';
import type { WindowEnd } from '@/core/record/ticket-schema';
import { buyByCode, buyers, type Buyers } from '@/core/record/choices';
import { splitFee } from '@/core/facts/tickets/fees';
import type { House } from '@/core/facts/tickets/seats';
import { shortDate } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import { narrow, RowProblems, type FieldError } from '../form-parts';
import classes from '../RecordForm.module.css';

const LevelDetails = dynamic(() => import('./LevelDetails').then(({ LevelDetails }) => LevelDetails, notFetched));

const names: Record<Buyers, string> = {
  anyone: 'full price',
  concession: 'reduced',
  group: 'for groups',
  members: 'members',
  'non-members': 'non-members',
  code: 'by code',
  invited: 'invited',
};
const buyerNames = buyers.map((value) => ({ value, label: names[value] }));

interface LevelTableProps {
  tickets: TicketsDraft;
  onChange: (tickets: TicketsDraft) => void;
  facts: Facts;
  house: House;
  error: FieldError;
  now: number;
  /** A level that was added just now and not left yet. */
  fresh: string | null;
  onLeave: () => void;
}

const quiet: FieldError = Object.assign(() => undefined, { paths: [] });

/**
 * The price levels, one a line, with what the buyer pays and what is left; the rest of a level opens below its line.
 */
export function LevelTable(props: LevelTableProps) {
  const table = useLevelSums(props);
  const { tickets } = table;
  return (
    <>
      {tickets.levels.map((level, i) => (
        <LevelRow key={level.id} table={table} level={level} i={i} />
      ))}
    </>
  );
}

/** What the levels are reckoned and changed with. */
function useLevelSums({ tickets, onChange, facts, house, error: allErrors, now, fresh, onLeave }: LevelTableProps) {
  const [open, setOpen] = useState<string | null>(null);
  const set = (id: string, part: Partial<LevelDraft>) =>
    onChange({ ...tickets, levels: tickets.levels.map((level) => (level.id === id ? { ...level, ...part } : level)) });
  const sums = new Map(house.levels.map((level) => [level.id, level]));
  const fee = firstFee(facts.outlets);
  const prices = new Map(facts.levels.map((level) => [level.id, level.minor]));
  const dates = useMemo(
    () =>
      facts.performances.map((performance) => ({
        value: performance.id,
        label: `${shortDate(performance.date)}${performance.start === null ? '' : ` ${toLocal(performance.start, performance.zone).time}`}`,
      })),
    [facts.performances],
  );
  const service = facts.serviceFee?.minor ?? null;
  return { fresh, allErrors, prices, sums, fee, service, onLeave, set, tickets, open, setOpen, dates, now, onChange };
}

type LevelSums = ReturnType<typeof useLevelSums>;

interface LevelRowProps {
  table: LevelSums;
  level: LevelDraft;
  i: number;
}

/** One price level: what it costs, what becomes of that, and who may buy it. */
function LevelRow(props: LevelRowProps) {
  const row = useLevelRowState(props);
  const { i, isFresh, onLeave, error, at, open, level, faulty, tickets, dates, set, now, fee, service, onChange } = row;

  return (
    <div
      role="group"
      aria-label={`Price level ${i + 1}`}
      className={i > 0 ? classes.nextRow : undefined}
      onBlur={(e) => {
        if (isFresh && !e.currentTarget.contains(e.relatedTarget)) onLeave();
      }}
    >
      <LevelHead row={row} />
      <RowProblems
        error={error}
        row={at}
        fields={['buyers', 'price', 'quantity', 'admits', 'least', 'most', 'taxPercent']}
      />
      {open === level.id || faulty ? (
        <LevelDetails
          level={level}
          at={at}
          error={error}
          pools={tickets.pools}
          dates={dates}
          set={(part) => set(level.id, part)}
          now={now}
          fee={fee}
          service={service}
          currency={tickets.currency}
          onRemove={() =>
            onChange({ ...tickets, levels: tickets.levels.filter((levelDraft) => levelDraft.id !== level.id) })
          }
        />
      ) : null}
    </div>
  );
}

/** What a level costs and brings, and what is wrong with it. */
function useLevelRowState({
  table: { fresh, allErrors, prices, sums, fee, service, onLeave, set, tickets, open, setOpen, dates, now, onChange },
  level,
  i,
}: LevelRowProps) {
  const at = `tickets.levels.${i}`;
  const isFresh = level.id === fresh;
  const error = isFresh ? quiet : allErrors;
  const minor = prices.get(level.id);
  const sum = sums.get(level.id);
  const paid = minor === undefined ? null : splitFee(minor, fee, service);
  const faulty = ['least', 'most', 'admits', 'taxPercent', 'opens', 'closes', 'covers', 'words'].some((key) =>
    error(`${at}.${key}`),
  );
  return {
    isFresh,
    level,
    error,
    at,
    set,
    paid,
    tickets,
    sum,
    open,
    faulty,
    setOpen,
    i,
    onLeave,
    dates,
    now,
    fee,
    service,
    onChange,
  };
}

type LevelRowState = ReturnType<typeof useLevelRowState>;

/** The level itself: name, price, quantity, buyers, and what becomes of the price. */
function LevelHead({
  row: { isFresh, level, error, at, set, paid, tickets, sum, open, faulty, setOpen },
}: {
  row: LevelRowState;
}) {
  return (
    <div className={classes.level}>
      <TextInput
        label="Price level"
        autoFocus={isFresh}
        value={level.name}
        error={error(`${at}.name`)}
        onChange={(e) => set(level.id, { name: e.currentTarget.value })}
      />
      <TextInput
        label={level.choose ? 'Price, at least' : 'Price'}
        value={level.price}
        inputMode="decimal"
        {...narrow(error, at, 'price')}
        onChange={(e) => set(level.id, { price: e.currentTarget.value })}
      />
      <TextInput
        label="Tickets"
        value={level.quantity}
        inputMode="numeric"
        placeholder="room"
        {...narrow(error, at, 'quantity')}
        onChange={(e) => set(level.id, { quantity: e.currentTarget.value })}
      />
      <Select
        label="What it is"
        placeholder="say"
        data={buyerNames}
        value={level.buyers === '' ? null : level.buyers}
        allowDeselect={false}
        {...narrow(error, at, 'buyers')}
        onChange={(value) => set(level.id, { buyers: (value ?? '') as LevelDraft['buyers'] })}
      />
      <div className={classes.sums}>
        {paid && (paid.fee > 0 || paid.buyerPays > paid.face) ? (
          <span>
            {paid.buyerPays === paid.face
              ? `keeps ${moneyWords(paid.net, tickets.currency)}`
              : `pays ${moneyWords(paid.buyerPays, tickets.currency)}`}
          </span>
        ) : null}
        {sum ? (
          <span data-none={sum.sellable === 0 || undefined}>
            {sum.sellable === null ? '' : `${sum.sellable} left`}
            {sum.sold > 0 ? `, ${sum.sold} sold` : ''}
          </span>
        ) : null}
      </div>
      <Opener
        className="plainButton"
        aria-expanded={open === level.id || faulty}
        onClick={() => setOpen(open === level.id ? null : level.id)}
      >
        {windowWords(level)}
      </Opener>
    </div>
  );
}

/** What is set apart of a level, for the line. */
function windowWords({
  opens,
  closes,
  admits,
  most,
  taxPercent,
  choose,
  code,
  buyers: who,
  covers,
}: LevelDraft): string {
  const end = (item: WindowEnd | null, word: string) =>
    item === null
      ? ''
      : item.kind === 'at'
        ? `${word} ${item.date.slice(5)}`
        : `${word} −${item.amount} ${item.unit === 'days' ? 'd' : 'h'}`;
  const words = [
    end(opens, 'from'),
    end(closes, 'to'),
    admits === '1' ? '' : `${admits} people`,
    most === '' ? '' : `max ${most}`,
    covers.kind === 'one' ? '' : { all: 'all dates', any: 'several dates', chosen: 'named dates' }[covers.kind],
    taxPercent === '' ? '' : `${taxPercent} % tax`,
    choose ? 'pay what you like' : '',
    buyByCode.has(who) && code !== '' ? code : '',
  ].filter((part) => part !== '');
  return words.length === 0 ? 'more' : words.join(', ');
}
