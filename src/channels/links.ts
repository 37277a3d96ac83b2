import type { Facts, LinkFacts } from '@/core/facts/facts';
import { chooseLink, comesFrom, type LinkChoice } from '@/core/listing/ticket-link';
import { targetLink } from './kit/targets';
import type { RecordContent, Target } from '@/core/record/record';
import type { Channel } from './channels';
import { linkOf } from './given';

/** What one channel's link, or one notice's, leads to, and why. */
export interface ChannelLink {
  channel: string;
  /** The notice that it is of; `null`: the event's listing. */
  noticeId: string | null;
  link: LinkFacts;
  /** The outlet that was chosen for the ticket link, with those passed over; `null`: nothing is sold. */
  choice: LinkChoice | null;
  /** What a person chose in place of where tickets are; `unmet`: it has no address, and tickets are linked to. */
  chosen: { words: string; reason: string; unmet: boolean } | null;
}

/**
 * What every channel's link leads to, and every notice's: where tickets are, unless a person chose otherwise. The
 * facts' own link is the one that was typed: what channels give is filled in here, for each with its own source.
 */
export function channelLinks(
  facts: Facts,
  channels: readonly Channel[],
  given: ReadonlyMap<string, string | null>,
  { linkChoices }: Pick<RecordContent, 'linkChoices'>,
): ChannelLink[] {
  const name = (id: string) => channels.find((channel) => channel.rules.id === id)?.rules.name ?? id;
  const linkFor = (channel: string, noticeId: string | null): ChannelLink => {
    const source = comesFrom(channel, noticeId);
    const choice = facts.ticketed ? chooseLink(facts.outlets, channel, { given }, source) : null;
    const usual = linkOf(facts, choice, channel, source);
    const own =
      linkChoices.find((choice) => choice.channel === channel && choice.noticeId === noticeId) ??
      linkChoices.find((choice) => choice.channel === channel && choice.noticeId === null);
    const plain: ChannelLink = { channel, noticeId, link: usual, choice, chosen: null };
    if (!own || own.to.kind === 'tickets') return plain;
    const link = targetLink(own.to, facts, channel, source);
    const chosen = { words: targetWords(own.to, name), reason: own.reason, unmet: link === null };
    return { ...plain, link: link ?? usual, chosen };
  };
  return channels.flatMap(({ rules: { id, notice } }) =>
    notice === null
      ? [linkFor(id, null)]
      : facts.notices.filter((notice) => notice.channel === id).map((notice) => linkFor(id, notice.id)),
  );
}

/** What a target is, in words. */
function targetWords(to: Target, name: (channel: string) => string): string {
  switch (to.kind) {
    case 'tickets':
      return 'where tickets are';
    case 'page':
      return `its page on ${name(to.channel)}`;
    case 'venue':
      return 'the venue’s site';
    case 'map':
      return 'the venue on a map';
    case 'address':
      return to.href;
  }
}

const none: ReadonlySet<string> = new Set();

/** Channels whose links wait for each other's addresses: none of them could ever be placed. */
export function linkCircle(
  facts: Facts,
  links: readonly ChannelLink[],
  channels: readonly Channel[],
): ReadonlySet<string> {
  // Where nothing is still to come, nothing waits in a circle.
  if (facts.links.length === 0 && links.every((link) => link.link.kind !== 'awaited')) return none;
  const listing = new Set(
    channels.filter(({ rules }) => rules.rows.some((row) => row.each === 'link')).map(({ rules }) => rules.id),
  );
  const waits = new Map<string, Set<string>>();
  const wait = (channel: string, link: LinkFacts | null) => {
    if (link?.kind !== 'awaited') return;
    const all = waits.get(channel) ?? new Set();
    waits.set(channel, all.add(link.from));
  };
  for (const link of links) {
    wait(link.channel, link.link);
    if (link.noticeId === null && listing.has(link.channel))
      for (const { to } of facts.links) wait(link.channel, targetLink(to, { ...facts, link: link.link }, link.channel));
  }
  const reaches = (from: string, goal: string, seen = new Set<string>()): boolean =>
    [...(waits.get(from) ?? [])].some((next) => {
      if (next === goal) return true;
      if (seen.has(next)) return false;
      seen.add(next);
      return reaches(next, goal, seen);
    });
  return new Set([...waits.keys()].filter((channel) => reaches(channel, channel)));
}
