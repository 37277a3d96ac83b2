import type { ReactNode } from 'react';
import { groupBy } from '@/core/base/group-by';
import { listWords } from '@/core/base/list-words';
import { leftUntil } from '@/core/errands/goes';
import { splitKey } from '@/core/listing/shown';
import { wordsOf } from '@/core/listing/value-words';
import type { Picked } from '@/ui/dispatch/picked';
import { Pennant } from '@/ui/pennant';
import { useChannels, type Channels } from '@/ui/use-channels';
import type { ChangeView, LockedChange, PlainForeseen } from '@/views/change';
import classes from './Change.module.css';
import type { Picks } from './change-picks';
import { WayFields } from './WayFields';
import { flippedWith } from './change-picks';
import { whenWords } from './when-words';

export interface RowProps {
  view: ChangeView;
  picks: Picks;
  put: (part: Partial<Picks>) => void;
}

/** One row of the list: what sort it is, what it is about, and by when. */
export function Row({ name, says, red, children }: { name: string; says: string; red?: boolean; children: ReactNode }) {
  return (
    <section className={classes.row} aria-label={name}>
      <div>
        <h2 data-red={red || undefined}>{name}</h2>
        <p className={classes.says}>{says}</p>
      </div>
      <div>{children}</div>
    </section>
  );
}

export function flipped(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}

/** Which fields change there, in words: up to three by name, else how many. */
function fieldsWords(channels: Channels, { channel, op, changes }: PlainForeseen): string {
  if (op === 'place') return 'a new listing';
  if (op === 'unpublish') return 'taken down';
  if (op === 'cancel') return 'cancelled there';
  const rows = channels.of(channel)?.rules.rows ?? [];
  const labels = [
    ...new Set(changes.map(({ key }) => rows.find((row) => row.field === splitKey(key).field)?.label ?? key)),
  ];
  return labels.length > 3 ? `${labels.length} fields` : labels.join(', ');
}

/** What is right as soon as it is sent, a line for those of which the same changes. */
export function AtOnceRow({ view, picks, put }: RowProps) {
  const channels = useChannels();
  if (view.atOnce.length === 0) return null;
  const lines = groupBy(view.atOnce, (item) => `${fieldsWords(channels, item)} ${item.by.asRule}`);
  const count = view.atOnce.length;
  return (
    <Row name="Right at once" says={count === 1 ? 'one listing' : `${count} listings`}>
      {[...lines].map(([key, items]) => (
        <div key={key} className={classes.line}>
          <span className={classes.strip}>
            {items.map((item) => (
              <Ticked
                key={item.listing}
                name={channels.name(item.channel)}
                on={!picks.out.has(item.listing)}
                onFlip={() => put(flippedWith(view, picks, item.listing, false))}
              />
            ))}
            <span className={classes.quiet}>{items[0] ? fieldsWords(channels, items[0]) : ''}</span>
          </span>
          <span className={classes.by}>by {whenWords(items[0]?.by.asRule ?? view.now, view.now, view.zone)}</span>
        </div>
      ))}
      {view.busy.length === 0 ? null : (
        <p className={classes.quiet}>
          {listWords(view.busy.map(({ channel }) => channels.name(channel)))}: an errand is under way; what changes goes
          behind it
        </p>
      )}
    </Row>
  );
}

/** A channel with its pennant and its tick. */
function Ticked({ name, on, onFlip }: { name: string; on: boolean; onFlip: () => void }) {
  return (
    <label className={classes.ticked} data-off={!on || undefined}>
      <input type="checkbox" checked={on} onChange={onFlip} />
      <Pennant standing="due" silent size={18} />
      <b>{name}</b>
    </label>
  );
}

/** What shows by the channel's own habit: by when as a rule, and by when at the latest. */
export function LaterRow({ view, picks, put }: RowProps) {
  const channels = useChannels();
  if (view.later.length === 0) return null;
  const when = (at: number) => whenWords(at, view.now, view.zone);
  return (
    <Row name="Right later" says="by the channel’s own habit">
      {view.later.map((item) => (
        <div key={item.listing} className={classes.line}>
          <span className={classes.strip}>
            {item.op === null ? (
              <span className={classes.ticked}>
                <Pennant standing="due" silent size={18} />
                <b>{channels.name(item.channel)}</b>
              </span>
            ) : (
              <Ticked
                name={channels.name(item.channel)}
                on={!picks.out.has(item.listing)}
                onFlip={() => put(flippedWith(view, picks, item.listing, false))}
              />
            )}
            <span>{habitWords(channels, item)}</span>
            {item.afterDoors ? <span className={classes.red}>after the doors open</span> : null}
          </span>
          <span className={classes.by}>
            <b>{when(item.by.asRule)}</b>
            {item.by.atLatest === item.by.asRule ? '' : `, ${when(item.by.atLatest)} at the latest`}
          </span>
        </div>
      ))}
    </Row>
  );
}

function habitWords(channels: Channels, item: PlainForeseen): string {
  const channel = channels.of(item.channel);
  const shows = channel?.rules.shows;
  switch (shows?.when) {
    case 'next batch':
      return 'with its next batch';
    case 'next visit':
      return item.changes.some(({ key }) => shows.looksAt.includes(splitKey(key).field))
        ? 'reads our feed at its next visit, then a person looks'
        : 'at its next visit to our feed';
    case 'after':
      return item.op === null
        ? `shows what the register has after ${shows.fromMs / 3_600_000}–${shows.toMs / 3_600_000} h`
        : `within ${shows.toMs / 3_600_000} h`;
    default:
      return fieldsWords(channels, item);
  }
}

/** What is locked, with the ways: one is picked before anything of the event goes out. */
export function LockedRow({ view, picks, put }: RowProps) {
  const channels = useChannels();
  return view.locked.map((item) => (
    <Row
      key={item.listing}
      red
      name="Locked there"
      says={`${channels.name(item.channel)}${item.sold > 0 ? `, since the first sale: ${item.sold} sold` : ''}`}
    >
      <Ways
        {...item}
        view={view}
        picked={picks.ways[item.listing] ?? null}
        onPick={(picked) => put({ ways: { ...picks.ways, [item.listing]: picked } })}
      />
    </Row>
  ));
}

function Ways({
  listing,
  locked,
  ways,
  by,
  sold,
  view,
  picked,
  onPick,
}: LockedChange & { view: ChangeView; picked: Picked | null; onPick: (picked: Picked) => void }) {
  const way = ways.find(({ id }) => id === picked?.way);
  const first = way && way.id !== 'leave' ? by[way.id] : undefined;
  return (
    <>
      {locked.slice(0, 4).map((change) => (
        <p key={change.key} className={classes.quiet}>
          {change.label} <del>{wordsOf(change.before)}</del> → {wordsOf(change.after)}: {change.why}
        </p>
      ))}
      <WayFields
        name={listing}
        {...{ ways, sold, picked, onPick }}
        code={view.code}
        reason={view.reason}
        until={leftUntil(view)}
      />
      <p className={classes.quiet}>
        {first
          ? `By ${whenWords(first.asRule, view.now, view.zone)} if it says yes; else nothing else goes out.`
          : way?.id === 'leave'
            ? 'The rest goes; there it stays wrong.'
            : 'Nothing of this event goes before you pick one.'}
      </p>
    </>
  );
}
