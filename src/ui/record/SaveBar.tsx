import { whoMay } from '@/core/people/doer';
import { useMe } from '@/ui/may/May';
import { memo } from 'react';
import { useChannels } from '@/ui/use-channels';
import type { Survey } from '@/channels/survey';
import { momentWords } from '@/core/dates/date-words';
import type { SurveyedListing } from '@/core/errands/surveyed';
import classes from './RecordForm.module.css';

interface SaveBarProps {
  survey: Survey;
  changed: boolean;
  /** How many fields forbid saving. */
  stopped: number;
  isNew: boolean;
  busy: boolean;
  /** What the last try to save said. */
  messages: string[];
  /** Why it is saved; kept in the history. */
  reason: string;
  onReason: (reason: string) => void;
  onSave: (then: 'stay' | 'dispatch') => void;
  onRevert: () => void;
  /** Says yes to notices that have a moment and wait for one; `null`: nothing is saved yet. */
  onYes: ((listings: string[]) => void) | null;
  /** Shows what the change does; `null`: nothing of it stands outside. */
  onLook: (() => void) | null;
}

/** The foot of the record: what saving will bring about outside, and the save itself. */
export function SaveBar({
  survey,
  changed,
  stopped,
  isNew,
  busy,
  messages,
  reason,
  onReason,
  onSave,
  onRevert,
  onYes,
  onLook,
}: SaveBarProps) {
  const me = useMe();
  const [saves, browses] = [me.rights.includes('correct') || me.rights.includes('count'), me.rights.includes('browse')];
  const wanting = changed || onYes === null || !me.rights.includes('send') ? [] : survey.listings.filter(wantsYes);
  return (
    <div className={classes.bar} role="region" aria-label="Save">
      <p aria-live="polite">
        {messages.length > 0 ? (
          <span className={classes.stop} role="alert">
            {messages.slice(0, 3).join(' ')}
          </span>
        ) : (
          <Consequences survey={survey} changed={changed} stopped={stopped} isNew={isNew} />
        )}
      </p>
      {wanting.length > 0 ? <WantsYes wanting={wanting} busy={busy} onYes={(all) => onYes?.(all)} /> : null}
      <div className={classes.barTools}>
        {changed && !isNew ? (
          <input
            className={classes.why}
            aria-label="Why, for the history"
            placeholder="why?"
            maxLength={200}
            value={reason}
            onChange={(e) => onReason(e.currentTarget.value)}
          />
        ) : null}
        {changed && !isNew ? (
          <button type="button" className="plainButton" onClick={onRevert} disabled={busy}>
            Undo all
          </button>
        ) : null}
        {saves ? (
          <button type="button" className="quietButton" disabled={busy || !changed} onClick={() => onSave('stay')}>
            Save <kbd>Ctrl S</kbd>
          </button>
        ) : (
          <span>You only look: {whoMay('correct')} change this.</span>
        )}
        {changed && onLook !== null && saves ? (
          <button type="button" className="sendButton" disabled={busy} onClick={onLook}>
            See what it does
          </button>
        ) : browses ? (
          <button type="button" className="sendButton" disabled={busy} onClick={() => onSave('dispatch')}>
            {changed ? 'Save and see the dispatch' : 'See the dispatch'}
          </button>
        ) : null}
      </div>
    </div>
  );
}

/** What stands outside and will say something else than the record. */
const Consequences = memo(function Consequences({
  survey,
  changed,
  stopped,
  isNew,
}: Pick<SaveBarProps, 'survey' | 'changed' | 'stopped' | 'isNew'>) {
  const channels = useChannels();
  if (stopped > 0)
    return (
      <span className={classes.stop}>
        {stopped === 1 ? 'One field' : `${stopped} fields`} must be put right before it can be saved.
      </span>
    );
  const behind = survey.listings.filter(
    (listing) => listing.state.sent !== null && listing.comparison.some((field) => field.outcome === 'to-send'),
  );
  const names = [...new Set(behind.map((listing) => channels.name(listing.channel)))];
  if (names.length > 0) {
    const verb = names.length === 1 ? 'shows' : 'show';
    return (
      <>
        {changed ? <b>If you save this: </b> : <b>Behind: </b>}
        {list(names)} {verb} the old facts until the next dispatch puts {names.length === 1 ? 'it' : 'them'} right.
      </>
    );
  }
  if (isNew) return <>Nothing leaves the house by saving.</>;
  return <>{changed ? 'Saving this changes nothing outside.' : 'Saved. Every change makes a revision.'}</>;
});

/** A notice that has a moment to come, and that nobody has said yes to: without one it will not go. */
function wantsYes(listing: SurveyedListing): boolean {
  const { rules, state, errand, embargoUntil, down, findings } = listing;
  return (
    rules.notice !== null &&
    embargoUntil !== null &&
    state.sent === null &&
    errand === 'none' &&
    down === null &&
    !findings.some((f) => f.weight === 'stops')
  );
}

/** Asks for the yes at the save: what was said yes to goes at its moment by itself. */
function WantsYes({
  wanting,
  busy,
  onYes,
}: {
  wanting: readonly SurveyedListing[];
  busy: boolean;
  onYes: (listings: string[]) => void;
}) {
  const zone = (listing: SurveyedListing) =>
    listing.findings.find((f) => f.code === 'goes-later' || f.code === 'embargoed');
  return (
    <div className={classes.yes} role="group" aria-label="Waits for your yes">
      {wanting.map((listing) => {
        const told = zone(listing);
        const at = told && 'zone' in told ? momentWords(listing.embargoUntil ?? 0, told.zone) : '';
        return (
          <p key={listing.id}>
            {listing.rules.name} goes {at} by itself, once you say yes; without it, it does not go.{' '}
            <button type="button" className="quietButton" disabled={busy} onClick={() => onYes([listing.id])}>
              Yes, at that moment
            </button>
          </p>
        );
      })}
    </div>
  );
}

function list(names: string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
}
