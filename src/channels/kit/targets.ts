import type { Facts, LinkFacts } from '@/core/facts/facts';
import type { ShownValue } from '@/core/listing/shown';
import { tracked } from '@/core/listing/ticket-link';
import type { Target } from '@/core/record/record';

/**
 * Where a target leads from a channel; `null`: nowhere, or back to the channel itself. Tickets lead where the channel's
 * link does.
 */
export function targetLink(to: Target, facts: Facts, channel: string): LinkFacts | null {
  switch (to.kind) {
    case 'tickets':
      return facts.link.kind === 'none' ? null : facts.link;
    case 'address':
      return { kind: 'known', href: to.href };
    case 'venue': {
      const site = facts.performances[0]?.place?.site ?? '';
      return site === '' ? null : { kind: 'known', href: site };
    }
    case 'page': {
      const page = to.channel === channel ? undefined : facts.pages[to.channel];
      if (!page) return null;
      const track = { name: facts.outlets[0]?.trackAs ?? 'via', value: channel };
      if (page.value === null)
        return { kind: 'awaited', from: to.channel, name: page.name, gift: 'public address', track };
      return { kind: 'known', href: tracked(page.value, track.name, channel) };
    }
  }
}

/** A link as a channel shows it. */
export function shownLink(link: LinkFacts | null): ShownValue | null {
  switch (link?.kind) {
    case 'known':
      return { kind: 'url', href: link.href };
    case 'awaited':
      return { kind: 'awaited', from: link.from, name: link.name, gift: link.gift ?? 'ticket link', track: link.track };
    default:
      return null;
  }
}
