'use client';

import { useForHouse } from '@/ui/may/May';
import { memo, useMemo, useState, type KeyboardEvent } from 'react';
import { partWords } from '@/channels/channels';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { fieldOf, type Finding } from '@/core/findings/finding';
import { momentWords } from '@/core/dates/date-words';
import { keepSame } from '@/core/base/keep-same';
import { isKeptDraft, listedField } from '@/core/listing/shown';
import { standingWords } from '@/core/listing/standing';
import { FindingLine } from '@/ui/finding-line';
import { Pennant } from '@/ui/pennant';
import { useChannels } from '@/ui/use-channels';
import classes from './ProofColumn.module.css';
import type { ProofColumnProps, SlipProps } from './slip-props';
import { Face, listed, ListingContext } from './Face';

/** Listings of one channel that are drawn at once; the rest of a long run is counted. */
const shownParts = 3;
/** How many more are drawn at each asking. */
const moreParts = 24;

/** Every channel's version of the event, as the public will see it, with the findings beside what they are about. */
export const ProofColumn = memo(function ProofColumn(props: ProofColumnProps) {
  const column = useColumn(props);
  const {
    context,
    wrong,
    listings,
    shown,
    channels,
    opened,
    many,
    pictures,
    zone,
    overrides,
    onOverride,
    onDraft,
    apart,
    setAll,
    near,
    setParts,
    parts,
  } = column;
  return (
    <ListingContext.Provider value={context}>
      <aside className={classes.column} aria-label="Proof" onKeyDown={toNextBar}>
        <ColumnHead column={column} />
        {wrong.length > 0 ? (
          <p className={classes.keeps} role="status">
            Shown as it last held: {wrong.slice(0, 3).join(', ')}
            {wrong.length > 3 ? ` and ${wrong.length - 3} more` : ''} cannot be read yet.
          </p>
        ) : null}
        {listings.length === 0 ? (
          <p className={classes.keeps}>
            No channel is connected yet: connect one under Channels, and it is proofed here.
          </p>
        ) : null}
        {props.calm ? <StillWanted listings={near} name={channels.name} /> : null}
        {(props.calm ? [] : shown).map((listing) => {
          const channel = channels.of(listing.channel);
          return channel ? (
            <KeptSlip
              key={`${listing.id} ${opened}`}
              folds={many && !opened}
              listing={listing}
              channel={channel}
              pictures={pictures}
              zone={zone}
              overrides={overrides}
              onOverride={onOverride}
              onDraft={onDraft}
            />
          ) : null;
        })}
        {apart.size > 0 && !props.calm ? (
          <button type="button" className={classes.apart} aria-expanded={false} onClick={() => setAll(true)}>
            <b>{apart.size} channels have no use for it</b>
            <span>{[...apart].map((id) => channels.name(id)).join(', ')}</span>
          </button>
        ) : null}
        {near.length > shown.length && !props.calm ? (
          <button type="button" className="plainButton" onClick={() => setParts(parts + moreParts)}>
            {near.length - shown.length > moreParts ? `Show ${moreParts} more` : 'Show the rest'} of {near.length}{' '}
            listings
          </button>
        ) : null}
      </aside>
    </ListingContext.Provider>
  );
});

/** What a finding asks for, as the form calls it; empty: nothing that a new record lacks. */
function lacked(found: Finding): string {
  if (found.weight !== 'stops') return '';
  if (found.code === 'venue-none') return 'venue';
  if (found.code === 'picture-none') return 'picture';
  if (found.code === 'price-none') return 'price';
  if (found.code !== 'needed-empty') return '';
  return /town|venue|address|place/i.test(found.label) ? 'venue' : found.label.toLowerCase();
}

/** Before anything is typed: what the form still lacks, and which channels ask for it. */
function StillWanted({ listings, name }: { listings: readonly SurveyedListing[]; name: (id: string) => string }) {
  const labels = new Set(['title', 'date']);
  const by = new Set<string>();
  // Of a record that is still private, what would be missing is asked all the same.
  for (const { channel, down, findings } of listings)
    for (const found of down === 'no use' || down === 'no outlet' ? [] : findings) {
      const lack = lacked(found);
      if (lack === '') continue;
      labels.add(lack);
      by.add(name(channel));
    }
  const [first, second, ...rest] = by;
  return (
    <p className={classes.keeps}>
      Still wanted: {[...labels].slice(0, 6).join(', ')}
      {first === undefined ? '.' : `; by ${[first, second].filter(Boolean).join(', ')}`}
      {rest.length > 0 ? ` and ${rest.length} more.` : first === undefined ? '' : '.'} Each channel’s version stands
      here as soon as there is a title.
    </p>
  );
}

/** What stands in the column. */
function useColumn({ listings, pictures, zone, overrides, context, onOverride, onDraft, wrong }: ProofColumnProps) {
  const [parts, setParts] = useState(shownParts);
  const [all, setAll] = useState(false);
  /** Everything open, or only what needs it; each slip may be chosen otherwise. */
  const [opened, setOpened] = useState(false);
  const channels = useChannels();
  // Channels that have no business with such an event are one line, where there are several.
  const apart = useMemo(() => (all ? new Set<string>() : withoutUse(listings)), [listings, all]);
  const near = listings.filter((listing) => !apart.has(listing.channel));
  const shown = near.filter(
    (listing) => listing.part < parts || partWords(channels.of(listing.channel), listing.part) === '',
  );
  const many = shown.filter((listing) => listing.standing !== null).length > fewOpen;
  const asking = listings.filter(
    (listing) => listing.standing !== null && listing.findings.some((f) => f.weight === 'stops'),
  ).length;
  return {
    listings,
    asking,
    many,
    setOpened,
    opened,
    context,
    wrong,
    shown,
    channels,
    pictures,
    zone,
    overrides,
    onOverride,
    onDraft,
    apart,
    setAll,
    near,
    setParts,
    parts,
  };
}

type Column = ReturnType<typeof useColumn>;

/** How all of it stands, in numbers. */
function ColumnHead({ column: { listings, asking, many, setOpened, opened } }: { column: Column }) {
  return (
    <header className={classes.head}>
      <h2>Proof</h2> <span>as each channel will show it</span>
      <span className={classes.sum}>
        {listings.filter((listing) => listing.standing !== null).length} of {listings.length} listings wanted
        {asking > 0 ? ` · ${asking} stopped` : ''}
        {many ? (
          <>
            {' · '}
            <button type="button" className="plainButton" onClick={() => setOpened(!opened)}>
              {opened ? 'fold what is in step' : 'open all'}
            </button>
          </>
        ) : null}
      </span>
    </header>
  );
}

/** How many channels without use are listed each by itself. */
const fewApart = 3;

/**
 * Channels where nothing stands or is wanted because such an event, or its sale, is not for them; none where they are
 * few.
 */
function withoutUse(listings: readonly SurveyedListing[]): ReadonlySet<string> {
  const idle = (listing: SurveyedListing) =>
    listing.standing === null && (listing.down === 'no use' || listing.down === 'no outlet');
  const wanted = new Set(listings.filter((listing) => !idle(listing)).map((listing) => listing.channel));
  const apart = new Set<string>(listings.map((listing) => listing.channel).filter((id) => !wanted.has(id)));
  return apart.size > fewApart ? apart : new Set();
}
/** A slip of which, at each key, only that is drawn anew which says something else. */
function KeptSlip({ listing, ...rest }: SlipProps) {
  const [held, hold] = useState(listing);
  const kept = keepSame(held, listing);
  if (kept !== held) hold(kept);
  return <Slip listing={kept} {...rest} />;
}

const Slip = memo(function Slip({
  listing,
  channel,
  folds,
  pictures,
  zone,
  overrides,
  onOverride,
  onDraft,
}: SlipProps) {
  const mayWord = useForHouse();
  const { rules } = channel;
  const part = partWords(channel, listing.part);
  // What is not wanted at all is folded; what is only private still shows what it would say.
  const [chosen, setOpen] = useState<boolean | null>(null);
  const open =
    chosen ??
    (!(folds && calm(listing)) &&
      (listing.standing !== null || listing.findings.some((finding) => finding.code === 'not-public')));
  const byKey = useMemo(() => new Map(listing.comparison.map((field) => [field.key, field])), [listing.comparison]);
  // What is said of an item stands above all of them: an item has one line.
  const known = new Set(rules.rows.filter((row) => !listed(row) && row.field !== listedField).map((row) => row.field));
  const missesGiver = listing.findings.some((finding) => finding.code === 'giver-draft' && finding.asks);
  const general = listing.findings.filter((finding) => !known.has(fieldOf(finding)));
  return (
    <section
      className={classes.slip}
      aria-label={[`${rules.name} proof`, part].filter((words) => words !== '').join(', ')}
      data-channel={rules.id}
    >
      <button type="button" data-bar className={classes.bar} aria-expanded={open} onClick={() => setOpen(!open)}>
        <Pennant standing={listing.standing} silent />
        <b>{rules.name}</b>
        <span className={classes.trade}>{rules.trade}</span>
        {part === '' ? null : <span>{part}</span>}
        <span className={classes.state}>{stateWords(listing, zone)}</span>
      </button>
      {general.map((finding) => (
        <FindingLine key={finding.code + fieldOf(finding)} finding={finding}>
          {finding.code === 'kept-draft' && mayWord ? (
            <button type="button" className="plainButton" onClick={() => onDraft(rules.id, false)}>
              Show it there
            </button>
          ) : null}
        </FindingLine>
      ))}
      {mayWord && missesGiver && rules.states.includes('draft') ? (
        <p className={classes.draft}>
          <button type="button" className="plainButton" onClick={() => onDraft(rules.id, true)}>
            Stay draft here too
          </button>
        </p>
      ) : null}
      {open ? (
        <Face
          listing={listing}
          channel={channel}
          pictures={pictures}
          byKey={byKey}
          overrides={overrides}
          onOverride={onOverride}
        />
      ) : null}
      {listing.publicUrl === null || listing.state.sent === null ? null : (
        <a className={classes.link} href={listing.publicUrl} target="_blank" rel="noopener">
          Open the public page
        </a>
      )}
    </section>
  );
});

/** So many listings are drawn open at once, whatever they say. */
const fewOpen = 6;

/** True where nothing is to be said of a listing: it is in step, or was taken down, and nobody need look at it. */
function calm({ standing, findings, comparison }: SurveyedListing): boolean {
  return (
    (standing === 'instep' || standing === 'withdrawn') &&
    findings.every((finding) => finding.weight === 'notes') &&
    comparison.every((field) => field.outcome === 'same' || field.outcome === 'already-there')
  );
}

/** From the bar of one listing to that of the next, or the one before. */
function toNextBar(event: KeyboardEvent<HTMLElement>): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  const bars = [...event.currentTarget.querySelectorAll<HTMLElement>('button[data-bar]')];
  const at = bars.indexOf(event.target as HTMLElement);
  if (by === 0 || at < 0) return;
  event.preventDefault();
  bars[at + by]?.focus();
}

function stateWords({ standing, state, comparison, wanted }: SurveyedListing, zone: string): string {
  if (standing === null) return 'not wanted here';
  const due = comparison.filter((field) => field.outcome === 'to-send').length;
  if (due === 0 && standing === 'due') return 'to renew';
  if (standing === 'due') return `${due} ${due === 1 ? 'field' : 'fields'} to send`;
  if (standing === 'instep' && state.observedAt !== null)
    return `${isKeptDraft(wanted) ? 'a draft, ' : ''}in step, read ${momentWords(state.observedAt, zone).slice(-5)}`;
  return standingWords[standing].name.toLowerCase();
}
