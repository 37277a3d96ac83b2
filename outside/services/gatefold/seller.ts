import { Hono, type Context } from 'hono';
import type { z } from 'zod';
import type { draftSchema } from './listing-schema';
import type { Outside } from '../../outside';
import { onceByKey } from '../../once-by-key';

export const shelf = 'gatefold';
export type Listing = z.infer<typeof draftSchema> & {
  state: 'draft' | 'open' | 'unlisted' | 'closed' | 'cancelled';
  /** What those who bought were written, one line each. */
  letters?: string[];
  sold: number;
  sales: Record<string, number>;
  /** Orders by the source that their link named. */
  by_source?: Record<string, number>;
  /** Whose listing it is. */
  account?: string;
};
/** Where buyers of the simulated public come from: what the links that they follow say. */
export const cameFrom = ['lectern', 'hearthside', 'fernway', 'concourse', ''];

/** Notes by which link they came who bought. */
export function cameBy({ sold, by_source: before = {} }: Listing, now: number, source: string) {
  return now === sold ? {} : { by_source: { ...before, [source]: (before[source] ?? 0) + now - sold } };
}

export type Seller = ReturnType<typeof sellerOf>;

/** The seller's app, its interface, and what they share. */
export function sellerOf({ store, clock, base, callBack }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const tokens = new Map<string, { until: number; account: string }>();
  const calls = new Map<string, number[]>();
  const held = (header: string | undefined) => tokens.get(/^Bearer (.+)$/.exec(header ?? '')?.[1] ?? '');
  const labelOf = (code: string) => store.get<{ label: string }>('gatefold-venues', code)?.body.label ?? '';
  const shown = (id: string, { venue_code: code, account: _, ...rest }: Listing) => ({
    ...rest,
    id,
    venue: labelOf(code),
    url: `${base}/${shelf}/e/${id}`,
  });
  /** Does a write once for each key, and gives the same answer again. */
  const once = async (
    c: Context,
    work: (body: unknown) => { status: 200 | 201 | 404 | 409 | 422 | 423; body: object },
  ) => {
    const key = c.req.header('idempotency-key');
    if (!key) return c.json({ message: 'Idempotency-Key is needed' }, 400);
    const body: unknown = await c.req.json();
    const answer = onceByKey(store, shelf, key, [c.req.path, body], () => work(body));
    return c.json(answer.body, answer.status);
  };
  return { app, store, tokens, clock, api, held, calls, shown, once, labelOf, base, callBack };
}
/** 4.5 per cent and 0.60, nine at most; of nothing, nothing. In whole cents, halves away from zero. */
function feeOf(face: number): number {
  return face === 0 ? 0 : Math.min(900, Math.floor((Math.round(face * 100) * 450 + 5_000) / 10_000) + 60) / 100;
}

/** What a buyer pays for one: its face, the place's fee where it is not absorbed, and the seller's own. */
export function paysFor({ absorb_fee: absorbed, own_fee: own }: Listing, face: number): number {
  return face + (absorbed ? 0 : feeOf(face)) + (face > 0 ? Number(own ?? 0) : 0);
}

/** Tickets of a session that can still be had, as far as its total tells. */
export function leftOf(listing: Listing, session: string): number | null {
  const total = listing.sessions.find(({ external_id: id }) => id === session)?.total ?? null;
  return total === null ? null : Math.max(0, total - taken(listing, session));
}

/** Seats of a session that are taken: by what was sold for it, as many as each lets in, and by passes to it. */
export function taken({ levels, sales }: Listing, session: string): number {
  return Object.entries(sales).reduce((sum, [key, n]) => {
    const [at = '', level = ''] = key.split('|');
    const of = levels.find((candidate) => candidate.external_id === level);
    const covers = of?.admits_to;
    const here = at === session || (Array.isArray(covers) && covers.includes(session));
    return sum + (here ? n * (of?.lets_in ?? 1) : 0);
  }, 0);
}

/**
 * Sells to the public for the first session that takes place, from the first open level on, as far as there are any: of each level, and
 * of all together.
 */
export function sell(listing: Listing, count: number): Pick<Listing, 'sold' | 'sales'> {
  const { sessions, levels, sold } = listing;
  const session = sessions.find(({ standing }) => !standing)?.external_id;
  if (session === undefined) return { sold, sales: listing.sales };
  const next = { ...listing.sales };
  let more = 0;
  for (const level of levels.filter((level) => !level.hidden)) {
    const gone = next[`${session}|${level.external_id}`] ?? 0;
    const covered = Array.isArray(level.admits_to) ? level.admits_to : [session];
    const room = Math.min(
      ...sessions
        .filter((session) => covered.includes(session.external_id))
        .map((session) => (session.total ?? Infinity) - taken({ ...listing, sales: next }, session.external_id)),
    );
    const here = Math.max(
      0,
      Math.min(count - more, Math.floor(room / (level.lets_in ?? 1)), (level.quantity ?? Infinity) - gone),
    );
    if (here > 0) next[`${session}|${level.external_id}`] = gone + here;
    more += here;
  }
  return { sold: sold + more, sales: next };
}
