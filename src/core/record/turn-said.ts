import { shortDate } from '../dates/date-words';
import type { Venue } from './directory';
import type { RecordDraft } from './draft';
import { newNotice } from './new-record';
import { placesOf } from './places';
import type { LineUpEntry, Notice } from './record';
import { turned, type Doing, type Turnable, type TurnChosen } from './turned';

/** What is said of a turn to the public, and to those who bought. */
export interface TurnSaid {
  /** Why, in public words; empty: nothing is said of it. */
  why: string;
  /** What becomes of tickets that were bought: they stay valid, or are paid back. */
  tickets: 'valid' | 'returned';
  /** Until which day they are paid back; `null`: nothing is said of it. */
  until: string | null;
  /** Where or by whom; empty: where they were bought. */
  by: string;
  /** The words of the post as a person put them; `null`: as they are drafted; empty: no post. */
  words: string | null;
}

/** What is said of it as long as nobody has said anything else. */
export function nothingSaid(doing: Doing): TurnSaid {
  return { why: '', tickets: doing === 'cancel' ? 'returned' : 'valid', until: null, by: '', words: null };
}

/** True where a turn asks what becomes of tickets. */
export function asksTickets(doing: Doing, { mode }: Pick<RecordDraft['tickets'], 'mode'>): boolean {
  return mode === 'ticketed' && (doing === 'postpone' || doing === 'move' || doing === 'cancel');
}

/** What becomes of tickets, as a sentence. `follows`: the new date is not known yet. */
function ticketWords({ tickets, until, by }: TurnSaid, follows: boolean): string {
  const where = by.trim() === '' ? 'where they were bought' : by.trim();
  const when = until === null ? '' : ` until ${shortDate(until, true)}`;
  if (tickets === 'returned') return `Tickets are paid back${when}, ${where}.`;
  const valid = follows ? 'Tickets stay valid for the new date' : 'Tickets stay valid';
  return until === null && by.trim() === '' ? `${valid}.` : `${valid}; who cannot come is paid back${when}, ${where}.`;
}

/** A record, as it is saved or as it stands in the form, as far as a turn concerns it. */
interface Turning<P extends Turnable, T> {
  performances: readonly P[];
  tickets: T;
  notices: Notice[];
  lineUp: readonly LineUpEntry[];
}
type Refunding = Pick<RecordDraft['tickets'], 'mode' | 'refunds'>;

/** What a turn is worded with. */
export interface TurnGround<P extends Turnable = Turnable, T extends Refunding = Refunding> {
  draft: Turning<P, T>;
  /** The performances that it befalls. */
  ids: ReadonlySet<string>;
  venues: ReadonlyMap<string, Venue>;
}

/** A post about a turn, drafted. Its title follows the record; the day that it was on does not. */
export function draftedTurn(
  doing: Doing,
  chosen: TurnChosen,
  said: TurnSaid,
  { draft, ids, venues }: TurnGround,
): string {
  const items = draft.performances.filter(({ id }) => ids.has(id));
  const [item] = items;
  const reason = said.why.trim().replace(/[.!]+$/, '');
  const why = reason === '' ? '' : `: ${reason}`;
  const follows = doing === 'postpone' && chosen.date === null;
  const sentences = [happened(doing, chosen, item && items.length === 1 ? item : null, { draft, venues })(why)];
  if (asksTickets(doing, draft.tickets)) sentences.push(ticketWords(said, follows));
  return sentences.join(' ');
}

/** What a turn makes of a performance, as long as it is not taken back. */
const turnOfDoing: Partial<Record<Doing, NonNullable<Notice['turn']>>> = { cancel: 'cancelled', move: 'moved' };

/** The notices after a turn: those that were drafted of a turn that no performance has any more are taken out. */
function noticesAfter(notices: Notice[], performances: readonly Turnable[]): Notice[] {
  const stands = new Set<string>(performances.map(({ turn }) => turn));
  return notices.filter(({ turn }) => turn === null || stands.has(turn));
}

/** What happened to a performance; `null`: to several. Gives a function that puts the reason in its place. */
function happened(
  doing: Doing,
  chosen: TurnChosen,
  item: Turnable | null,
  { draft, venues }: Pick<TurnGround, 'draft' | 'venues'>,
): (why: string) => string {
  const day = (date: string) => shortDate(date, true);
  // A day that is not known is not said.
  const on = item === null || item.precision === 'open' || item.precision === 'month' ? '' : ` on ${day(item.date)}`;
  const title = '{{ title }}';
  switch (doing) {
    case 'cancel':
      return (why) => `${title}${on} is cancelled${why}.`;
    case 'soldOut':
      return () => `${title}${on} is sold out.`;
    case 'back':
      return () => `${title}${on} takes place after all.`;
    case 'extra':
      return () => `${title}: one date more${chosen.date === null ? '' : `, on ${day(chosen.date)}`}.`;
    case 'move': {
      const place = placesOf(venues).find(({ value }) => value === chosen.place)?.label ?? 'another room';
      return (why) => `${title}${on} takes place in ${place}${why}.`;
    }
    case 'postpone': {
      if (chosen.date === null) return (why) => `${title}${on} is postponed${why}. The new date is to follow.`;
      const start = chosen.start.trim() === '' ? (item?.start ?? '') : chosen.start.trim();
      const to = `${day(chosen.date)}${start === '' ? '' : ` at ${start}`}`;
      return (why) => `${title} takes place on ${to}${on === '' ? '' : `, not${on}`}${why}.`;
    }
    case 'lineUp': {
      const act = draft.lineUp.find(({ id }) => id === chosen.act)?.name;
      const out = act === undefined ? '' : `${act} cannot be there`;
      const joins = chosen.joins.trim() === '' ? '' : `${chosen.joins.trim()} ${act === undefined ? 'joins' : 'plays'}`;
      return (why) => `${title}${on}: ${out === '' ? `${joins}${why}` : `${out}${why}${joins && `. ${joins}`}`}.`;
    }
  }
}

/**
 * What a turn puts into a record: its performances, what is said of tickets, and a post with what is said to the public.
 * `post`: the channel that carries it and the id that it gets; `null`: none. `fresh`: the id of an extra date.
 */
export function withTurn<P extends Turnable, T extends Refunding>(
  doing: Doing,
  chosen: TurnChosen,
  said: TurnSaid,
  ground: TurnGround<P, T>,
  { post, fresh }: { post: { channel: string; id: string } | null; fresh: string },
): { performances: P[]; tickets: T; notices: Notice[] } {
  const { draft, ids, venues } = ground;
  const words = (said.words ?? draftedTurn(doing, chosen, said, ground)).trim();
  const follows = doing === 'postpone' && chosen.date === null;
  const performances = turned(draft.performances, doing, chosen, ids, { venues, fresh });
  const notices = noticesAfter(draft.notices, performances);
  const turn = doing === 'postpone' ? (follows ? 'postponed' : 'rescheduled') : (turnOfDoing[doing] ?? null);
  // Whoever bought has to know what takes place when, where and with whom; a date more or a full house is news to others.
  const holders = draft.tickets.mode === 'ticketed' && doing !== 'extra' && doing !== 'soldOut';
  return {
    performances,
    tickets: { ...draft.tickets, refunds: refundsAfter(doing, draft.tickets, ticketWords(said, follows)) },
    notices:
      post === null || words === ''
        ? notices
        : [...notices, newNotice(post.id, post.channel, { words, turn, holders })],
  };
}

/** What an earlier turn said of tickets: it stands last. */
const saidBefore = /\s*Tickets (?:are paid back|stay valid)[^\n]*$/;

/**
 * What stands under refunds after a turn: what the house says of them stays, and what this turn says stands behind it,
 * in place of what one before it said. Where an event takes place after all, that is taken out again.
 */
function refundsAfter(
  doing: Doing,
  { mode, refunds }: Pick<RecordDraft['tickets'], 'mode' | 'refunds'>,
  sentence: string,
): string {
  if (doing === 'back') return refunds.replace(saidBefore, '');
  return asksTickets(doing, { mode }) ? `${refunds.replace(saidBefore, '')} ${sentence}`.trim() : refunds;
}
