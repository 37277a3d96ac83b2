import type { ReactNode } from 'react';
import { momentWords } from '@/core/dates/date-words';
import { splitKey } from '@/core/listing/shown';
import { useChannelNames } from '@/ui/use-channels/channel-names';
import type { ErrandToSend } from '@/views/dispatch';
import { groupWords, type ChangeGroup } from './by-change';
import { ChangeLines } from './ChangeLines';
import classes from './Dispatch.module.css';
import { undoShort } from './Errand';
import { TickAll } from './TickAll';
import type { Choices } from './use-choices';

/** The moment that all of them wait for; `null`: none, or each its own. */
export function sharedMoment(errands: readonly ErrandToSend[]): number | null {
  const [first] = errands;
  return first && errands.every(({ notBefore }) => notBefore === first.notBefore) ? first.notBefore : null;
}

interface ChangeRowProps {
  group: ChangeGroup;
  /** The event's zone. */
  zone: string;
  choices: Choices;
  /** The channels that take it, each to be ticked. */
  children: ReactNode;
}

/** One change of an event: what is said otherwise, once; beneath it the channels that take it. */
export function ChangeRow({ group, zone, choices, children }: ChangeRowProps) {
  const { errands } = group;
  const moment = sharedMoment(errands);
  const undo = new Set(errands.map((errand) => undoShort[errand.undo.how]));
  return (
    <div className={classes.group}>
      <div className={classes.groupHead}>
        {errands.length === 1 ? null : (
          <TickAll
            listings={errands.map(({ listing }) => listing)}
            choices={choices}
            name={`All channels of: ${group.facts[0]?.after ?? groupWords[group.sort]}`}
          />
        )}
        <Facts group={group} />
        {moment === null ? null : (
          <span className={classes.quiet}>not before {momentWords(moment, zone)}: goes then, once you say so</span>
        )}
        <span className={classes.cost}>{undo.size === 1 ? [...undo][0] : 'part of it cannot be undone'}</span>
      </div>
      <div className={classes.strip}>{children}</div>
      <Own group={group} />
    </div>
  );
}

/** What all of them say: the field, struck out and marked. */
function Facts({ group: { sort, facts, own } }: { group: ChangeGroup }) {
  if (sort !== 'changed') return <b>{groupWords[sort]}</b>;
  if (facts.length === 0) {
    const count = [...own.values()].reduce((sum, changes) => sum + changes.length, 0);
    return <b>{count === 1 ? 'one field' : `${count} fields`}, each channel in its own words</b>;
  }
  return (
    <span className={classes.groupFacts}>
      <FactWords facts={facts} />
      {facts.length > 6 ? <span>and {facts.length - 6} more</span> : null}
    </span>
  );
}

/** Facts before and after, as a line. */
export function FactWords({ facts }: Pick<ChangeGroup, 'facts'>) {
  const channels = useChannelNames();
  return facts.slice(0, 6).map(({ field, channel, before, after }) => (
    <span key={`${field} ${before} ${after}`}>
      <b>{channels.label(channel, field)}</b> <del>{before}</del> <span aria-hidden="true">→</span> <ins>{after}</ins>
    </span>
  ));
}

/** What single channels say besides, or differently: named, and field by field on demand. */
function Own({ group: { sort, errands, own } }: { group: ChangeGroup }) {
  const channels = useChannelNames();
  const more = errands.filter(({ listing }) => (own.get(listing)?.length ?? 0) > 0);
  if (more.length === 0 || sort === 'down' || sort === 'renewed') return null;
  const labels = ({ channel, listing }: ErrandToSend) => [
    ...new Set((own.get(listing) ?? []).map(({ key }) => channels.label(channel, splitKey(key).field))),
  ];
  const said = (errand: ErrandToSend) => {
    const names = labels(errand);
    return `${channels.name(errand.channel)} ${names.length > 3 ? `${names.length} fields` : names.join(', ')}`;
  };
  return (
    <details className={classes.more}>
      <summary>{sort === 'new' ? 'field by field' : `also ${more.map(said).join('; ')}`}</summary>
      {more.map((errand) => (
        <div key={errand.listing}>
          <b>{channels.name(errand.channel)}</b>
          <ChangeLines
            channel={errand.channel}
            op={errand.op}
            changes={own.get(errand.listing) ?? []}
            brief={errand.op === 'place'}
          />
        </div>
      ))}
    </details>
  );
}
