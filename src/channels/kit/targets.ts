import type { Facts, LinkFacts } from '@/core/facts/facts';
import type { ShownValue } from '@/core/listing/shown';
import { tracked } from '@/core/listing/ticket-link';
import type { Target } from '@/core/record/record';
import { mapAddress } from '@/core/facts/map-address';

/**
 * Where a target leads from a channel; `null`: nowhere, or back to the channel itself. Tickets lead where the channel's
 * link does.
 */
export function targetLink(to: Target, facts: Facts, channel: string, source = channel): LinkFacts | null {
  switch (to.kind) {
    case 'tickets':
      return facts.link.kind === 'none' ? null : facts.link;
    case 'address':
      return { kind: 'known', href: to.href };
    case 'venue': {
      const site = facts.performances[0]?.place?.site ?? '';
      return site === '' ? null : { kind: 'known', href: site };
    }
    case 'map': {
      const href = mapAddress(facts.performances[0]?.place?.point ?? null, facts.aboutUs);
      return href === '' ? null : { kind: 'known', href };
    }
    case 'page': {
      const page = to.channel === channel ? undefined : facts.pages[to.channel];
      if (!page) return null;
      const track = { name: facts.outlets[0]?.trackAs ?? 'via', value: source };
      if (page.value === null)
        return { kind: 'awaited', from: to.channel, name: page.name, gift: 'public address', track };
      return { kind: 'known', href: tracked(page.value, track.name, source) };
    }
  }
}

/**
 * The link by which one registers, with where people come from: each source has one of its own, so that they can be
 * told apart. `null`: no channel gives one, or it is this one.
 */
export function registrationLink({ gifts }: Pick<Facts, 'gifts'>, here: string, source = here): LinkFacts | null {
  const keeps = gifts['registration link'];
  if (keeps === undefined || keeps.from === here) return null;
  const track = source === '' ? null : { name: 'from', value: source };
  if (keeps.value === null)
    return { kind: 'awaited', from: keeps.from, name: keeps.name, gift: 'registration link', track };
  return { kind: 'known', href: track === null ? keeps.value : tracked(keeps.value, track.name, track.value) };
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
