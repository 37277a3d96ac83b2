'use client';

import { unsavedRecord, type RecordId } from '@/core/base/ids';
import { useDebouncedValue } from '@mantine/hooks';
import { useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import type { Survey } from '@/channels/survey';
import { lenientContent, readDraft, toDraft, type RecordDraft } from '@/core/record/draft';
import type { Finding } from '@/core/findings/finding';
import type { Artist, Organiser, Venue } from '@/core/record/directory';
import type { RecordContent } from '@/core/record/record';
import type { RecordContext } from '@/views/record';
import { houseFor } from '@/core/facts/sale';
import { marksOfMove } from '@/core/record/other-town';
import { sameData } from '@/core/base/same-data';
import { soldSoFar } from '@/core/facts/sales';
import type { House } from '@/core/facts/tickets/seats';
import { useKept } from './use-kept';
import { useSurvey } from './use-survey';

export interface DraftState {
  draft: RecordDraft;
  /** Changes part of the draft; a function is given the draft as it stands then. */
  change: (part: Partial<RecordDraft> | ((draft: RecordDraft) => Partial<RecordDraft>)) => void;
  /** The revision and content that the draft grew from. */
  base: { revision: number; content: RecordContent };
  /** Takes a saved or merged content as the new ground of the draft. */
  settle: (revision: number, content: RecordContent, draft?: RecordContent) => void;
  venues: ReadonlyMap<string, Venue>;
  addVenue: (venue: Venue) => void;
  artists: readonly Artist[];
  addArtist: (artist: Artist) => void;
  organisers: ReadonlyMap<string, Organiser>;
  addOrganiser: (organiser: Organiser) => void;
  /** What forbids saving the draft. */
  findings: Finding[];
  content: RecordContent | null;
  /** The draft as it stands at this very key, drawn already or not. */
  latest: () => RecordDraft;
  /** What was typed here and left. */
  kept: ReturnType<typeof useKept>;
  /** Takes what was saved as the new ground; what was typed since it was sent stands on top of it. */
  saved: (sent: RecordDraft, answer: { id: RecordId; revision: number; content: RecordContent }) => void;
  /** Reads the draft as it stands at this very key. */
  readNow: () => ReturnType<typeof readDraft>;
  /** What every channel would show of the draft as it stands. */
  survey: Survey;
  /**
   * The same for the form's own sections: it trails by a frame, so that no key waits for fields that it does not touch.
   */
  trailing: Survey;
  /** The sums of one performance's house. */
  houseOn: (performanceId: string) => House;
  /** The draft differs from what was saved. */
  changed: boolean;
  /** Throws the draft away. */
  revert: () => void;
}

/** Up to so many performances times channels, a survey is reckoned and drawn with the key itself. */
const withTheKey = 300;
/** From so many performances on, a record is a long run; how long the typing pauses before it is surveyed, in ms. */
const longRun = 300;
const longRunPauseMs = 250;

const noFindings: Finding[] = [];

/** A content as it is typed; of what was never saved, the title is left to be typed. */
const draftOf = (content: RecordContent, revision: number): RecordDraft =>
  revision === 0 ? { ...toDraft(content), title: '' } : toDraft(content);

/**
 * The draft of a record: kept in the browser as one types, read by the same core code as on the server, and
 * surveyed for every channel. Where there is much to survey, that trails the typing by a frame, so that no key waits
 * for it.
 */
export function useRecordDraft(context: RecordContext): DraftState {
  const [base, setBase] = useState({ revision: context.revision, content: context.content });
  const [draft, setDraft, latest] = useLatest<RecordDraft>(() => draftOf(context.content, base.revision));
  const directory = useDirectory(context);
  const { venues } = directory;
  // Once a new record is saved, its draft is kept as that of the saved one, whose screen takes up what was typed
  // meanwhile.
  const [keptAs, setKeptAs] = useState(context.id);
  const baseDraft = useMemo(() => draftOf(base.content, base.revision), [base]);
  const takeUp = (next: RecordDraft, revision: number) => {
    // What grew from an earlier revision meets what was saved since, when it is saved.
    setBase((at) => ({ ...at, revision }));
    setDraft(next);
  };
  const kept = useKept(
    keptAs,
    { revision: base.revision, draft, goesOn: keptAs !== context.id },
    baseDraft,
    takeUp,
    draft.performances.length > longRun ? 2_000 : 400,
  );
  const { forget } = kept;

  const surveyed = useDraftSurvey(context, draft, base.content, directory);
  const { read } = surveyed;
  const change = useCallback<DraftState['change']>(
    (part) => {
      const was = latest();
      const next = { ...was, ...(typeof part === 'function' ? part(was) : part) };
      const moved = next.performances !== was.performances && base.revision > 0;
      setDraft(moved ? { ...next, carried: [...marksOfMove(base.content, was, next.performances, venues)] } : next);
    },
    [setDraft, latest, base, venues],
  );
  const settle = useCallback(
    (revision: number, content: RecordContent, next?: RecordContent) => {
      forget();
      setBase({ revision, content });
      setDraft(toDraft(next ?? content));
    },
    [forget, setDraft],
  );
  const saved = useCallback<DraftState['saved']>(
    (sent, { id, revision, content }) => {
      forget();
      setKeptAs(id);
      setBase({ revision, content });
      if (latest() === sent) return setDraft(toDraft(content));
      // What was typed meanwhile stands; what the house took off is off all the same.
      const off = new Map(content.notices.map((notice) => [notice.id, notice.offSince]));
      const notices = latest().notices.map((notice) => ({
        ...notice,
        offSince: off.get(notice.id) ?? notice.offSince,
      }));
      setDraft({ ...latest(), carried: toDraft(content).carried, notices });
    },
    [latest, forget, setDraft],
  );
  const changed = useMemo(
    () => context.id === null || !read.ok || !sameData(read.value, base.content),
    [context.id, read, base.content],
  );
  return {
    draft,
    change,
    base,
    settle,
    ...directory,
    findings: read.ok ? noFindings : read.error,
    content: read.ok ? read.value : null,
    latest,
    readNow: () => readDraft(latest(), venues),
    saved,
    survey: surveyed.survey,
    trailing: surveyed.trailing,
    houseOn: surveyed.houseOn,
    changed,
    kept,
    revert: () => setDraft(draftOf(base.content, base.revision)),
  };
}

/** Who and what the record can name: as the house knows them, with what was added meanwhile. */
function useDirectory(context: RecordContext) {
  const [extra, setExtra] = useState<Venue[]>([]);
  const [moreArtists, setMoreArtists] = useState<Artist[]>([]);
  const [moreOrganisers, setMoreOrganisers] = useState<Organiser[]>([]);
  const venues = useMemo(
    () => new Map([...context.venues, ...extra].map((venue) => [venue.id, venue])),
    [context.venues, extra],
  );
  const artists = useMemo(
    () => [
      ...context.artists,
      ...moreArtists.filter((artist) => !context.artists.some((known) => known.id === artist.id)),
    ],
    [context.artists, moreArtists],
  );
  const organisers = useMemo(
    () => new Map([...context.organisers, ...moreOrganisers].map((organiser) => [organiser.id, organiser])),
    [context.organisers, moreOrganisers],
  );
  const addVenue = useCallback((venue: Venue) => setExtra((before) => [...before, venue]), []);
  const addArtist = useCallback((artist: Artist) => setMoreArtists((before) => [...before, artist]), []);
  const addOrganiser = useCallback((organiser: Organiser) => setMoreOrganisers((before) => [...before, organiser]), []);
  return { venues, artists, organisers, addVenue, addArtist, addOrganiser };
}

/** The draft as it can be read, and what every channel would show of it. `content`: what holds until it can be. */
function useDraftSurvey(
  context: RecordContext,
  draft: RecordDraft,
  content: RecordContent,
  { venues, artists, organisers }: Pick<DraftState, 'venues' | 'artists' | 'organisers'>,
) {
  const sold = useMemo(() => soldSoFar(context.sales), [context.sales]);
  const acts = useMemo(() => new Map(artists.map((artist) => [artist.id, artist])), [artists]);
  // Of a long run, five hundred listings follow the typing a moment after it pauses rather than between two keys.
  const deferred = useDeferredValue(draft);
  const [settled] = useDebouncedValue(draft, longRunPauseMs);
  const much = draft.performances.length * context.channels.length > withTheKey;
  const slow = draft.performances.length > longRun ? settled : much ? deferred : draft;
  const read = useMemo(() => readDraft(slow, venues), [slow, venues]);
  // While a field is wrong, the proof keeps what held last: the fields that can be read stand on top of it.
  const [right, setRight] = useState(content);
  if (read.ok && read.value !== right) setRight(read.value);
  const shownContent = useMemo(
    () => (read.ok ? read.value : lenientContent(slow, right, venues)),
    [read, slow, right, venues],
  );
  const input = useMemo(
    () => ({
      recordId: context.id ?? unsavedRecord,
      code: context.code,
      content: shownContent,
      venues,
      organisers,
      artists: acts,
      aboutUs: context.aboutUs,
      sold,
      listings: context.listings,
      errands: new Map(context.errands),
      refusals: new Map(context.refusals),
      channels: context.channels,
      ticks: context.ticks,
      left: new Map(context.left.map((lock) => [lock.listing, lock])),
      follow: context.house.follow,
      houseZone: context.house.zone,
      closedTypes: context.house.closedTypes,
      pictureEnds: new Map(context.pictureEnds),
      monotonic: context.monotonic,
      now: context.now,
    }),
    [context, shownContent, venues, organisers, acts, sold],
  );
  const survey = useSurvey(input, draft.performances.length > longRun);
  const trailing = useDeferredValue(survey);
  const trailingContent = useDeferredValue(shownContent);
  const houseOn = useCallback(
    (id: string) =>
      houseFor(
        trailingContent,
        trailingContent.performances.find((performance) => performance.id === id),
        { venues, sold },
      ),
    [trailingContent, venues, sold],
  );
  return { read, survey, trailing, houseOn };
}

/**
 * State that can be read between two drawings too: whoever saves by key does not wait for the last letter to be drawn.
 */
function useLatest<T>(first: () => T): [T, (next: T) => void, () => T] {
  const [drawn, draw] = useState(first);
  const held = useRef(drawn);
  const set = useCallback((next: T) => {
    held.current = next;
    draw(() => next);
  }, []);
  const latest = useCallback(() => held.current, []);
  return [drawn, set, latest];
}
