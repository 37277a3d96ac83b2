'use client';

import { useHotkeys } from '@mantine/hooks';
import { useRouter } from 'next/navigation';
import { useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import { replacedFacts, settleCarried } from '@/core/record/copy-record';
import { toDraft } from '@/core/record/draft';
import { fieldOf } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import { stageOf } from '@/core/facts/facts';
import { cutToFit } from '@/core/base/graphemes';
import { nextOf } from '@/core/facts/performance-facts';
import { lineUpWords } from '@/core/record/roles';
import { sameData } from '@/core/base/same-data';
import { toLocal } from '@/core/base/zones';
import { DateBlock } from '@/ui/date-block';
import { ProofColumn, type OnOverride } from '@/ui/proof-column';
import { useReady } from '@/ui/ready';
import { useChannels } from '@/ui/use-channels';
import { sells } from '@/core/listing/channel-rules';
import { CarriedPanel } from './sections/CarriedPanel';
import { DatesSection } from './dates/DatesSection';
import { essentialParts, EssentialsSection } from './sections/EssentialsSection';
import { fieldErrors } from './form-parts';
import { HistorySection, type HistoryActions } from './sections/HistorySection';
import { LineUpSection } from './sections/LineUpSection';
import { MergePanel } from './sections/MergePanel';
import { pathWords } from './path-words';
import { NoticesSection } from './words/NoticesSection';
import { PicturesSection } from './pictures/PicturesSection';
import { publicityParts, PublicitySection } from './sections/PublicitySection';
import classes from './RecordForm.module.css';
import { SaveBar } from './SaveBar';
import { Doings } from './sections/Doings';
import { useSectionSetters } from './use-section-setters';
import { asking, sinceWords, withOverride } from './screen-words';
import { TicketsSection } from './tickets/TicketsSection';
import { TourNote } from './dates/TourNote';
import { useParts } from './use-parts';
import { noAnswer } from '../no-answer';
import { useRecordDraft } from './use-record-draft';
import { WordsSection } from './words/WordsSection';
import type { RecordScreenProps, SaveAnswer } from './record-screen-props';

const sections = [
  [
    'essentials',
    'Essentials',
    /^(title|shortTitle|subtitle|eventType|stage|tags|hashtags|radius|online|video|organiserId|tourId)/,
  ],
  ['dates', 'Dates, place', /^performances/],
  ['line-up', 'Line-up', /^(lineUp|programme)/],
  ['tickets', 'Tickets', /^tickets/],
  ['words', 'Words', /^(words|documents|toFollow)/],
  ['picture', 'Pictures', /^pictures/],
  ['publicity', 'Publicity', /^(publicity|audience|links|leadsAway|linkChoices|after)/],
  ['notices', 'Notices', /^notices/],
  ['history', 'History', /^$/],
] as const;

type Conflict = Extract<SaveAnswer, { kind: 'merge' }>;

/**
 * Graphemes that the head of the screen shows of a text: one far too long would take the browser seconds to lay out.
 */
const mostHeading = 240;

const noActions: HistoryActions = { changes: () => Promise.resolve(null), restore: () => Promise.resolve(null) };

/** The record: its sections, its fields, and the proof of every channel beside them. */
export function RecordScreen({
  context,
  log,
  zone,
  save,
  makeVenue,
  savePerson,
  keepQuestions,
  keepFollow,
  preview,
  saved,
}: RecordScreenProps) {
  const ready = useReady();
  const state = useRecordDraft(context);
  const { draft, change, findings, survey, trailing, content } = state;
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  /** Files that are on their way: a save waits for them. */
  const [coming, setComing] = useState(0);
  const onBusy = useCallback((on: boolean) => setComing((n) => n + (on ? 1 : -1)), []);
  const [tried, setTried] = useState(context.id !== null);
  const [messages, setMessages] = useState<string[]>([]);
  const [reason, setReason] = useState('');
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const visible = useMemo(
    () => (tried ? findings : findings.filter((finding) => finding.code !== 'title-empty')),
    [findings, tried],
  );
  const error = useMemo(() => fieldErrors(visible), [visible]);

  const underWay = useRef(false);
  const submit = async (then: 'stay' | 'dispatch') => {
    const [sent, read] = [state.latest(), state.readNow()];
    // Nothing to save, or a save on its way: the key says so as the button does.
    if (
      underWay.current ||
      (then === 'stay' && context.id !== null && read.ok && sameData(read.value, state.base.content))
    )
      return;
    if (coming > 0) return setMessages(['A file is still on its way. Save once it is there.']);
    setTried(true);
    setMessages([]);
    if (!read.ok) return setMessages(read.error.map(findingWords));
    const typed = read.value;
    underWay.current = true;
    setBusy(true);
    const answer = await save({ id: context.id, base: state.base.revision, content: typed, reason }).catch(
      (): SaveAnswer => ({
        kind: 'stopped',
        messages: ['The save did not reach the house. Your changes are kept here; try again.'],
      }),
    );
    underWay.current = false;
    setBusy(false);
    if (answer.kind === 'stopped') return setMessages(answer.messages);
    if (answer.kind === 'missing')
      return setMessages(['This record is not there any more. Your changes are kept here.']);
    if (answer.kind === 'merge') return setConflict(answer);
    setReason('');
    const kept = answer.kind === 'saved' ? answer.content : null;
    state.saved(sent, {
      id: answer.id,
      revision: answer.revision,
      content: kept ?? settleCarried(state.base.content, typed),
    });
    if (then === 'dispatch') router.push(`/dispatch?record=${answer.id}`);
    else if (context.id === null) router.replace(`/records/${answer.id}`);
    else router.refresh();
  };
  const sayYes = async (listings: string[]) => {
    setBusy(true);
    setMessages([]);
    const answer = await saved?.sayYes(listings).catch(() => noAnswer);
    setBusy(false);
    if (answer) setMessages([answer]);
    router.refresh();
  };
  // From every field, the full text among them.
  useHotkeys([['mod+S', () => void submit('stay')]], [], true);
  const heading = draft.title.trim() === '' ? 'Untitled event' : cutToFit(draft.title, mostHeading);

  const first = nextOf(survey.facts.performances, context.now);
  const newer = context.revision > state.base.revision && conflict === null;
  const replaced = useMemo(
    () => new Set(content ? replacedFacts(state.base.content, content) : []),
    [content, state.base.content],
  );
  const mentionContext = useMemo(() => {
    const venueIds = new Set(trailing.facts.performances.map((performance) => performance.place?.venueId));
    return {
      now: context.now,
      earlier: context.earlier,
      rooms: [...state.venues.values()]
        .filter((venue) => venueIds.has(venue.id))
        .flatMap((venue) => venue.rooms.map((room) => room.name)),
    };
  }, [trailing.facts.performances, context.now, context.earlier, state.venues]);
  const wholeContext = useMemo(() => ({ ...mentionContext, facts: trailing.facts }), [mentionContext, trailing.facts]);
  const channels = useChannels();
  const opened = trailing.listings.some((listing) => {
    const rules = channels.of(listing.channel)?.rules;
    return rules !== undefined && sells(rules) && listing.state.sent !== null;
  });
  const put = useSectionSetters(change);
  const told = useMemo(() => trailing.listings.flatMap((listing) => listing.findings), [trailing.listings]);
  // Sections that only name the dates follow them a frame later.
  const trailingDates = useDeferredValue(draft.performances);
  const aboutPublicity = useParts(draft, publicityParts);
  const aboutEssentials = useParts(draft, essentialParts);
  const onOverride = useCallback<OnOverride>(
    (channel, field, next) => change((at) => ({ overrides: withOverride(at.overrides, channel, field, next) })),
    [change],
  );
  const onDraft = useCallback(
    (channel: string, on: boolean) =>
      change(({ draftOn }) => ({
        draftOn: on ? [...new Set([...draftOn, channel])] : draftOn.filter((candidate) => candidate !== channel),
      })),
    [change],
  );
  const wrong = useMemo(
    () => [...new Set(visible.map((finding) => pathWords(fieldOf(finding)).replace(' (minor units)', '')))],
    [visible],
  );
  const today = toLocal(context.now, zone).date;
  return (
    <div className={classes.record} inert={!ready}>
      <nav className={classes.sections} aria-label="Sections">
        <span className="code">{context.code || 'new'}</span>
        {sections.map(([id, name, pattern]) => {
          const count =
            visible.filter((finding) => pattern.test(fieldOf(finding))).length +
            asking(id, told, context.clashes.length);
          return (
            <a key={id} href={`#${id}`}>
              {name}
              {count > 0 ? <i>{count}</i> : null}
            </a>
          );
        })}
        {log[0] ? (
          <div className={classes.revision}>
            revision {log[0].number}
            <br />
            by {log[0].actor}, {sinceWords(log[0].at, today, zone)}
          </div>
        ) : null}
        {saved && context.id !== null ? (
          <Doings
            id={context.id}
            saved={saved}
            title={draft.title}
            changed={state.changed}
            hasTour={draft.tourId !== null}
            onProblem={(words) => setMessages([words])}
          />
        ) : null}
      </nav>
      <div className={classes.work}>
        <div className={classes.form}>
          <header className={classes.head}>
            <DateBlock
              date={first?.precision === 'open' ? '' : (first?.date ?? '')}
              precision={first?.precision ?? 'exact'}
              size="large"
              thisYear={new Date(context.now).getUTCFullYear()}
            />
            <div>
              <h1>{heading}</h1>
              <p>
                {[
                  draft.eventType,
                  survey.facts.visibility === 'private' ? 'private' : stageOf(survey.facts, context.now),
                  first?.place ? (first.place.room ?? first.place.venue) : 'no venue yet',
                  lineUpWords(draft.lineUp),
                ]
                  .filter((part) => part !== '' && part !== draft.title)
                  .map((part) => cutToFit(part, mostHeading))
                  .join(' · ')}
              </p>
            </div>
          </header>
          {newer ? (
            <p className={classes.notice} role="status">
              Revision {context.revision} was saved meanwhile{log[0] ? ` by ${log[0].actor}` : ''}.{' '}
              {state.changed ? (
                'When you save, you will see both versions side by side.'
              ) : (
                <button
                  type="button"
                  className="plainButton"
                  onClick={() => state.settle(context.revision, context.content)}
                >
                  Show it
                </button>
              )}
            </p>
          ) : null}
          {conflict && content ? (
            <MergePanel
              base={conflict.base}
              mine={content}
              theirs={conflict.theirs}
              by={conflict.actor}
              revision={conflict.revision}
              onMerged={(merged) => {
                state.settle(conflict.revision, conflict.theirs, merged);
                setConflict(null);
              }}
            />
          ) : null}
          <CarriedPanel
            from={draft.copiedFrom}
            carried={draft.carried}
            replaced={replaced}
            levels={draft.tickets.levels}
            onKeep={(facts) => change({ carried: draft.carried.filter((candidate) => !facts.includes(candidate)) })}
          />
          {context.tourShared && draft.tourId ? (
            <TourNote
              tourId={draft.tourId}
              name={context.tours.find((tour) => tour.id === draft.tourId)?.name ?? ''}
              shared={context.tourShared}
              content={content}
              onFollow={(next) => change(toDraft(next))}
            />
          ) : null}
          <EssentialsSection
            draft={draft}
            rest={aboutEssentials}
            onChange={change}
            error={error}
            mode={draft.tickets.mode}
            precision={draft.performances.length === 1 ? (draft.performances[0]?.precision ?? null) : null}
            organisers={state.organisers}
            addOrganiser={state.addOrganiser}
            savePerson={savePerson}
            tours={context.tours}
          />
          <DatesSection
            performances={draft.performances}
            rule={draft.rule}
            onChange={put.performances}
            venues={state.venues}
            error={error}
            makeVenue={makeVenue}
            addVenue={state.addVenue}
            lineUp={draft.lineUp}
            clashes={context.clashes}
            recordId={context.id}
            today={today}
          />
          <LineUpSection
            lineUp={draft.lineUp}
            onChange={put.lineUp}
            error={error}
            artists={state.artists}
            addArtist={state.addArtist}
            savePerson={savePerson}
            roles={context.house.roles}
            kind={draft.eventType}
            programme={draft.programme}
            performances={trailingDates}
            onProgramme={put.programme}
          />
          <TicketsSection
            tickets={draft.tickets}
            onChange={put.tickets}
            facts={trailing.facts}
            houseOn={state.houseOn}
            performances={trailingDates}
            sales={context.sales}
            sources={context.sources}
            noteSold={saved?.noteSold ?? null}
            questionSets={context.house.questionSets}
            keepQuestions={keepQuestions}
            ticks={context.ticks}
            tick={saved?.tick ?? null}
            trial={saved?.trial ?? null}
            opened={opened}
            zone={zone}
            now={context.now}
            error={error}
          />
          <WordsSection
            words={draft.words}
            onChange={put.words}
            error={error}
            facts={trailing.facts}
            context={mentionContext}
            wordings={context.wordings}
            pictures={draft.pictures}
            documents={draft.documents}
            performances={trailingDates}
            onDocuments={put.documents}
            toFollow={draft.toFollow}
            onToFollow={put.toFollow}
            houseFollow={context.house.follow}
            keepFollow={keepFollow}
            onBusy={onBusy}
          />
          <PicturesSection pictures={draft.pictures} onChange={put.pictures} error={error} onBusy={onBusy} />
          <PublicitySection
            draft={aboutPublicity}
            onChange={change}
            error={error}
            survey={trailing}
            slugs={context.slugs}
            today={today}
            zone={zone}
          />
          <NoticesSection
            notices={draft.notices}
            onChange={put.notices}
            error={error}
            facts={trailing.facts}
            context={mentionContext}
            listings={trailing.listings}
            today={today}
            preview={preview}
            wordings={context.wordings}
          />
          <HistorySection log={log} zone={zone} changed={state.changed} {...(saved ?? noActions)} />
        </div>
        <SaveBar
          survey={survey}
          changed={state.changed}
          stopped={visible.length}
          isNew={context.id === null}
          busy={busy || conflict !== null || coming > 0}
          messages={messages}
          reason={reason}
          onReason={setReason}
          onSave={(then) => void submit(then)}
          onYes={saved ? (listings) => void sayYes(listings) : null}
          onRevert={() => {
            state.revert();
            setMessages([]);
          }}
        />
      </div>
      <ProofColumn
        listings={survey.listings}
        pictures={draft.pictures}
        zone={zone}
        overrides={draft.overrides}
        context={wholeContext}
        onOverride={onOverride}
        onDraft={onDraft}
        wrong={wrong}
      />
    </div>
  );
}
