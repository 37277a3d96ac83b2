import type { KindRules } from '@/core/listing/channel-rules';
import { seenByAll } from './common-rows';

type Own = 'trade' | 'rows' | 'delayMs' | 'operations' | 'habits';

/**
 * A kind's rules, as most kinds are in whatever is not said: seen at once by its interface and its page, without marks,
 * locks or gifts.
 */
export function kindRules(part: Pick<KindRules, Own> & Partial<KindRules>): KindRules {
  return {
    softBreak: 'kept',
    picture: null,
    notice: null,
    lapse: null,
    lists: null,
    mostPerformances: 1,
    shows: { when: 'at once' },
    observe: 'both',
    page: null,
    conditional: 'none',
    answers: 'at once',
    mirrors: null,
    gives: [],
    states: ['public', 'closed'],
    stateFor: seenByAll,
    locks: [],
    budget: { requests: 20, perMs: 1_000, burst: 8, atOnce: 3 },
    hasVenues: false,
    hasProfiles: false,
    fee: null,
    accepts: () => true,
    ...part,
  };
}

/** What an event's page says in schema.org's words: its name and its dates; where there is an offer, its address. */
export function eventPage(offer: boolean): NonNullable<KindRules['page']> {
  return {
    type: 'Event',
    whileSeen: true,
    rows: [
      { field: 'title', property: 'name', as: 'text' },
      { field: 'start', property: 'startDate', as: 'moments' },
      ...(offer ? [{ field: 'link', property: 'offers/url', as: 'address', hides: true } as const] : []),
    ],
  };
}
