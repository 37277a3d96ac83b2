import { Checkbox, Select, TextInput } from '@mantine/core';
import dynamic from 'next/dynamic';
import { useDeferredValue, useMemo } from 'react';
import { momentWords } from '@/core/dates/date-words';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { addDays, toLocal } from '@/core/base/zones';
import { isPost, unitOf } from '@/core/listing/channel-rules';
import { standingWords } from '@/core/listing/standing';
import { DateField } from '@/ui/date-field';
import { useFindMentions } from '@/ui/mention-list/use-find-mentions';
import { notFetched } from '@/ui/not-fetched';
import { Pennant } from '@/ui/pennant';
import { useChannels } from '@/ui/use-channels';
import { FactText } from './FactText';
import { PutInWording } from './PutInWording';
import type { Notice, NoticesSectionProps } from './notices-props';
import classes from '../RecordForm.module.css';

const NoticePreview = dynamic(() => import('./NoticePreview').then(({ NoticePreview }) => NoticePreview, notFetched));

interface NoticeFieldsProps extends Pick<
  NoticesSectionProps,
  'error' | 'facts' | 'context' | 'today' | 'preview' | 'wordings'
> {
  notice: Notice;
  /** Path of the notice in the record. */
  at: string;
  /** How it stands on its channel; missing where that is not known yet. */
  listing: SurveyedListing | undefined;
  onChange: (notice: Notice) => void;
  onRemove: () => void;
  /** Accounts on which it can be said again. */
  carriers: readonly { value: string; label: string }[];
  /** Says it again on one of them: a notice of its own, with words that can be other ones. */
  onAgain: (channel: string) => void;
}

/** One post or letter: its words, what goes with it, and when. */
export function NoticeFields(props: NoticeFieldsProps) {
  const item = useNoticeChanges(props);
  const { rules, notice, error, at, slow, mentions, onChange, body, listing, preview } = item;
  return (
    <div
      className={classes.noticeItem}
      role="group"
      aria-label={`${rules && !isPost(rules) ? 'Letter' : 'Post'} for ${rules?.name ?? notice.channel}`}
    >
      <NoticeHead item={item} />
      <Letter item={item} />
      <FactText
        label="Words"
        limit={rules?.notice?.limit ?? 1800}
        unit={unitOf(rules?.rows.find((row) => row.field === 'body'))}
        rows={2}
        value={notice.words}
        error={error(`${at}.words`)}
        mentions={slow === notice.words ? mentions : []}
        drafted={false}
        onDraft={null}
        onLooked={() => undefined}
        onChange={(words) => onChange({ ...notice, words })}
      />
      {notice.words.trim() === '' && body?.kind === 'text' ? (
        <p className={classes.noticeText}>
          {body.text} <span>from the facts</span>
        </p>
      ) : null}
      {rules?.previews === true && listing ? (
        <NoticePreview channel={rules.id} shown={listing.proof} preview={preview} />
      ) : null}
      <NoticeChoices item={item} />
      <OwnMoment item={item} />
    </div>
  );
}

/** What a notice is edited with. */
function useNoticeChanges(props: NoticeFieldsProps) {
  const {
    notice,
    at,
    error,
    facts,
    context,
    listing,
    today,
    preview,
    onChange,
    onRemove,
    carriers,
    wordings,
    onAgain,
  } = props;
  const slow = useDeferredValue(notice.words);
  const findMentions = useFindMentions();
  const mentions = useMemo(() => findMentions(slow, { ...context, facts }), [findMentions, slow, context, facts]);
  const rules = useChannels().of(notice.channel)?.rules;
  const has = (field: string) => rules?.rows.some((row) => row.field === field) ?? false;
  const zone = facts.performances[0]?.zone ?? 'UTC';
  const { notBefore } = notice;
  const body = listing?.proof.body;
  return {
    notBefore,
    onChange,
    notice,
    error,
    at,
    has,
    wordings,
    rules,
    today,
    facts,
    zone,
    listing,
    carriers,
    onAgain,
    onRemove,
    slow,
    mentions,
    body,
    preview,
  };
}

type NoticeChanges = ReturnType<typeof useNoticeChanges>;

/** Which notice it is, how it stands, and what is done with the whole. */
function NoticeHead({
  item: { listing, rules, notice, zone, carriers, onAgain, onChange, onRemove },
}: {
  item: NoticeChanges;
}) {
  return (
    <header>
      <Pennant standing={listing?.standing ?? null} silent size={20} />
      <b>{rules?.name}</b>
      <span>
        {notice.offSince === null ? stateWords(listing, zone) : `taken off: planned before it was ${notice.offSince}`}
      </span>
      <Select
        size="xs"
        w={170}
        ml="auto"
        aria-label={`Copy to, from ${rules?.name ?? notice.channel}`}
        placeholder="Copy to …"
        data={[...carriers]}
        value={null}
        onChange={(channel) => channel !== null && onAgain(channel)}
      />
      {notice.offSince === null ? null : (
        <button type="button" className="plainButton" onClick={() => onChange({ ...notice, offSince: null })}>
          Put it back
        </button>
      )}
      <button type="button" className="plainButton" onClick={onRemove}>
        {listing?.state.sent ? 'Take it down' : 'Remove'}
      </button>
    </header>
  );
}

/** Of a letter: its subject, and to whom it goes. */
function Letter({ item: { has, listing, notice, onChange, error, at } }: { item: NoticeChanges }) {
  if (!has('subject')) return null;
  return (
    <div className={classes.grid}>
      <TextInput
        className={classes.w4}
        label="Subject"
        placeholder={proofText(listing, 'subject')}
        value={notice.subject}
        onChange={(e) => onChange({ ...notice, subject: e.currentTarget.value })}
        error={error(`${at}.subject`)}
      />
      <TextInput
        className={classes.w2}
        label="To whom"
        placeholder={proofText(listing, 'segment') || 'a segment of the list'}
        value={notice.segment}
        onChange={(e) => onChange({ ...notice, segment: e.currentTarget.value })}
        error={error(`${at}.segment`)}
      />
    </div>
  );
}

/** What goes with it: a pin, a wording, a moment of its own. */
function NoticeChoices({
  item: { has, notice, onChange, wordings, rules, notBefore, today, facts, zone },
}: {
  item: NoticeChanges;
}) {
  return (
    <div className={classes.inline}>
      {has('pinned') && has('publisher') ? (
        <Checkbox
          label="pinned"
          checked={notice.pin}
          onChange={(e) => onChange({ ...notice, pin: e.currentTarget.checked })}
        />
      ) : null}
      {facts.hashtags.length > 0 && notice.words.trim() !== '' && !has('subject') ? (
        <Checkbox
          label="hashtags behind the words"
          checked={notice.hashtags}
          onChange={(e) => onChange({ ...notice, hashtags: e.currentTarget.checked })}
        />
      ) : null}
      {facts.ticketed ? (
        <Checkbox
          label="tells those who bought"
          checked={notice.holders}
          onChange={(e) => onChange({ ...notice, holders: e.currentTarget.checked })}
        />
      ) : null}
      <PutInWording
        label={`Put in a wording, ${rules?.name ?? notice.channel}`}
        wordings={wordings}
        onPut={({ text }) => onChange({ ...notice, words: [notice.words.trim(), text].filter(Boolean).join(' ') })}
      />
      <Checkbox
        label="not before a moment of its own"
        checked={notBefore !== null}
        onChange={(e) =>
          onChange({
            ...notice,
            notBefore: e.currentTarget.checked ? { ...firstMoment(today, facts.now, zone), zone } : null,
          })
        }
      />
    </div>
  );
}

/** The moment before which it does not go. */
function OwnMoment({ item: { notBefore, onChange, notice, error, at } }: { item: NoticeChanges }) {
  if (notBefore === null) return null;
  return (
    <div className={classes.grid}>
      <DateField
        className={classes.w3}
        label="Goes out on"
        value={notBefore.date}
        onDate={(date) => onChange({ ...notice, notBefore: { ...notBefore, date } })}
        error={error(`${at}.notBefore.date`)}
      />
      <TextInput
        className={classes.w1}
        label="At"
        value={notBefore.time}
        onChange={(e) => onChange({ ...notice, notBefore: { ...notBefore, time: e.currentTarget.value } })}
        error={error(`${at}.notBefore.time`)}
      />
      <p className={`${classes.w2} ${classes.muted}`}>{notBefore.zone}</p>
    </div>
  );
}

/**
 * The moment that a notice begins with: ten o'clock today, or where that has passed tomorrow. One in the past would be
 * missed at once.
 */
function firstMoment(today: string, now: number, zone: string): { date: string; time: string } {
  const local = toLocal(now, zone);
  const passed = local.date > today || (local.date === today && local.time >= '10:00');
  return { date: passed ? addDays(local.date, 1) : today, time: '10:00' };
}

/** What the proof would say in a field where nothing is typed. */
function proofText(listing: SurveyedListing | undefined, field: string): string {
  const value = listing?.proof[field];
  return value?.kind === 'text' ? value.text : '';
}

/** How it stands, and how long its pin still holds. */
function stateWords(listing: SurveyedListing | undefined, zone: string): string {
  if (!listing || listing.standing === null) return 'not sent';
  const name = standingWords[listing.standing].name.toLowerCase();
  const { lapsesAt, sent, observed } = listing.state;
  const pinned = sent?.pinned?.kind === 'flag' && sent.pinned.on;
  if (!pinned || lapsesAt === null) return name;
  const gone = observed?.pinned?.kind === 'flag' && !observed.pinned.on;
  return `${name} · pin ${gone ? 'lapsed' : 'lapses'} ${momentWords(lapsesAt, zone)}`;
}
