'use client';

import { useHotkeys } from '@mantine/hooks';
import { useRouter } from 'next/navigation';
import { useCallback, useRef, useState } from 'react';
import { sameData } from '@/core/base/same-data';
import { findingWords } from '@/core/findings/finding-words';
import { settleCarried } from '@/core/record/copy-record';
import type { RecordContent } from '@/core/record/record';
import { noAnswer } from '../no-answer';
import type { RecordScreenProps, SaveAnswer } from './record-screen-props';
import type { DraftState } from './use-record-draft';

/** A save that met another's: both versions are to be brought together. */
export type Conflict = Extract<SaveAnswer, { kind: 'merge' }>;

const unreached: SaveAnswer = {
  kind: 'stopped',
  messages: ['The save did not reach the house. Your changes are kept here; try again.'],
};

/**
 * Saving a record, by the button or by Ctrl+S from every field, and what came of it. `unread`: what was typed into a
 * field that cannot hold it; nothing is saved past that.
 */
export function useSaveRecord(
  { context, save, saved }: Pick<RecordScreenProps, 'context' | 'save' | 'saved'>,
  state: DraftState,
  unread: () => string[],
) {
  const router = useRouter();
  const [saving, setSaving] = useState(false);
  const [coming, setComing] = useState(0);
  const [tried, setTried] = useState(context.id !== null);
  const [messages, setMessages] = useState<string[]>([]);
  const [reason, setReason] = useState('');
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const underWay = useRef(false);
  const ask = async (content: RecordContent): Promise<SaveAnswer> => {
    underWay.current = true;
    setSaving(true);
    const answer = await save({ id: context.id, base: state.base.revision, content, reason }).catch(() => unreached);
    underWay.current = false;
    setSaving(false);
    return answer;
  };
  const submit = async (then: 'stay' | 'dispatch') => {
    const [sent, read] = [state.latest(), state.readNow()];
    const typed = unread();
    const same =
      typed.length === 0 &&
      then === 'stay' &&
      context.id !== null &&
      read.ok &&
      sameData(read.value, state.base.content);
    // Nothing to save, or a save on its way: the key says so as the button does.
    if (underWay.current || same) return;
    if (coming > 0) return setMessages(['A file is still on its way. Save once it is there.']);
    setTried(true);
    setMessages([]);
    if (!read.ok || typed.length > 0) return setMessages([...typed, ...(read.ok ? [] : read.error.map(findingWords))]);
    const answer = await ask(read.value);
    if (answer.kind === 'stopped') return setMessages(answer.messages);
    if (answer.kind === 'missing')
      return setMessages(['This record is not there any more. Your changes are kept here.']);
    if (answer.kind === 'merge') return setConflict(answer);
    setReason('');
    const kept = answer.kind === 'saved' ? answer.content : null;
    const content = kept ?? settleCarried(state.base.content, read.value);
    state.saved(sent, { id: answer.id, revision: answer.revision, content });
    if (then === 'dispatch') router.push(`/dispatch?record=${answer.id}`);
    else if (context.id === null) router.replace(`/records/${answer.id}`);
    else router.refresh();
  };
  const sayYes = async (listings: string[]) => {
    setSaving(true);
    setMessages([]);
    const answer = await saved?.sayYes(listings).catch(() => noAnswer);
    setSaving(false);
    if (answer) setMessages([answer]);
    router.refresh();
  };
  useHotkeys([['mod+S', () => void submit('stay')]], [], true);
  return {
    submit: (then: 'stay' | 'dispatch') => void submit(then),
    sayYes: (listings: string[]) => void sayYes(listings),
    busy: saving || conflict !== null || coming > 0,
    /** A file is on its way, or came: a save waits for it. */
    onBusy: useCallback((on: boolean) => setComing((n) => n + (on ? 1 : -1)), []),
    /** A save was tried, or the record was saved before: what is missing is told. */
    tried,
    messages,
    tell: setMessages,
    reason,
    setReason,
    conflict,
    /** Takes what both versions were brought together to. */
    merge({ revision, theirs }: Conflict, merged: RecordContent) {
      state.settle(revision, theirs, merged);
      setConflict(null);
    },
  };
}

export type Saving = ReturnType<typeof useSaveRecord>;
