import { Textarea } from '@mantine/core';
import { useDeferredValue, useMemo, useState } from 'react';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { ChannelRules } from '@/core/listing/channel-rules';
import { unitOf } from '@/core/listing/channel-rules';
import { countIn } from '@/core/words/fit';
import { plainToHtml, readMarkup, writePlain } from '@/core/words/markup';
import { overridable } from '@/core/listing/proof';
import type { Override } from '@/core/record/record';
import type { Mention, MentionContext } from '@/core/words/mention';
import { tokenText } from '@/core/words/tokens';
import { MentionList } from '@/ui/mention-list';
import { useFindMentions } from '@/ui/mention-list/use-find-mentions';
import classes from './ProofColumn.module.css';

interface ByHandProps {
  listing: SurveyedListing;
  /** The field that is worded by hand. */
  field: string;
  rules: ChannelRules;
  /** What stands by hand already. */
  override: Override | null;
  /** What typed facts are held against. */
  context: MentionContext;
  onOverride: (next: { value: string; from: string } | null) => void;
  onClose: () => void;
}

/**
 * Words one field of one channel by hand. What the record says there is remembered, so that a later move beneath it is
 * seen.
 */
export function ByHand({ listing, field, rules, override, context, onOverride, onClose }: ByHandProps) {
  const row = rules.rows.find((row) => row.field === field);
  const rich = row?.kind === 'rich';
  const record = listing.beneath[field] ?? overridable(listing.proof[field]);
  const plain = (words: string) => (rich ? writePlain(readMarkup(words)) : words);
  const [typed, setTyped] = useState(plain(override?.value ?? record));
  const slow = useDeferredValue(typed);
  const findMentions = useFindMentions();
  const mentions = useMemo(() => findMentions(slow, context), [findMentions, slow, context]);
  const asToken = ({ from, to, token }: Mention) =>
    token && setTyped(typed.slice(0, from) + tokenText(token) + typed.slice(to));
  const length = countIn(typed, unitOf(row));
  const over = row?.limit !== undefined && length > row.limit;
  return (
    <div className={classes.handPanel} role="group" aria-label={`${rules.name} ${row?.label ?? field} by hand`}>
      <Textarea
        autoFocus
        label={`${row?.label ?? field}, for ${rules.name} alone`}
        autosize
        minRows={1}
        maxRows={8}
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        description={
          row?.among
            ? `${row.among.most > 1 ? `up to ${row.among.most}, with “, ” between, of` : 'one of'}: ${row.among.words.join(', ')}`
            : row?.limit === undefined
              ? undefined
              : `${length} of ${row.limit}${over ? ': it will be cut' : ''}`
        }
      />
      <MentionList mentions={slow === typed ? mentions : []} onTurn={asToken} />
      {override ? <p>The record says: {plain(record).slice(0, 200) || 'nothing'}</p> : null}
      <div>
        <button
          type="button"
          className="plainButton"
          onClick={() => {
            onOverride({ value: rich ? plainToHtml(typed) : typed, from: record });
            onClose();
          }}
        >
          Word it so
        </button>{' '}
        {override ? (
          <button
            type="button"
            className="plainButton"
            onClick={() => {
              onOverride(null);
              onClose();
            }}
          >
            Follow the record again
          </button>
        ) : null}{' '}
        <button type="button" className="plainButton" onClick={onClose}>
          Never mind
        </button>
      </div>
    </div>
  );
}
