import type { LeftDraft } from '../use-kept';
import { cutToFit } from '@/core/base/graphemes';
import { momentWords } from '@/core/dates/date-words';
import classes from '../RecordForm.module.css';

interface LeftDraftsProps {
  left: readonly LeftDraft[];
  /** The revision that stands now; `0`: none yet. */
  revision: number;
  /** The zone that moments are shown in. */
  zone: string;
  goOn: (left: LeftDraft) => void;
  drop: (left: LeftDraft) => void;
}

/** What was typed here and left without saving: to go on with, or to throw away. */
export function LeftDrafts({ left, revision, zone, goOn, drop }: LeftDraftsProps) {
  return left.map((item) => {
    const words = cutToFit(item.draft.title.trim() || item.draft.words.teaser.trim() || 'no title yet', 60);
    return (
      <p key={item.name} className={classes.notice} role="status">
        Left here without saving, {momentWords(item.at, zone)}: “{words}”
        {item.revision === revision ? '' : `, on revision ${item.revision}`}.{' '}
        <button type="button" className="plainButton" onClick={() => goOn(item)}>
          Go on with it
        </button>{' '}
        <button type="button" className="plainButton" onClick={() => drop(item)}>
          Throw it away
        </button>
      </p>
    );
  });
}
