import { groupBy } from '@/core/base/group-by';
import { momentWords } from '@/core/dates/date-words';
import { quoteKey } from '@/core/errands/quotes';
import { findingWords } from '@/core/findings/finding-words';
import { listWords } from '@/core/base/list-words';
import { standingWords } from '@/core/listing/standing';
import { Pennant } from '@/ui/pennant';
import { useChannels } from '@/ui/use-channels';
import type { ChangeView } from '@/views/change';
import classes from './Change.module.css';
import { flippedWith, unseenOf } from './change-picks';
import { flipped, Row, type RowProps } from './GoingRows';
import { whenWords } from './when-words';

/** What drifted, was refused or cannot go: it is in the list, and never left out without a word. */
export function AsksRow({ view, picks }: Pick<RowProps, 'view' | 'picks'>) {
  const channels = useChannels();
  const { asks, held } = view;
  const unseen = unseenOf(view, picks);
  if (asks.length + held.length + unseen.length === 0) return null;
  return (
    <Row name="Waits for a decision" says="it does not go by itself">
      {asks.map(({ listing, channel, standing }) => (
        <p key={listing} className={classes.strip}>
          <Pennant standing={standing} silent size={18} />
          <b>{channels.name(channel)}</b>
          <span>{standingWords[standing].name.toLowerCase()}: decided in Read-back or Dispatch, not by this save</span>
        </p>
      ))}
      {[...groupBy(held, whyHeld)].map(([why, items]) => (
        <p key={why}>
          <b>{listWords(items.map(({ channel }) => channels.name(channel)))}</b> {why}
        </p>
      ))}
      {unseen.map(({ key, channel, words }) => (
        <p key={key} className={classes.warns}>
          {channel === null ? '' : `${channels.name(channel)}: `}
          {words}
        </p>
      ))}
    </Row>
  );
}

/** Why something cannot go, but for a lock elsewhere: that is told where it is locked. */
function whyHeld({ reasons, waitsFor }: ChangeView['held'][number]): string {
  if (waitsFor !== null) return `waits for the ticket link from ${waitsFor}`;
  return reasons
    .filter(({ code }) => code !== 'lock-undecided')
    .map(findingWords)
    .join(' ');
}

/** Where what is no channel's quotes the old fact, and what mends it. */
function QuoteLine({
  quote,
  zone,
  on,
  onFlip,
}: {
  quote: ChangeView['quotes'][number];
  zone: string;
  /** A person sees to it. */
  on: boolean;
  onFlip: () => void;
}) {
  const [what, mending] =
    quote.kind === 'file'
      ? [`Taken out as a file, ${momentWords(quote.at, zone)}`, 'whoever has it goes by it: take it out again']
      : quote.kind === 'document'
        ? [quote.name, 'may quote it: what is in a document is not read. Put up another under Documents']
        : [
            `${quote.lines} ${quote.lines === 1 ? 'line' : 'lines'} of the sheet`,
            'ticked before: to be gone through again under Tickets',
          ];
  return (
    <div className={classes.line}>
      <span className={classes.strip}>
        <Pennant standing="unread" silent size={18} />
        <b>{what}</b>
        <span>{mending}</span>
      </span>
      <label className={classes.by}>
        <input type="checkbox" checked={on} onChange={onFlip} /> I see to it
      </label>
    </div>
  );
}

/** Posts and letters that went out and quote the old fact, each with its mending, and what else does. */
export function SaidRow({ view, picks, put }: RowProps) {
  const channels = useChannels();
  if (view.said.length + view.quotes.length === 0) return null;
  return (
    <Row name="Said already" says="quotes the old fact">
      {view.said.map(({ listing, channel, sentAt, mending }) => {
        const on = mending === 'edit' ? !picks.out.has(listing) : picks.asked.has(listing);
        const flip = () => put(flippedWith(view, picks, listing, mending !== 'edit'));
        const words = {
          edit: 'follows: it can be edited where it stands',
          anew: 'cannot be changed there: a correction is drafted',
          none: 'is past mending',
        };
        return (
          <div key={listing} className={classes.line}>
            <span className={classes.strip}>
              <Pennant standing={mending === 'edit' ? 'instep' : 'unread'} silent size={18} />
              <b>
                {channels.name(channel)}
                {sentAt === null ? '' : `, ${momentWords(sentAt, view.zone)}`}
              </b>
              <span>{words[mending]}</span>
            </span>
            {mending === 'none' ? null : (
              <label className={classes.by}>
                <input type="checkbox" checked={on} onChange={flip} />{' '}
                {mending === 'edit' ? 'edit it' : 'send the correction'}
              </label>
            )}
          </div>
        );
      })}
      {view.quotes.map((quote) => (
        <QuoteLine
          key={quoteKey(quote)}
          quote={quote}
          zone={view.zone}
          on={picks.mended.has(quoteKey(quote))}
          onFlip={() => put({ mended: flipped(picks.mended, quoteKey(quote)) })}
        />
      ))}
    </Row>
  );
}

/** What tells everybody or waits for its own moment: never ticked beforehand. */
export function ApartRow({ view, picks, put }: RowProps) {
  const channels = useChannels();
  if (view.apart.length === 0) return null;
  return (
    <Row name="Only if you say so" says="it tells people, or waits for its moment">
      {view.apart.map((item) => (
        <div key={item.listing} className={classes.line}>
          <label className={classes.ticked}>
            <input
              type="checkbox"
              checked={picks.asked.has(item.listing)}
              onChange={() => put(flippedWith(view, picks, item.listing, true))}
            />
            <Pennant standing={item.notBefore === null ? 'unplaced' : 'embargoed'} silent size={18} />
            <b>{channels.name(item.channel)}</b>
            <span>{item.tells === 'nobody' ? '' : `tells ${item.tells}`}</span>
          </label>
          <span className={classes.by}>
            {item.notBefore === null ? '' : `not before ${whenWords(item.notBefore, view.now, view.zone)}`}
          </span>
        </div>
      ))}
    </Row>
  );
}

/** Moments that move along, sentences that now contradict, what no longer fits, clashes that arise. */
export function MovesRow({ view }: { view: ChangeView }) {
  const { moments, sentences, arises, clashes } = view;
  if (moments.length + sentences.length + arises.length + clashes.length === 0) return null;
  return (
    <Row name="Moves with it" says="cues, words, seats, other dates">
      {moments.length === 0 ? null : (
        <p>
          {moments
            .slice(0, 6)
            .map(({ what, level, after, zone }) => `${what} ${level} → ${whenWords(after, view.now, zone)}`)
            .join('  ·  ')}
        </p>
      )}
      {sentences.map(({ where, text, says, token }) => (
        <p key={`${where} ${text}`}>
          “{text}” in the {where} <span className={classes.red}>contradicts</span>: {says}
          {token === null ? '' : `; {{ ${token} }} would follow it`}
        </p>
      ))}
      {arises.map((found) => (
        <p key={found.code} className={classes.red}>
          {findingWords(found)}
        </p>
      ))}
      {clashes.map((words) => (
        <p key={words} className={classes.red}>
          {words}
        </p>
      ))}
    </Row>
  );
}

/** True where a post or letter goes along: one that is asked for, or the edit of one that stands. */
function goesAlong({ said }: ChangeView, picks: RowProps['picks'], listing: string): boolean {
  const edited = said.some((item) => item.listing === listing && item.mending === 'edit');
  return picks.asked.has(listing) || (edited && !picks.out.has(listing));
}

/** Who holds a ticket, and who tells them. */
export function HoldersRow({ view, picks }: RowProps) {
  const channels = useChannels();
  if (view.holders.length === 0) return null;
  const sum = view.holders.reduce((all, { sold }) => all + sold, 0);
  const teller = ({ listing, told }: ChangeView['holders'][number]) => {
    const way = view.locked
      .find((item) => item.listing === listing)
      ?.ways.find(({ id }) => id === picks.ways[listing]?.way);
    if (told === 'step' || way?.tells === 'buyers') return 'told by the channel’s own step';
    return told === 'way' && way === undefined
      ? 'told by the channel, if you pick its step; else by nobody'
      : view.telling.some((other) => goesAlong(view, picks, other))
        ? 'told by the post or letter that goes along'
        : 'told by nobody: Dispatch asks until somebody decides';
  };
  return (
    <Row name="Who holds a ticket" says={`${sum} ${sum === 1 ? 'ticket' : 'tickets'}`}>
      {view.holders.map((item) => (
        <p key={item.listing}>
          <b>
            {item.sold} by {channels.name(item.channel)}
          </b>{' '}
          <span className={teller(item).startsWith('told by nobody') ? classes.red : undefined}>{teller(item)}</span>
        </p>
      ))}
    </Row>
  );
}

/** Who shows the old fact for how long: as a rule, and at the latest. */
export function WrongRow({ view }: { view: ChangeView }) {
  const channels = useChannels();
  const { wrong, now, zone } = view;
  const last = Math.max(...wrong.map(({ until }) => until.atLatest));
  if (wrong.length === 0) return null;
  // Minutes and days are seen beside each other: the root of a span stands for it.
  const share = (at: number) => `${Math.max(1, Math.round(Math.sqrt((at - now) / (last - now)) * 70))}%`;
  return (
    <Row name="Wrong until then" says="who shows the old fact, how long">
      <ul className={classes.bars}>
        {wrong.map(({ channels: ids, until }) => {
          const names = ids.length > 3 ? `${ids.length} channels` : listWords(ids.map((id) => channels.name(id)));
          return (
            <li key={ids.join()}>
              <span
                className={classes.wrongBar}
                style={{ '--rule': share(until.asRule), '--latest': share(until.atLatest) } as React.CSSProperties}
              />
              {names}, until {whenWords(until.asRule, now, zone)}
              {until.atLatest === until.asRule ? '' : ` (${whenWords(until.atLatest, now, zone)} at the latest)`}
            </li>
          );
        })}
      </ul>
    </Row>
  );
}
