import type { KnownDay } from '@/core/dates/date-words';
import dynamic from 'next/dynamic';
import { Radio, TextInput } from '@mantine/core';
import type { Undo } from '@/core/listing/operations';
import type { Way } from '@/core/errands/steps';
import type { PlainLockedChange } from '@/views/dispatch';
import { withStop } from '@/core/base/with-stop';
import { wordsOf } from '@/core/listing/value-words';
import classes from './Dispatch.module.css';
import type { Picked } from './picked';
import { notFetched } from '@/ui/not-fetched';

/** Fetched when somebody leaves something as it is until a day. */
const DateField = dynamic(() => import('@/ui/date-field').then(({ DateField }) => DateField, notFetched), {
  ssr: false,
});

interface WayPickerProps {
  listing: string;
  /** Code of the event, to be typed where a way cannot be taken back. */
  eventCode: string;
  /** Its first day, until which something may stay as it is, as far as it is known. */
  eventDate: KnownDay;
  locked: readonly PlainLockedChange[];
  ways: readonly Way[];
  picked: Picked | null;
  onPick: (picked: Picked | null) => void;
}

const undoWords = (undo: Undo) =>
  undo.how === 'wholly'
    ? ''
    : undo.how === 'never'
      ? ' It cannot be taken back.'
      : ` It can be taken back in part: ${undo.stays}`;

/**
 * What is locked on a channel, why, and the ways through: each with what it does, whom it tells and what it leaves
 * wrong. Nothing is picked beforehand.
 */
export function WayPicker({ listing, eventCode, eventDate, locked, ways, picked, onPick }: WayPickerProps) {
  const way = ways.find((way) => way.id === picked?.way);
  const put = (part: Partial<Picked>) =>
    onPick({ way: '', reason: '', code: '', until: eventDate.length === 10 ? eventDate : '', ...picked, ...part });
  return (
    <div className={classes.locked}>
      {locked.slice(0, 6).map((change) => (
        <p key={change.key}>
          <b>{change.label}</b> {brief(wordsOf(change.before))} <span aria-hidden="true">→</span>{' '}
          {brief(wordsOf(change.after))}: {withStop(change.why)}
        </p>
      ))}
      {locked.length > 6 ? <p>and {locked.length - 6} more</p> : null}
      <Radio.Group
        aria-label="What is to be done about it"
        value={picked?.way ?? ''}
        onChange={(value) => put({ way: value })}
      >
        {ways.map((way) => (
          <Radio
            key={way.id}
            value={way.id}
            name={`way-${listing}`}
            size="xs"
            mt={4}
            label={way.title}
            description={`${way.does}${way.tells === 'nobody' ? '' : ` Tells ${way.tells}.`}${undoWords(way.undo)}${way.leaves === '' ? '' : ` ${way.leaves}`}`}
          />
        ))}
      </Radio.Group>
      {way?.needs.includes('reason') ? (
        <TextInput
          size="xs"
          mt={6}
          label="Why, in public words"
          value={picked?.reason ?? ''}
          onChange={(e) => put({ reason: e.currentTarget.value })}
        />
      ) : null}
      {way?.id === 'leave' ? (
        <>
          <TextInput
            size="xs"
            mt={6}
            label="Why it stays as it is there"
            description="For ourselves: it stands with your name in the record and in the dispatch"
            value={picked?.reason ?? ''}
            onChange={(e) => put({ reason: e.currentTarget.value })}
          />
          <DateField
            className={classes.until}
            label="Until the end of"
            value={picked?.until === '' ? null : (picked?.until ?? null)}
            onDate={(until) => put({ until })}
          />
          <p className={classes.wait}>Then it asks again.</p>
        </>
      ) : null}
      {way?.needs.includes('code') ? (
        <TextInput
          size="xs"
          mt={6}
          w={220}
          label={`Type ${eventCode}: it cannot be taken back`}
          value={picked?.code ?? ''}
          onChange={(e) => put({ code: e.currentTarget.value })}
        />
      ) : null}
    </div>
  );
}

const brief = (words: string) => (words.length > 80 ? `${words.slice(0, 79)}…` : words);
