import { Checkbox } from '@mantine/core';
import { isPost } from '@/core/listing/channel-rules';
import { newNotice } from '@/core/record/new-record';
import type { RecordDraft } from '@/core/record/draft';
import { useChannels } from '@/ui/use-channels';
import { freshPartId } from '../form-parts';
import type { DraftState } from '../use-record-draft';
import classes from '../RecordForm.module.css';

interface PostsOfferedProps {
  notices: RecordDraft['notices'];
  onChange: DraftState['change'];
}

/**
 * Posts about the event, offered where it is decided that it goes out: one tick writes one from the facts, as long as
 * the account takes it. What a person wrote is not taken away by a tick.
 */
export function PostsOffered({ notices, onChange }: PostsOfferedProps) {
  const accounts = useChannels().all.filter(({ row, rules }) => row.connected && isPost(rules));
  if (accounts.length === 0) return null;
  const own = (channel: string) => notices.filter((notice) => notice.channel === channel);
  const flip = (channel: string, on: boolean) =>
    onChange((draft) => ({
      notices: on
        ? [...draft.notices, newNotice(freshPartId(), channel)]
        : draft.notices.filter((notice) => notice.channel !== channel || notice.words.trim() !== ''),
    }));
  return (
    <div className={classes.inline} role="group" aria-label="Posts about it">
      <span>Post about it on</span>
      {accounts.map(({ rules }) => {
        const mine = own(rules.id);
        return (
          <Checkbox
            key={rules.id}
            label={mine.length > 1 ? `${rules.name} (${mine.length})` : rules.name}
            checked={mine.length > 0}
            disabled={mine.some((notice) => notice.words.trim() !== '')}
            onChange={(e) => flip(rules.id, e.currentTarget.checked)}
          />
        );
      })}
      <span>
        {notices.length === 0 ? 'Written from the facts; changed' : 'Their words and moments stand'} under{' '}
        <a href="#notices">Posts and letters</a>.
      </span>
    </div>
  );
}
