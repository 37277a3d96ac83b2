import { Select, Textarea, TextInput } from '@mantine/core';
import type { TicketsDraft } from '@/core/record/draft';
import { shortDate } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';
import type { Facts } from '@/core/facts/facts';
import { type FieldError } from '../form-parts';
import { WindowField } from './WindowField';
import classes from '../RecordForm.module.css';

interface BookingFieldsProps {
  tickets: TicketsDraft;
  onChange: (part: Partial<TicketsDraft>) => void;
  error: FieldError;
  facts: Facts;
  now: number;
}

/**
 * What holds for the whole sale: the most seats and the most in one order, when booking closes and why, and what is
 * told of it.
 */
export function BookingFields({ tickets, onChange, error, facts, now }: BookingFieldsProps) {
  const closes = facts.bookingCloses;
  const zone = facts.performances[0]?.zone ?? 'UTC';
  return (
    <>
      <Limits {...{ tickets, onChange, error }} />
      <OwnWords {...{ tickets, onChange, error }} />
      <WindowField
        label="Booking closes"
        otherwise="at the start"
        end={tickets.closes}
        start={new Date(now).toISOString().slice(0, 10)}
        onChange={(end) => onChange({ closes: end })}
        error={error('tickets.closes.time') ?? error('tickets.closes.date')}
      />
      {tickets.closes === null ? null : (
        <TextInput
          mt={4}
          label="Why, for ourselves"
          value={tickets.closesWhy}
          placeholder="for the catering"
          error={error('tickets.closesWhy')}
          onChange={(e) => onChange({ closesWhy: e.currentTarget.value })}
        />
      )}
      {closes === null ? null : (
        <p className={classes.muted}>
          For the next date that is {shortDate(toLocal(closes, zone).date)} at {toLocal(closes, zone).time}.
        </p>
      )}
    </>
  );
}

/** The most seats and the most in one order, what is told of the sale, and what is added. */
function Limits({ tickets, onChange, error }: Pick<BookingFieldsProps, 'tickets' | 'onChange' | 'error'>) {
  return (
    <div className={classes.grid}>
      <TextInput
        className={classes.w2}
        label="Seats in all levels, at most"
        value={tickets.total}
        placeholder="what the room holds"
        inputMode="numeric"
        error={error('tickets.total')}
        onChange={(e) => onChange({ total: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w2}
        label="Tickets in one order, at most"
        value={tickets.mostPerOrder}
        placeholder="not said"
        inputMode="numeric"
        error={error('tickets.mostPerOrder')}
        onChange={(e) => onChange({ mostPerOrder: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w2}
        label="Tell seats left, from so few on"
        value={tickets.showLeft}
        placeholder="never"
        inputMode="numeric"
        error={error('tickets.showLeft')}
        onChange={(e) => onChange({ showLeft: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w4}
        label="How members show that they are"
        value={tickets.membersProof}
        placeholder="with the card at the door"
        error={error('tickets.membersProof')}
        onChange={(e) => onChange({ membersProof: e.currentTarget.value })}
      />
      <Select
        className={classes.w2}
        label="Tax"
        data={[
          { value: 'unsaid', label: 'not said' },
          { value: 'included', label: 'included' },
          { value: 'none', label: 'none is due' },
        ]}
        value={tickets.tax}
        allowDeselect={false}
        onChange={(tax) => onChange({ tax: (tax ?? 'unsaid') as TicketsDraft['tax'] })}
      />
      <TextInput
        className={classes.w2}
        label="Service fee of our own, each ticket"
        value={tickets.serviceFee}
        placeholder="none"
        inputMode="decimal"
        error={error('tickets.serviceFee')}
        onChange={(e) => onChange({ serviceFee: e.currentTarget.value })}
      />
    </div>
  );
}

/** What the seller's letter says in our words, to who bought one and to who bought several. */
function OwnWords({
  tickets: { letter },
  onChange,
  error,
}: Pick<BookingFieldsProps, 'tickets' | 'onChange' | 'error'>) {
  return (
    <>
      <Textarea
        mt={8}
        label="The seller’s letter to who bought, in our words"
        autosize
        minRows={1}
        maxRows={6}
        value={letter.words}
        error={error('tickets.letter.words')}
        onChange={(e) => onChange({ letter: { ...letter, words: e.currentTarget.value } })}
      />
      {letter.words !== '' || letter.several !== '' ? (
        <Textarea
          mt={8}
          label="The same to who bought several tickets, where that is another"
          autosize
          minRows={1}
          maxRows={6}
          value={letter.several}
          error={error('tickets.letter.several')}
          onChange={(e) => onChange({ letter: { ...letter, several: e.currentTarget.value } })}
        />
      ) : null}
    </>
  );
}
