import type { LinkFacts } from '../facts/facts';
import type { Outlet } from '../record/ticket-schema';

/** What the choice of a ticket link needs to know of the channels. */
export interface LinkContext {
  /**
   * The link that a channel has given, or `null` where it is still to give one. A channel that is not here gives none.
   */
  given: ReadonlyMap<string, string | null>;
}

/** Which outlet's link a channel carries, and why. */
export interface LinkChoice {
  outlet: string;
  link: LinkFacts;
  /** Outlets of higher priority that were passed over, with the reason. */
  passed: { outlet: string; why: 'gives no link' | 'is itself' }[];
}

/** Under what those are counted who come from a channel, or from one post or letter on it: `lectern`, `murmurline.n3`. */
export function comesFrom(channel: string, noticeId: string | null): string {
  return noticeId === null ? channel : `${channel}.${noticeId}`;
}

/**
 * Chooses the ticket link for a channel: the first outlet, by priority, that has a link or is going to give one. A
 * channel does not link to itself. The parameter that tells apart where people come from is added to a known link;
 * `source`: its value, see `comesFrom`.
 */
export function chooseLink(
  outlets: readonly Outlet[],
  channel: string,
  { given }: LinkContext,
  source = channel,
): LinkChoice | null {
  const passed: LinkChoice['passed'] = [];
  for (const outlet of outlets) {
    if (outlet.channel === channel) {
      passed.push({ outlet: outlet.name, why: 'is itself' });
      continue;
    }
    const own = outlet.link ?? (outlet.channel === null ? undefined : given.get(outlet.channel));
    if (own === undefined) {
      passed.push({ outlet: outlet.name, why: 'gives no link' });
      continue;
    }
    const link: LinkFacts =
      own === null
        ? {
            kind: 'awaited',
            from: outlet.channel ?? '',
            name: outlet.name,
            track: outlet.trackAs === '' || source === '' ? null : { name: outlet.trackAs, value: source },
          }
        : { kind: 'known', href: tracked(own, outlet.trackAs, source) };
    return { outlet: outlet.name, link, passed };
  }
  return null;
}

/** `href` with the parameter `name=source`; as it is where there is no name or the parameter is there already. */
export function tracked(href: string, name: string, source: string): string {
  if (name === '' || source === '') return href;
  try {
    const url = new URL(href);
    if (!url.searchParams.has(name)) url.searchParams.set(name, source);
    return url.href;
  } catch {
    return href;
  }
}
