import { Checkbox, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Facts } from '@/core/facts/facts';
import type { LevelDraft, TicketsDraft } from '@/core/record/draft';
import { moneyWords } from '@/core/base/money';
import { firstFee } from '@/core/facts/sale';
import { buyers, type Buyers, type WindowEnd } from '@/core/record/ticket-schema';
import { splitFee } from '@/core/facts/tickets/fees';
import type { House } from '@/core/facts/tickets/seats';
import { parseTimeOfDay } from '@/core/dates/date-words';
import { FeeHelp } from './FeeHelp';
import { narrow, RowProblems, type FieldError } from '../form-parts';
import { DateField } from '@/ui/date-field';
import classes from '../RecordForm.module.css';

const names: Record<Buyers, string> = {
  anyone: 'full price',
  concession: 'reduced',
  group: 'for groups',
  members: 'members',
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

/** The price levels, one a line, with what the buyer pays and what is left; the rest of a level opens below its line. */
export function LevelTable({
  tickets,
  onChange,
  facts,
  house,
  error: allErrors,
  now,
  fresh,
  onLeave,
}: LevelTableProps) {
  const [open, setOpen] = useState<string | null>(null);
  const set = (id: string, part: Partial<LevelDraft>) =>
    onChange({ ...tickets, levels: tickets.levels.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  const sums = new Map(house.levels.map((one) => [one.id, one]));
  const fee = firstFee(facts.outlets);
  const prices = new Map(facts.levels.map((one) => [one.id, one.minor]));
  return (
    <>
      {tickets.levels.map((level, i) => {
        const at = `tickets.levels.${i}`;
        const isFresh = level.id === fresh;
        const error = isFresh ? quiet : allErrors;
        const minor = prices.get(level.id);
        const sum = sums.get(level.id);
        const paid = minor === undefined ? null : splitFee(minor, fee);
        const faulty = ['least', 'most', 'admits', 'opens', 'closes'].some((key) => error(`${at}.${key}`));
        return (
          <div
            key={level.id}
            role="group"
            aria-label={`Price level ${i + 1}`}
            className={i > 0 ? classes.nextRow : undefined}
            onBlur={(e) => {
              if (isFresh && !e.currentTarget.contains(e.relatedTarget)) onLeave();
            }}
          >
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
                {paid && paid.fee > 0 ? (
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
              <button
                type="button"
                className="plainButton"
                aria-expanded={open === level.id || faulty}
                onClick={() => setOpen(open === level.id ? null : level.id)}
              >
                {windowWords(level)}
              </button>
            </div>
            <RowProblems error={error} row={at} fields={['buyers', 'price', 'quantity', 'admits', 'least', 'most']} />
            {open === level.id || faulty ? (
              <LevelDetails
                level={level}
                at={at}
                error={error}
                pools={tickets.pools}
                set={(part) => set(level.id, part)}
                now={now}
                fee={fee}
                currency={tickets.currency}
                onRemove={() => onChange({ ...tickets, levels: tickets.levels.filter((one) => one.id !== level.id) })}
              />
            ) : null}
          </div>
        );
      })}
    </>
  );
}

/** What is set apart of a level, for the line. */
function windowWords({ opens, closes, admits, most, choose, code, buyers: who }: LevelDraft): string {
  const end = (one: WindowEnd | null, word: string) =>
    one === null
      ? ''
      : one.kind === 'at'
        ? `${word} ${one.date.slice(5)}`
        : `${word} −${one.amount} ${one.unit === 'days' ? 'd' : 'h'}`;
  const words = [
    end(opens, 'from'),
    end(closes, 'to'),
    admits === '1' ? '' : `admits ${admits}`,
    most === '' ? '' : `max ${most}`,
    choose ? 'pay what you like' : '',
    who === 'code' && code !== '' ? code : '',
  ].filter((part) => part !== '');
  return words.length === 0 ? 'more' : words.join(', ');
}

interface DetailsProps {
  level: LevelDraft;
  at: string;
  error: FieldError;
  pools: TicketsDraft['pools'];
  set: (part: Partial<LevelDraft>) => void;
  now: number;
  fee: ReturnType<typeof firstFee>;
  currency: TicketsDraft['currency'];
  onRemove: () => void;
}

function LevelDetails({ level, at, error, pools, set, now, fee, currency, onRemove }: DetailsProps) {
  return (
    <div className={classes.openRow}>
      <div className={classes.grid}>
        <TextInput
          className={classes.w1}
          label="Admits"
          value={level.admits}
          {...narrow(error, at, 'admits')}
          onChange={(e) => set({ admits: e.currentTarget.value })}
        />
        <TextInput
          className={classes.w1}
          label="At least"
          value={level.least}
          {...narrow(error, at, 'least')}
          onChange={(e) => set({ least: e.currentTarget.value })}
        />
        <TextInput
          className={classes.w1}
          label="At most"
          value={level.most}
          placeholder="any"
          {...narrow(error, at, 'most')}
          onChange={(e) => set({ most: e.currentTarget.value })}
        />
        {level.buyers === 'code' ? (
          <TextInput
            className={classes.w2}
            label="Code"
            value={level.code}
            onChange={(e) => set({ code: e.currentTarget.value })}
          />
        ) : null}
        {pools.length > 0 ? (
          <Select
            className={classes.w2}
            label="Part of the house"
            data={pools.map((one) => ({ value: one.id, label: one.name }))}
            value={level.poolId}
            clearable
            clearSectionMode="clear"
            placeholder="all of it"
            onChange={(poolId) => set({ poolId })}
          />
        ) : null}
      </div>
      <WindowField
        label="On sale from"
        end={level.opens}
        start={new Date(now).toISOString().slice(0, 10)}
        onChange={(opens) => set({ opens })}
        error={error(`${at}.opens.time`) ?? error(`${at}.opens.date`)}
      />
      <WindowField
        label="On sale until"
        end={level.closes}
        start={new Date(now).toISOString().slice(0, 10)}
        onChange={(closes) => set({ closes })}
        error={error(`${at}.closes.time`) ?? error(`${at}.closes.date`)}
      />
      <div className={classes.inline}>
        <Checkbox
          label="pay what you like, from the price upwards"
          checked={level.choose}
          onChange={(e) => set({ choose: e.currentTarget.checked })}
        />
        <button type="button" className="plainButton" onClick={onRemove}>
          Take this price level out
        </button>
      </div>
      {fee ? <FeeHelp fee={fee} currency={currency} onTake={(price) => set({ price })} /> : null}
    </div>
  );
}

function WindowField({
  label,
  end,
  start,
  onChange,
  error,
}: {
  label: string;
  end: WindowEnd | null;
  start: string;
  onChange: (end: WindowEnd | null) => void;
  error: string | undefined;
}) {
  const [time, setTime] = useState(end?.kind === 'at' ? end.time : '10:00');
  const kind = end === null ? 'always' : end.kind;
  const choose = (next: string | null) =>
    onChange(
      next === 'at'
        ? { kind: 'at', date: start, time: '10:00' }
        : next === 'before'
          ? { kind: 'before', amount: 3, unit: 'days' }
          : null,
    );
  return (
    <div className={classes.inline}>
      <Select
        w={170}
        label={label}
        data={[
          { value: 'always', label: label.endsWith('from') ? 'at once' : 'the start' },
          { value: 'at', label: 'a moment' },
          { value: 'before', label: 'so long before the start' },
        ]}
        value={kind}
        allowDeselect={false}
        onChange={choose}
      />
      {end?.kind === 'at' ? (
        <>
          <DateField w={150} label="Date" value={end.date} onDate={(date) => onChange({ ...end, date })} />
          <TextInput
            w={70}
            label="At"
            value={time}
            error={error}
            onChange={(e) => {
              setTime(e.currentTarget.value);
              const read = parseTimeOfDay(e.currentTarget.value);
              if (read) onChange({ ...end, time: read });
            }}
          />
          <span>local time of each date</span>
        </>
      ) : null}
      {end?.kind === 'before' ? (
        <>
          <TextInput
            w={60}
            label="So many"
            value={String(end.amount)}
            onChange={(e) =>
              onChange({ ...end, amount: Math.min(1000, Number(e.currentTarget.value.replace(/\D/g, '')) || 0) })
            }
          />
          <Select
            w={90}
            label="Unit"
            data={['days', 'hours']}
            value={end.unit}
            allowDeselect={false}
            onChange={(unit) => onChange({ ...end, unit: unit === 'hours' ? 'hours' : 'days' })}
          />
          <span>before the start</span>
        </>
      ) : null}
    </div>
  );
}
