'use client';

import { createContext, memo, useContext, useMemo, useState, type KeyboardEvent } from 'react';
import { partWords, type Channel } from '@/channels/channels';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { fieldOf } from '@/core/findings/finding';
import type { ChannelRules, FieldRow } from '@/core/listing/channel-rules';
import type { FieldComparison } from '@/core/listing/compare';
import { momentWords } from '@/core/dates/date-words';
import { groupBy } from '@/core/base/group-by';
import { keepSame } from '@/core/base/keep-same';
import { countGraphemes } from '@/core/base/graphemes';
import type { Override, PictureUse } from '@/core/record/record';
import { isKeptDraft, listedField, splitKey, type ShownValue } from '@/core/listing/shown';
import { standingWords } from '@/core/listing/standing';
import type { MentionContext } from '@/core/words/mention';
import { FindingLine } from '@/ui/finding-line';
import { Pennant } from '@/ui/pennant';
import { useChannels } from '@/ui/use-channels';
import { ByHand } from './ByHand';
import { CropView } from './CropView';
import { groupNames } from '@/core/listing/groups';
import { Changed } from './Changed';
import { ItemLines } from './ItemLines';
import classes from './ProofColumn.module.css';

interface ProofColumnProps {
  /** The record's listings, surveyed from what stands in the form. */
  listings: SurveyedListing[];
  /** The pictures that the crops are cut from. */
  pictures: readonly PictureUse[];
  /** Fields worded by hand. */
  overrides: readonly Override[];
  /** What facts typed into words by hand are held against. */
  context: MentionContext;
  /** Words a field of a channel by hand; `null`: follows the record again. */
  onOverride: OnOverride;
  /** Keeps the event a draft on a channel, or lets it be shown there. */
  onDraft: (channel: string, on: boolean) => void;
  /** The house's zone, for moments that belong to no event. */
  zone: string;
  /** What is typed and cannot be read: until it can, the proof shows what held last. */
  wrong: readonly string[];
}

/** Takes the words by hand of one channel's field. */
export type OnOverride = (channel: string, field: string, next: { value: string; from: string } | null) => void;

/** What facts typed by hand are held against: only who words something by hand follows it. */
const ListingContext = createContext<MentionContext | null>(null);

/** Listings of one channel that are drawn at once; the rest of a long run is counted. */
const shownParts = 3;
/** How many more are drawn at each asking. */
const moreParts = 24;

/** Every channel's version of the event, as the public will see it, with the findings beside what they are about. */
export const ProofColumn = memo(function ProofColumn({
  listings,
  pictures,
  zone,
  overrides,
  context,
  onOverride,
  onDraft,
  wrong,
}: ProofColumnProps) {
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
  return (
    <ListingContext.Provider value={context}>
      <aside className={classes.column} aria-label="Proof" onKeyDown={toNextBar}>
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
        {shown.map((listing) => {
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
        {apart.size > 0 ? (
          <button type="button" className={classes.apart} aria-expanded={false} onClick={() => setAll(true)}>
            <b>{apart.size} channels have no use for it</b>
            <span>{[...apart].map((id) => channels.name(id)).join(', ')}</span>
          </button>
        ) : null}
        {near.length > shown.length ? (
          <button type="button" className="plainButton" onClick={() => setParts(parts + moreParts)}>
            {near.length - shown.length > moreParts ? `Show ${moreParts} more` : 'Show the rest'} of {near.length}{' '}
            listings
          </button>
        ) : null}
      </aside>
    </ListingContext.Provider>
  );
});

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

interface SlipProps extends Omit<ProofColumnProps, 'listings' | 'wrong' | 'context'> {
  listing: SurveyedListing;
  channel: Channel;
  /** There are many: one that is in step and says nothing is a line. */
  folds: boolean;
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
          {finding.code === 'kept-draft' ? (
            <button type="button" className="plainButton" onClick={() => onDraft(rules.id, false)}>
              Show it there
            </button>
          ) : null}
        </FindingLine>
      ))}
      {missesGiver && rules.states.includes('draft') ? (
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

/** The listing itself: picture, title, then field by field. */
function Face({
  listing,
  channel,
  pictures,
  byKey,
  overrides,
  onOverride,
}: Omit<SlipProps, 'zone' | 'onDraft' | 'folds'> & { byKey: ReadonlyMap<string, FieldComparison> }) {
  const [byHand, setByHand] = useState<string | null>(null);
  const context = useContext(ListingContext);
  const { rules } = channel;
  const { picture, title } = listing.proof;
  const findings = (name: string) => listing.findings.filter((finding) => fieldOf(finding) === name);
  const keys = useMemo(() => groupBy(Object.keys(listing.proof), (key) => splitKey(key).field), [listing.proof]);
  const field = (row: FieldRow) => (
    <Field
      key={row.field}
      row={row}
      said={(keys.get(row.field) ?? noKeys).map((key) => [key, listing.proof[key], byKey.get(key)])}
      rules={rules}
      findings={findings(row.field)}
      onByHand={setByHand}
    />
  );
  // A quiet field is shown once the channel shows something else than was sent.
  const speaks = (name: string) =>
    name !== 'title' && name !== 'picture' && ['drifted', 'at-odds'].includes(byKey.get(name)?.outcome ?? '');
  return (
    <div className={classes.face}>
      <div className={classes.lead} data-plain={rules.picture === null || undefined}>
        {rules.picture === null ? null : (
          <CropView
            value={picture?.kind === 'picture' ? picture : null}
            pictures={pictures}
            ratio={rules.picture.ratio}
          />
        )}
        <div>
          {title === undefined ? null : (
            <p className={classes.title}>
              <Changed value={title} comparison={byKey.get('title')} />{' '}
              <button
                type="button"
                className={classes.byHand}
                aria-label={`Word the title for ${rules.name} by hand`}
                onClick={() => setByHand('title')}
              >
                by hand
              </button>
            </p>
          )}
          <Count row={rules.rows.find((row) => row.field === 'title')} value={title} />
          <dl className={classes.fields}>{rules.rows.filter((row) => leads(row, rules)).map(field)}</dl>
        </div>
      </div>
      {[...findings('title'), ...findings('picture')].map((finding) => (
        <FindingLine key={fieldOf(finding) + finding.code} finding={finding} />
      ))}
      <dl className={classes.fields}>
        {rules.rows
          .filter((row) => !leads(row, rules) && !listed(row) && (!quiet.has(row.field) || speaks(row.field)))
          .map(field)}
        {groupNames.map((group) => (
          <ItemLines
            key={group}
            rows={rules.rows.filter((row) => row.each === group && listed(row))}
            proof={listing.proof}
            byKey={byKey}
          />
        ))}
      </dl>
      {byHand !== null && context !== null ? (
        <ByHand
          key={byHand}
          listing={listing}
          field={byHand}
          rules={rules}
          override={overrides.find((override) => override.channel === rules.id && override.field === byHand) ?? null}
          context={context}
          onOverride={(next) => onOverride(rules.id, byHand, next)}
          onClose={() => setByHand(null)}
        />
      ) : null}
    </div>
  );
}

const noKeys: readonly string[] = [];

/** Of these an item is a line; performances and price levels have a line a field. */
function listed({ each }: FieldRow): boolean {
  return each !== 'event' && each !== 'performance' && each !== 'level';
}

/** The facts that are looked at first stand beside the picture. */
const leading: ReadonlySet<string> = new Set(['doors', 'start', 'end']);

/** Of a notice, its words stand there. */
function leads({ field }: FieldRow, { notice }: ChannelRules): boolean {
  return leading.has(field) || (notice !== null && field === 'body');
}

/** Fields that have their own place, or say only what the pennant says. */
const quiet: ReadonlySet<string> = new Set(['title', 'picture', 'listed', 'tickets-shown', 'publisher']);

interface FieldProps {
  row: FieldRow;
  /** Its keys in the proof, with what is said there and how it compares: one, or one for each performance or level. */
  said: readonly (readonly [key: string, value: ShownValue | undefined, comparison: FieldComparison | undefined])[];
  rules: ChannelRules;
  findings: SurveyedListing['findings'];
  onByHand: (field: string) => void;
}

const Field = memo(function Field({ row, said, rules, findings, onByHand }: FieldProps) {
  const shown = said.slice(0, 4);
  if (said.length === 0 && findings.length === 0) return null;
  return (
    <>
      {shown.map(([key, value, comparison], i) => (
        <div key={key} className={classes.field}>
          <dt>{i === 0 ? row.label : ''}</dt>
          <dd>
            <Changed value={value} comparison={comparison} />
            <Count row={row} value={value} />
            {canBeWorded(row, rules) && i === 0 ? (
              <button
                type="button"
                className={classes.byHand}
                aria-label={`Word the ${row.label} for ${rules.name} by hand`}
                onClick={() => onByHand(row.field)}
              >
                by hand
              </button>
            ) : null}
          </dd>
        </div>
      ))}
      {said.length > shown.length ? (
        <div className={classes.field}>
          <dt />
          <dd>and {said.length - shown.length} more</dd>
        </div>
      ) : null}
      {findings.map((finding) => (
        <div key={finding.code} className={classes.field}>
          <dt />
          <dd>
            <FindingLine finding={finding} {...(shown.length === 0 ? { about: row.label } : {})} />
          </dd>
        </div>
      ))}
    </>
  );
}, saysTheSame);

/** True where a field is drawn as it was: the same objects at the same places. */
function saysTheSame(a: FieldProps, b: FieldProps): boolean {
  return (
    a.row === b.row &&
    a.rules === b.rules &&
    a.onByHand === b.onByHand &&
    sameItems(a.findings, b.findings) &&
    a.said.length === b.said.length &&
    a.said.every((candidate, i) => sameItems(candidate, b.said[i] ?? []))
  );
}

function sameItems(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a.length === b.length && a.every((candidate, i) => Object.is(candidate, b[i]));
}

/** Words can be put by hand in the place of words; facts cannot, and a notice is words of its own. */
function canBeWorded(row: FieldRow, { notice }: ChannelRules): boolean {
  return (
    notice === null && row.each === 'event' && (row.kind === 'text' || row.kind === 'rich') && wordFields.has(row.field)
  );
}

const wordFields: ReadonlySet<string> = new Set([
  'title',
  'subtitle',
  'teaser',
  'body',
  'line-up',
  'turn',
  'good-to-know',
]);

function Count({ row, value }: { row: FieldRow | undefined; value: ShownValue | undefined }) {
  if (row?.limit === undefined || value?.kind !== 'text') return null;
  return (
    <span className={classes.count}>
      {countGraphemes(value.text)} of {row.limit}
    </span>
  );
}
