import dynamic from 'next/dynamic';
import { memo } from 'react';
import { instantOf } from '@/core/base/zones';
import { isPost, type ChannelRules } from '@/core/listing/channel-rules';
import { noticePart } from '@/core/listing/parts';
import { newNotice } from '@/core/record/new-record';
import { notFetched } from '@/ui/not-fetched';
import { useChannels } from '@/ui/use-channels';
import { freshPartId, Section } from '../form-parts';
import type { Notice, NoticesSectionProps } from './notices-props';
import classes from '../RecordForm.module.css';

/** Fetched where there is one. */
const NoticeFields = dynamic(() => import('./NoticeFields').then(({ NoticeFields }) => NoticeFields, notFetched));

/** Posts about the event, one by one: written by hand or from the facts, pinned or not, each with how it stands. */
export const NoticesSection = memo(function NoticesSection({
  notices,
  onChange,
  error,
  facts,
  context,
  listings,
  today,
  preview,
  wordings,
}: NoticesSectionProps) {
  const carriers = useChannels().all.filter(({ rules }) => rules.notice !== null);
  const put = (next: Notice) => onChange(notices.map((notice) => (notice.id === next.id ? next : notice)));
  return (
    <Section
      id="notices"
      title="Posts and letters"
      aside={notices.length === 0 ? 'about the event, beside its listings' : undefined}
    >
      {notices.map((notice, i) => (
        <NoticeFields
          key={notice.id}
          notice={notice}
          at={`notices.${i}`}
          error={error}
          facts={facts}
          context={context}
          today={today}
          listing={listings.find((l) => l.channel === notice.channel && l.part === noticePart(notice.id))}
          onChange={put}
          onRemove={() => onChange(notices.filter((other) => other.id !== notice.id))}
          preview={preview}
          wordings={wordings}
          carriers={carriers.map(({ rules }) => ({ value: rules.id, label: rules.name }))}
          onAgain={(channel) =>
            onChange([
              ...notices,
              copied(notice, channel, {
                now: facts.now,
                rules: carriers.find((carrier) => carrier.rules.id === channel)?.rules,
              }),
            ])
          }
        />
      ))}
      <div className={classes.inline}>
        {carriers.map(({ rules }) => (
          <button
            key={rules.id}
            type="button"
            className="plainButton"
            onClick={() => onChange([...notices, newNotice(freshPartId(), rules.id)])}
          >
            Write a {carrierWord(rules)} for {rules.name}
          </button>
        ))}
      </div>
    </Section>
  );
});

const carrierWord = (rules: Pick<ChannelRules, 'notice' | 'rows'>) => (isPost(rules) ? 'post' : 'letter');

/** The same for another account: with its moment, where that has not passed, and its pin, where there are pins. */
function copied(
  notice: Notice,
  channel: string,
  { now, rules }: { now: number; rules: ChannelRules | undefined },
): Notice {
  const { notBefore } = notice;
  const at = notBefore === null ? null : instantOf(notBefore, notBefore.zone);
  return {
    ...notice,
    id: freshPartId(),
    channel,
    notBefore: at !== null && at > now ? notBefore : null,
    segment: '',
    pin: notice.pin && (rules?.rows.some((row) => row.field === 'pinned') ?? false),
    offSince: null,
  };
}
