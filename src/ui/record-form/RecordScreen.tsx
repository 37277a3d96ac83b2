'use client';

import { SegmentedControl, Select, TextInput } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { momentWords } from '@/core/date-words';
import { findingWords } from '@/core/finding-words';
import { eventKinds, typedStages, type RecordContent } from '@/core/record';
import { lineUpWords, stageOf } from '@/core/facts';
import { DateBlock } from '@/ui/date-block';
import { ProofColumn } from '@/ui/proof-column';
import { DatesSection } from './DatesSection';
import { fieldErrors, Section } from './form-parts';
import { LineUpSection } from './LineUpSection';
import { MergePanel } from './MergePanel';
import type { MakeVenue } from './NewVenueForm';
import { PictureSection } from './PictureSection';
import { PublicitySection } from './PublicitySection';
import classes from './RecordForm.module.css';
import { SaveBar } from './SaveBar';
import { TicketsSection } from './TicketsSection';
import { forgetDraft, useRecordDraft, type RecordGround } from './use-record-draft';
import { WordsSection } from './WordsSection';

/** What a save came to; the same shape as the use-case gives. */
export type SaveAnswer =
  | { kind: 'saved' | 'unchanged'; id: string; revision: number }
  | { kind: 'stopped'; messages: string[] }
  | { kind: 'merge'; base: RecordContent; theirs: RecordContent; revision: number; actor: string }
  | { kind: 'missing' };

export interface RecordScreenProps {
  ground: RecordGround;
  /** Who saved which revision, newest first. */
  log: { number: number; actor: string; at: number; reason: string }[];
  /** The house's zone. */
  zone: string;
  save: (request: { id: string | null; base: number; content: RecordContent }) => Promise<SaveAnswer>;
  makeVenue: MakeVenue;
}

const sections = [
  ['essentials', 'Essentials', /^(title|subtitle|kind|stage)/],
  ['dates', 'Dates, place', /^performances/],
  ['line-up', 'Line-up', /^lineUp/],
  ['tickets', 'Tickets', /^tickets/],
  ['words', 'Words', /^words/],
  ['picture', 'Picture', /^pictures/],
  ['publicity', 'Publicity', /^publicity/],
  ['history', 'History', /^$/],
] as const;

type Conflict = Extract<SaveAnswer, { kind: 'merge' }>;

/** The record: its sections, its fields, and the proof of every channel beside them. */
export function RecordScreen({ ground, log, zone, save, makeVenue }: RecordScreenProps) {
  const state = useRecordDraft(ground);
  const { draft, change, findings, survey, content } = state;
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [tried, setTried] = useState(ground.id !== null);
  const [messages, setMessages] = useState<string[]>([]);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const visible = useMemo(() => (tried ? findings : findings.filter((one) => one.code !== 'title-empty')), [findings, tried]);
  const error = useMemo(() => fieldErrors(visible), [visible]);

  const submit = async (then: 'stay' | 'dispatch') => {
    setTried(true);
    setMessages([]);
    if (content === null) return setMessages(findings.map(findingWords));
    setBusy(true);
    const answer = await save({ id: ground.id, base: state.base.revision, content }).catch((): SaveAnswer => ({ kind: 'stopped', messages: ['The save did not reach the house. Your changes are kept here; try again.'] }));
    setBusy(false);
    if (answer.kind === 'stopped') return setMessages(answer.messages);
    if (answer.kind === 'missing') return setMessages(['This record is not there any more. Your changes are kept here.']);
    if (answer.kind === 'merge') return setConflict(answer);
    state.settle(answer.revision, content);
    forgetDraft(ground.id);
    if (then === 'dispatch') router.push(`/dispatch?record=${answer.id}`);
    else if (ground.id === null) router.replace(`/records/${answer.id}`);
    else router.refresh();
  };
  useHotkeys([['mod+S', () => void submit('stay')]], []);

  const first = survey.facts.performances.find((one) => (one.end ?? one.start) >= ground.now) ?? survey.facts.performances[0];
  const newer = ground.revision > state.base.revision && conflict === null;
  return (
    <div className={classes.record}>
      <nav className={classes.sections} aria-label="Sections">
        <span className="code">{ground.code || 'new'}</span>
        {sections.map(([id, name, pattern]) => {
          const count = visible.filter((one) => pattern.test(one.field)).length;
          return <a key={id} href={`#${id}`}>{name}{count > 0 ? <i>{count}</i> : null}</a>;
        })}
        {log[0] ? <div className={classes.revision}>revision {log[0].number}<br />by {log[0].actor}, {momentWords(log[0].at, zone).slice(-5)}</div> : null}
      </nav>
      <div className={classes.work}>
        <div className={classes.form}>
          <header className={classes.head}>
            <DateBlock date={first?.date ?? ''} size="large" thisYear={new Date(ground.now).getUTCFullYear()} />
            <div>
              <h1>{draft.title.trim() === '' ? 'Untitled event' : draft.title}</h1>
              <p>{[draft.kind, survey.facts.visibility === 'private' ? 'private' : stageOf(survey.facts, ground.now), first?.place ? (first.place.room ?? first.place.venue) : 'no venue yet', lineUpWords(draft.lineUp)].filter((part) => part !== '' && part !== draft.title).join(' · ')}</p>
            </div>
          </header>
          {newer ? <p className={classes.notice} role="status">Revision {ground.revision} was saved meanwhile{log[0] ? ` by ${log[0].actor}` : ''}. {state.changed ? 'When you save, you will see both versions side by side.' : <button type="button" className="plainButton" onClick={() => state.settle(ground.revision, ground.content)}>Show it</button>}</p> : null}
          {conflict && content ? (
            <MergePanel
              base={conflict.base} mine={content} theirs={conflict.theirs} by={conflict.actor} revision={conflict.revision}
              onMerged={(merged) => { state.settle(conflict.revision, conflict.theirs, merged); setConflict(null); }}
            />
          ) : null}
          <Section id="essentials" title="Essentials">
            <div className={classes.grid}>
              <TextInput className={classes.w6} label="Title" value={draft.title} error={error('title')} onChange={(e) => change({ title: e.currentTarget.value })} />
              <TextInput className={classes.w4} label="Subtitle" value={draft.subtitle} error={error('subtitle')} onChange={(e) => change({ subtitle: e.currentTarget.value })} />
              <Select className={classes.w2} label="Kind" data={[...eventKinds]} value={draft.kind} allowDeselect={false} onChange={(kind) => change({ kind: (kind ?? 'concert') as typeof draft.kind })} />
            </div>
            <div className={classes.inline}><SegmentedControl aria-label="Stage" data={[...typedStages]} value={draft.stage} onChange={(stage) => change({ stage: stage as typeof draft.stage })} /><span>{draft.stage === 'pencilled' ? 'held, and kept in the house' : 'on sale and played follow by themselves'}</span></div>
          </Section>
          <DatesSection performances={draft.performances} onChange={(performances) => change({ performances })} venues={state.venues} error={error} makeVenue={makeVenue} addVenue={state.addVenue} />
          <LineUpSection lineUp={draft.lineUp} onChange={(lineUp) => change({ lineUp })} error={error} />
          <TicketsSection tickets={draft.tickets} onChange={(tickets) => change({ tickets })} words={survey.facts.price.kind === 'priced' ? survey.facts.price.words : ''} error={error} />
          <WordsSection words={draft.words} onChange={(words) => change({ words })} error={error} />
          <PictureSection picture={draft.pictures[0] ?? null} onChange={(picture) => change({ pictures: picture ? [picture] : [] })} error={error} />
          <PublicitySection draft={draft} onChange={change} error={error} />
          <Section id="history" title="History">
            {log.length === 0 ? <p className={classes.muted}>Not saved yet.</p> : <ol className={classes.log}>{log.map((one) => <li key={one.number}><b>Revision {one.number}</b> by {one.actor}, {momentWords(one.at, zone)}{one.reason === '' ? '' : `: ${one.reason}`}</li>)}</ol>}
          </Section>
        </div>
        <SaveBar survey={survey} changed={state.changed} stopped={visible.length} isNew={ground.id === null} busy={busy || conflict !== null} messages={messages} onSave={(then) => void submit(then)} onRevert={() => { state.revert(); setMessages([]); }} />
      </div>
      <ProofColumn listings={survey.listings} picture={draft.pictures[0] ?? null} zone={zone} />
    </div>
  );
}
