import { z } from 'zod';
import { accepted, readAnswer, type Http } from '@/channels/kit/http';
import { giftValue, instant, linkValue, seenByAll, stateRow, text } from '@/channels/kit/common-rows';
import type { Door, Kind, Remote } from '@/channels/kit/kind';
import { giftSeenBy, type KindRules, type Gift } from '@/core/listing/channel-rules';
import type { OperationRow } from '@/core/listing/operations';
import { sources } from '@/core/listing/sources';
import { secondsAt, stateAt, textAt, urlAt } from '@/core/listing/wire';

/*
 * Kinds that are nobody's: one for each way of answering, so that the contract is proved before real ones come. Each is
 * told to a scripted board, whose own data is the judge.
 */

const plain = { needs: [], undo: { how: 'wholly' }, tells: 'nobody', requests: 1, does: 'Does it.' } as const;
const every: readonly OperationRow[] = [
  { op: 'place', fields: 'all', ...plain },
  { op: 'amend', fields: 'all', ...plain },
  { op: 'publish', fields: 'state', leadsTo: ['public'], ...plain },
  { op: 'unpublish', fields: 'state', leadsTo: ['closed', 'draft'], ...plain },
];

/** The rules of a scripted kind: a title, a place, a link, and starts in a group of their own. */
function scriptedRules(part: Partial<KindRules> = {}): KindRules {
  return {
    trade: 'a board of the tests',
    rows: [
      {
        each: 'event',
        field: 'title',
        label: 'title',
        kind: 'text',
        limit: 60,
        need: 'must',
        sources: [sources.title, sources.shortTitle],
        from: (f) => text(f.title),
        ...textAt('name'),
      },
      {
        each: 'event',
        field: 'subtitle',
        label: 'subtitle',
        kind: 'text',
        sources: [sources.subtitle],
        from: (f) => text(f.subtitle),
        ...textAt('under'),
      },
      { each: 'event', field: 'link', label: 'ticket link', kind: 'url', from: linkValue, ...urlAt('link') },
      stateRow(
        'shown',
        seenByAll,
        stateAt('state', { draft: 'draft', public: 'open', closed: 'closed', cancelled: 'cancelled' }),
      ),
      {
        each: 'performance',
        field: 'start',
        label: 'start',
        kind: 'instant',
        sources: [sources.start],
        from: (p) => instant(p.start, p),
        ...secondsAt('at', 'zone'),
      },
    ],
    softBreak: 'kept',
    picture: null,
    notice: null,
    lapse: null,
    lists: { performance: 'dates', level: 'levels', ref: 'ref' },
    mostPerformances: 100,
    delayMs: 60_000,
    shows: { when: 'at once' },
    observe: 'api',
    page: null,
    conditional: 'none',
    answers: 'at once',
    mirrors: null,
    gives: [],
    states: ['public', 'closed'],
    stateFor: seenByAll,
    operations: every,
    locks: [],
    budget: { requests: 10_000, perMs: 1_000, burst: 10_000, atOnce: 2 },
    hasVenues: false,
    hasProfiles: false,
    fee: null,
    accepts: () => true,
    habits: ['Does what it is told.'],
    ...part,
  };
}

function kind(id: string, part: Partial<KindRules> = {}): Kind {
  const rules = scriptedRules(part);
  return {
    id,
    group: 'social',
    name: id,
    shortName: id,
    settings: z.object({}),
    rules: () => rules,
    credentials: [],
    connectionSchema: z.object({}),
  };
}

const giftRow = (field: string, gift: Gift): KindRules['rows'][number] => ({
  each: 'event',
  field,
  label: gift,
  kind: 'url',
  from: (f) => giftValue(f, gift),
  ...(giftSeenBy[gift] === 'holders' ? { seenBy: 'holders' as const } : {}),
  ...urlAt(field),
});
const tell = scriptedRules().rows;

/** One for each way of answering. */
export const scripted = {
  /** At once, with a version mark for each write. */
  marks: kind('marks', { conditional: 'version' }),
  /** At once, without: what somebody else wrote is found only by looking. */
  plain: kind('plain'),
  /** In two steps: made as a draft, then opened. */
  twostep: kind('twostep', { states: ['draft', 'public', 'closed'] }),
  /** Later: handed over, and answered row by row. */
  later: kind('later', { answers: 'later' }),
  /** Later, and a person there looks at it before the public sees it. */
  looked: kind('looked', { answers: 'later', delayMs: 6 * 3_600_000 }),
  /** Shows what another shows: nothing is ever placed there by us. */
  mirror: kind('mirror', { mirrors: 'plain', operations: [] }),
  /** Said once, and never unsaid. */
  once: kind('once', {
    operations: every.filter((row) => row.op === 'place').map((row) => ({ ...row, undo: { how: 'never' as const } })),
  }),
  /** Each entry has a key of its own, told once and asked for with every write. */
  keyed: kind('keyed'),
  /** Nothing is ever taken down there: it is called off, for good. */
  calledoff: kind('calledoff', {
    states: ['public', 'cancelled'],
    operations: [
      ...every.filter((row) => row.op === 'place' || row.op === 'amend'),
      { op: 'cancel', fields: 'state', leadsTo: ['cancelled'], ...plain, undo: { how: 'never' } },
    ],
  }),
  /** Gives two things to others. */
  giver: kind('giver', { gives: ['join link', 'registration link'] }),
  /** Awaits both. */
  taker: kind('taker', { rows: [...tell, giftRow('join', 'join link'), giftRow('register', 'registration link')] }),
} as const;

const thingSchema = z.looseObject({
  id: z.string(),
  version: z.number(),
  state: z.string(),
  /** Told with a placing and where it is looked for, and never where it is read. */
  key: z.string().optional(),
  wire: z.record(z.string(), z.unknown()),
});

/**
 * The door of a scripted kind: with version marks or without, in one step or two, with a key to each entry; where
 * nothing is taken down, it calls off.
 */
export function scriptedDoor({
  marks,
  twoSteps,
  keyed,
  callsOff,
  gives,
}: {
  marks: boolean;
  twoSteps: boolean;
  keyed: boolean;
  callsOff: boolean;
  gives: readonly Gift[];
}): Door {
  return ({ address }, http: Http) => {
    const remoteOf = (thing: z.infer<typeof thingSchema>): Remote => ({
      id: thing.id,
      publicUrl: `${address}/${thing.id}`,
      etag: marks ? `"${thing.version}"` : null,
      link: null,
      lapsesAt: null,
      gifts: Object.fromEntries(gives.map((gift) => [gift, `${address}/${gift.split(' ')[0]}/${thing.id}`])),
      ...(keyed && thing.key !== undefined ? { kept: { key: thing.key } } : {}),
    });
    const read = (body: unknown): Remote => {
      const lot = z.object({ ticket: z.string() }).safeParse(body);
      if (lot.success)
        return { id: '', publicUrl: null, etag: null, link: null, lapsesAt: null, lodged: lot.data.ticket };
      return remoteOf(thingSchema.parse(body));
    };
    const send = async (method: 'POST' | 'PATCH', path: string, body: unknown, to: Partial<Remote> = {}) => {
      const key = to.kept?.key;
      const answer = await http({
        method,
        url: `${address}${path}`,
        body: JSON.stringify(body),
        headers: {
          ...(to.etag == null ? {} : { 'if-match': to.etag }),
          ...(key === undefined ? {} : { 'x-key': key }),
        },
      });
      return read(readAnswer(accepted(answer, true), z.unknown(), 'the board'));
    };
    const close = (state: string) => (remote: Remote) => send('PATCH', `/things/${remote.id}`, { state }, remote);
    return {
      async place({ state, ...wire }, { reference }) {
        const made = await send('POST', '/things', { reference, wire });
        return twoSteps && state === 'open' && made.lodged === undefined
          ? send('POST', `/open/${made.id}`, {}, made)
          : made;
      },
      async amend(remote, { state, ...wire }) {
        let now = remote;
        if (Object.keys(wire).length > 0) now = await send('PATCH', `/things/${remote.id}`, { wire }, remote);
        return state === 'open' && now.lodged === undefined ? send('POST', `/open/${remote.id}`, {}, now) : now;
      },
      ...(callsOff ? { cancel: close('cancelled') } : { unpublish: close('closed') }),
      async fetch(remote) {
        const answer = await http({ method: 'GET', url: `${address}/things/${remote.id}` });
        if (answer.status === 404) return null;
        const thing = thingSchema.parse(readAnswer(accepted(answer, false), z.unknown(), 'the board'));
        return { wire: { ...thing.wire, state: thing.state }, page: null, remote: remoteOf(thing) };
      },
      async find(reference) {
        const answer = await http({ method: 'GET', url: `${address}/find?reference=${encodeURIComponent(reference)}` });
        return z
          .array(thingSchema)
          .parse(readAnswer(accepted(answer, false), z.unknown(), 'the board'))
          .map(remoteOf);
      },
      async collect(ticket) {
        const answer = await http({ method: 'GET', url: `${address}/lot?ticket=${ticket}` });
        const body: unknown = readAnswer(accepted(answer, true), z.unknown(), 'the board');
        return body === null ? null : remoteOf(thingSchema.parse(body));
      },
    };
  };
}
