import type { Mention } from '@/core/words/mention';
import { tokenText } from '@/core/words/tokens';
import classes from './MentionList.module.css';

const verdictWords = {
  contradicts: 'contradicts the record',
  stale: 'was right once',
  typed: 'typed: it will not follow the record',
};

interface MentionListProps {
  mentions: readonly Mention[];
  /** Turns one into its token. */
  onTurn: (mention: Mention) => void;
}

/**
 * Typed facts that are wrong, were right once, or will not follow; each with what the record says and one press to its
 * token.
 */
export function MentionList({ mentions, onTurn }: MentionListProps) {
  // What is wrong comes first; of what is merely typed, only what a token would stand for is worth a line.
  const shown = [
    ...mentions.filter((mention) => mention.verdict !== 'typed'),
    ...mentions.filter((mention) => mention.verdict === 'typed' && mention.token !== null),
  ].slice(0, 8);
  if (shown.length === 0) return null;
  return (
    <ul className={classes.mentions} aria-label="Typed facts">
      {shown.map((mention) => (
        <li key={`${mention.from} ${mention.text}`} data-verdict={mention.verdict}>
          “{mention.text}” {verdictWords[mention.verdict]}
          {mention.verdict === 'typed' ? '' : `: ${mention.says}`}
          {mention.token ? (
            <>
              {' '}
              ·{' '}
              <button type="button" className="plainButton" onClick={() => onTurn(mention)}>
                use {tokenText(mention.token)}
              </button>
            </>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
