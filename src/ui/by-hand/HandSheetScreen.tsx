'use client';

import { Textarea, TextInput } from '@mantine/core';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { countGraphemes } from '@/core/base/graphemes';
import type { Result } from '@/core/base/result';
import { momentWords } from '@/core/dates/date-words';
import { useMay } from '@/ui/may/May';
import { LeftNote, useTyped } from '@/ui/typed';
import type { HandSheet } from '@/views/by-hand';
import classes from './ByHand.module.css';

interface HandSheetScreenProps {
  sheet: HandSheet;
  done: (input: { address: string }) => Promise<Result<null, Record<string, string>>>;
  failed: (word: string) => Promise<Result<null, Record<string, string>>>;
}

/** A sheet to type from: each field as the place calls it, in its order, with a key to copy it; then that it is done. */
export function HandSheetScreen({ sheet, done, failed }: HandSheetScreenProps) {
  const { title, code, channelName, does, due, now, zone, where, fields, block, stop, changed, recordId } = sheet;
  const changes = fields.some(({ lines }) => lines.some(({ before }) => before !== ''));
  return (
    <div className={classes.sheet}>
      <p>
        <Link href="/dispatch">Dispatch</Link>
      </p>
      <h1>
        {channelName}: {does.toLowerCase()}
      </h1>
      <p>
        <Link href={`/records/${recordId}`}>{title}</Link> <span className="code">{code}</span>
        {due === null ? null : (
          <>
            {' · '}
            <span className={due < now ? classes.late : undefined}>
              {due < now ? 'was to be there by' : 'to be there by'} {momentWords(due, zone)}
            </span>
          </>
        )}
      </p>
      {where === '' ? null : <p>{/^https?:\/\//.test(where) ? <a href={where}>{where}</a> : where}</p>}
      {stop === null ? null : (
        <p className="problem" role="alert">
          {stop}
        </p>
      )}
      {changed ? (
        <p role="status">
          The record says something else by now: type this, and what changed comes as a task of its own.
        </p>
      ) : null}
      {block === null ? null : <Block block={block} changes={changes} />}
      {fields.length === 0 && block === null ? (
        <p>Nothing is to be typed: {does.toLowerCase()} is all there is to it.</p>
      ) : null}
      {changes && block === null ? <p>Only what is another there: what stood there before is struck through.</p> : null}
      <dl className={classes.lines}>
        {fields.map((item) => (
          <Field key={item.field} {...item} copies={block === null} />
        ))}
      </dl>
      <Ending sheet={sheet} done={done} failed={failed} />
    </div>
  );
}

/** A block to paste, whole, with a key to copy it. */
function Block({ block, changes }: { block: string; changes: boolean }) {
  return (
    <>
      <p>
        {changes
          ? 'Paste this over the block that stands there. What it changes is listed below it.'
          : 'Paste this into the page where the event is to stand: words for people, and the same for programs.'}{' '}
        <CopyKey text={block} name="the block" />
      </p>
      <pre className={classes.block} tabIndex={0} aria-label="The block">
        {block}
      </pre>
    </>
  );
}

/** Copies a text. */
function CopyKey({ text, name }: { text: string; name: string }) {
  const [copied, setCopied] = useState(false);
  const copy = () =>
    void navigator.clipboard.writeText(text).then(
      () => setCopied(true),
      () => setCopied(false),
    );
  return (
    <button type="button" className="quietButton" aria-label={`Copy ${name}`} onClick={copy}>
      {copied ? 'Copied' : 'Copy'}
    </button>
  );
}

/** One field: what the place calls it, and what is typed there. */
function Field({ label, limit, lines, copies }: HandSheet['fields'][number] & { copies: boolean }) {
  const all = lines.map(({ text }) => text).join('\n');
  return (
    <div>
      <dt>
        {label}
        {limit === null ? null : (
          <small>
            {countGraphemes(all)} of {limit}
          </small>
        )}
      </dt>
      <dd>
        <div className={classes.text}>
          {lines.map(({ text, before }, i) => (
            <p key={i}>
              {before === '' ? null : (
                <>
                  <del>{before}</del>{' '}
                </>
              )}
              {text === '' ? 'nothing: leave it empty' : text}
            </p>
          ))}
        </div>
        {all === '' || !copies ? null : <CopyKey text={all} name={label} />}
      </dd>
    </div>
  );
}

/** What became of it: done, with the address of its page, or not to be done, with a word. */
function Ending({ sheet, done, failed }: HandSheetScreenProps) {
  const router = useRouter();
  const kept = useTyped(`by-hand-task-${sheet.errand}`, { address: sheet.address, word: '' });
  const { address, word } = kept.typed;
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, start] = useTransition();
  if (!useMay('send')) return null;
  const run = (work: () => Promise<Result<null, Record<string, string>>>) =>
    start(async () => {
      const none = { ok: false as const, error: { task: 'The house did not answer. Try once more.' } };
      const answer = await work().catch(() => none);
      setErrors(answer.ok ? {} : answer.error);
      if (!answer.ok) return;
      kept.settle(kept.typed);
      router.push('/dispatch');
    });
  return (
    <div className={classes.ending}>
      <LeftNote form={kept} name="What is said of it" />
      {errors.task ? (
        <p className="problem" role="alert">
          {errors.task}
        </p>
      ) : null}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          run(() => done({ address }));
        }}
      >
        <TextInput
          label="Address of its page there, where it has one"
          placeholder="https://"
          value={address}
          error={errors.address}
          onChange={(e) => kept.setTyped({ address: e.currentTarget.value, word })}
        />
        <button type="submit" className="sendButton" disabled={busy}>
          {sheet.stop === null ? 'Done' : 'It was done already'}
        </button>
      </form>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          run(() => failed(word));
        }}
      >
        <Textarea
          label="It could not be done: why"
          autosize
          minRows={1}
          maxLength={200}
          value={word}
          error={errors.word}
          onChange={(e) => kept.setTyped({ address, word: e.currentTarget.value })}
        />
        <button type="submit" className="quietButton" disabled={busy}>
          It could not be done
        </button>
      </form>
    </div>
  );
}
