import { Textarea } from '@mantine/core';
import { useRef, useState } from 'react';
import { countIn, type CountIn } from '@/core/words/fit';
import type { Mention } from '@/core/words/mention';
import { tokenBeingTyped, tokens, tokenText, type Token } from '@/core/words/tokens';
import { MentionList } from '@/ui/mention-list';
import classes from '../RecordForm.module.css';

interface FactTextProps {
  label: string;
  /** The most that this length should have, and in what it is counted; as people see it, where it is not said. */
  limit: number;
  unit?: CountIn;
  rows: number;
  value: string;
  onChange: (text: string) => void;
  error: string | undefined;
  /** Typed facts found in the text. */
  mentions: readonly Mention[];
  drafted: boolean;
  /** Drafts it from a longer length; `null`: there is none, or something is written already. */
  onDraft: (() => void) | null;
  onLooked: () => void;
}

/** A plain text that may hold tokens: offered while one types, with the typed facts listed beneath. */
export function FactText({
  label,
  limit,
  unit = 'graphemes',
  rows,
  value,
  onChange,
  error,
  mentions,
  drafted,
  onDraft,
  onLooked,
}: FactTextProps) {
  const area = useRef<HTMLTextAreaElement>(null);
  const [caret, setCaret] = useState<number | null>(null);
  const typing = caret === null ? null : tokenBeingTyped(value.slice(0, caret));
  const put = (from: number, to: number, text: string) => {
    onChange(value.slice(0, from) + text + value.slice(to));
    setCaret(null);
    requestAnimationFrame(() => {
      area.current?.focus();
      area.current?.setSelectionRange(from + text.length, from + text.length);
    });
  };
  const offer = (token: Token) => typing && caret !== null && put(caret - typing.typed.length, caret, tokenText(token));
  const asToken = (mention: Mention) => mention.token && put(mention.from, mention.to, tokenText(mention.token));
  return (
    <div className={classes.factText}>
      <Textarea
        ref={area}
        label={label}
        autosize
        minRows={rows}
        maxRows={12}
        value={value}
        error={error}
        description={
          <Length length={countIn(value, unit)} limit={limit} drafted={drafted} onDraft={onDraft} onLooked={onLooked} />
        }
        onChange={(e) => {
          onChange(e.currentTarget.value);
          setCaret(e.currentTarget.selectionStart);
        }}
        onBlur={() => setTimeout(() => setCaret(null), 200)}
        onKeyDown={(e) => {
          if (typing && typing.matches[0] && (e.key === 'Tab' || e.key === 'Enter')) {
            e.preventDefault();
            offer(typing.matches[0]);
          } else if (typing && e.key === 'Escape') setCaret(null);
          else if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
            const at = e.currentTarget.selectionStart;
            const here = mentions.find((mention) => mention.from <= at && at <= mention.to && mention.token !== null);
            if (here) {
              e.preventDefault();
              asToken(here);
            }
          }
        }}
      />
      {typing && typing.matches.length > 0 ? <TokenMenu matches={typing.matches} onPick={offer} /> : null}
      <MentionList mentions={mentions} onTurn={asToken} />
    </div>
  );
}

/** How long it is, and where it comes from. */
function Length({
  length,
  limit,
  drafted,
  onDraft,
  onLooked,
}: Pick<FactTextProps, 'limit' | 'drafted' | 'onDraft' | 'onLooked'> & { length: number }) {
  return (
    <>
      {length} of {limit}
      {length > limit ? ': longer than it should be; some channels will cut it' : ''}
      {onDraft ? (
        <>
          {' '}
          ·{' '}
          <button type="button" className="plainButton" onClick={onDraft}>
            draft it from the longer text
          </button>
        </>
      ) : null}
      {drafted ? (
        <>
          {' '}
          · <b className={classes.drafted}>a draft</b>{' '}
          <button type="button" className="plainButton" onClick={onLooked}>
            it is good
          </button>
        </>
      ) : null}
    </>
  );
}

/** The tokens that begin with what was typed; Tab takes the first. */
export function TokenMenu({ matches, onPick }: { matches: readonly Token[]; onPick: (token: Token) => void }) {
  return (
    <ul className={classes.tokens} aria-label="Tokens">
      {matches.slice(0, 9).map((token, i) => (
        <li key={token}>
          <button
            type="button"
            data-first={i === 0 || undefined}
            onMouseDown={(e) => {
              e.preventDefault();
              onPick(token);
            }}
          >
            <code>{token}</code> {tokens[token]}
          </button>
        </li>
      ))}
    </ul>
  );
}
