import { parseArgs } from 'node:util';
import { addDays } from '@/core/base/zones';
import { equalOrAbsent } from '@/core/listing/compare';
import { newEntry } from '@/core/record/new-record';
import type { Performance, RecordContent } from '@/core/record/record';
import { keeper } from '@/core/testing/doers';
import { readNow } from '@/desk/drift/read-now';
import { changeView } from '@/desk/records/change-view';
import { saveAndSend } from '@/desk/records/save-and-send';
import { surveyAll, surveyById, type SurveyedRecord } from '@/house/survey';
import { startRunner } from '@/runner/runner';
import { errandsWhere } from '@/store/errands';
import { noPicks, sumOfPicks } from '@/ui/record/change/change-picks';
import type { ChangeView, LockedChange, PlainForeseen } from '@/views/change';
import { followed, moveClock } from '../tests/move-clock';
import { chance } from './chance';
import { demoHouse } from './told-house';

// The stand-ins stand on this machine.
process.env.NUNTIAX_PRIVATE ??= '127.0.0.1';

/*
 * npm run bench:told -- --changes 20 --seed 1: makes changes of every sort on the demo, a few at a time, sends them, and moves the clock on
 * to each moment that was foretold: was it seen by then, was told who was to be told, was locked what was said to be, and
 * stayed wrong what was said to stay. Prints one line of JSON; ends with 1 where it is not as it is to be.
 */

const { values } = parseArgs({
  options: {
    changes: { type: 'string', default: '20' },
    seed: { type: 'string', default: '1' },
    verbose: { type: 'boolean', default: false },
  },
});
const wanted = Number(values.changes);
const random = chance(Number(values.seed));
const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
const say = (...words: unknown[]) => void (values.verbose && console.error(...words));
/** So many changes go at a time. */
const atOnce = 5;
const dayMs = 86_400_000;

say('reading the demo in');
let { house, base, outsideDb, end } = await demoHouse();

/** Lets the queue come to rest; what it waits for takes its time by the simulated clock, up to `mostMs` of it. */
async function settle(mostMs: number) {
  const runner = startRunner(house);
  const until = Date.now() + 300_000;
  for (let passed = 0; Date.now() < until;) {
    await new Promise((resolve) => setTimeout(resolve, 40));
    if (!runner.idle(0)) continue;
    if (passed >= mostMs || runner.idle(20_000)) break;
    await moveClock(base, 1_000);
    passed += 1_000;
    await followed(house);
  }
  await runner.stop();
}

/** What a place wrote to people about a listing, by its own data: how many letters, how often it told. */
function toldThere(listing: string): number {
  const rows = outsideDb.prepare('SELECT body FROM things WHERE reference = ?').all(listing) as { body: string }[];
  return rows.reduce((sum, { body }) => {
    const { letters, told } = JSON.parse(body) as { letters?: unknown; told?: unknown };
    return sum + (Array.isArray(letters) ? letters.length : Number(letters ?? 0)) + Number(told ?? 0);
  }, 0);
}

/** How many a marketplace has sold of a listing, by its own data. */
function soldThere(listing: string): number {
  const row = outsideDb.prepare('SELECT body FROM things WHERE reference = ?').get(listing) as
    { body: string } | undefined;
  const sold = row && (JSON.parse(row.body) as { sold?: unknown }).sold;
  if (typeof sold === 'number') return sold;
  return Object.values((sold ?? {}) as Record<string, number>).reduce((sum, n) => sum + Number(n), 0);
}

let marks = 0;
const clock = (time: string, minutes: number) => {
  const at = (Number(time.slice(0, 2)) * 60 + Number(time.slice(3)) + minutes + 1440) % 1440;
  return `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;
};
const nights = (content: RecordContent, part: (night: Performance) => Partial<Performance>): RecordContent => ({
  ...content,
  performances: content.performances.map((night) => ({ ...night, ...part(night) })),
});
const rooms = (content: RecordContent) => content.performances[0]?.venueId ?? '';
/** Changes of every sort. */
const sorts: Record<string, (content: RecordContent) => RecordContent> = {
  later: (c) => nights(c, ({ start }) => ({ start: start && clock(start, 15 * (1 + Math.floor(random() * 3))) })),
  earlier: (c) => nights(c, ({ start }) => ({ start: start && clock(start, -15), doors: null })),
  'another day': (c) => nights(c, ({ date }) => ({ date: addDays(date, 2), turn: 'rescheduled' })),
  postponed: (c) => nights(c, () => ({ turn: 'postponed' })),
  cancelled: (c) => nights(c, () => ({ turn: 'cancelled' })),
  'sold out': (c) => nights(c, () => ({ soldOut: true })),
  title: (c) => ({ ...c, title: `${c.title.slice(0, 40)} ${(marks += 1)}` }),
  subtitle: (c) => ({ ...c, subtitle: `The ${(marks += 1)}th of its kind` }),
  teaser: (c) => ({ ...c, words: { ...c.words, teaser: `Told anew for the ${(marks += 1)}th time.` } }),
  'line-up': (c) => ({ ...c, lineUp: [...c.lineUp, newEntry(`x${(marks += 1)}`, `Guest ${marks}`, 'support')] }),
  price: (c) => ({
    ...c,
    tickets: { ...c.tickets, levels: c.tickets.levels.map((level) => ({ ...level, price: level.price + 100 })) },
  }),
};

/** Records that stand outside, are ahead, and have nothing under way or open. */
function candidates(used: ReadonlySet<string>): SurveyedRecord[] {
  const now = house.clock.now();
  return surveyAll(house).filter(({ record, survey }) => {
    const { performances, visibility } = survey.facts;
    const stands = survey.listings.filter(({ state }) => state.sent !== null);
    return (
      !used.has(record.id) &&
      visibility === 'public' &&
      performances.length > 0 &&
      performances.length < 4 &&
      performances.every(({ at, turn, zone }) => at > now + 4 * dayMs && turn === 'none' && zone === 'Europe/Dublin') &&
      rooms(record.content) !== '' &&
      stands.length > 1 &&
      survey.listings.every(({ errand, steps }) => errand === 'none' && steps.locked.length === 0) &&
      stands.every(({ standing }) => standing === 'instep' || standing === 'due')
    );
  });
}

/** One thing that was foretold, with what is needed to say whether it came so. */
interface Held {
  record: SurveyedRecord['record']['id'];
  sort: string;
  item: PlainForeseen;
  toldBefore: number;
  seenAt: number | null;
}
const right = { asARule: 0, atLatest: 0, told: 0, locks: 0, wrongUntil: 0 };
const of = { asARule: 0, atLatest: 0, told: 0, locks: 0, wrongUntil: 0 };
let [changes, predictions] = [0, 0];
const judge = (what: keyof typeof right, so: boolean, ...words: unknown[]) => {
  of[what] += 1;
  if (so) right[what] += 1;
  else console.error(`wrong: ${what}:`, ...words);
};

/** What is foretold of a way that was picked. */
function byWay(
  view: ChangeView,
  { listing, channel, ways, by, locked, sold }: LockedChange,
  way: string,
): PlainForeseen {
  const row = ways.find(({ id }) => id === way);
  const when = row && row.id !== 'leave' ? by[row.id] : undefined;
  const never = { earliest: view.now, asRule: Infinity, atLatest: Infinity };
  return {
    ...{ listing, channel, record: view.recordId, op: null, changes: locked, behindStep: false, notBefore: null },
    ...{ by: when ?? never, tells: row?.tells ?? 'nobody', told: sold, undo: { how: 'wholly' } },
    leaves: when ? [] : locked.map(({ key }) => key),
  };
}

/** Makes one change, looks at what it does, and sends it. */
function change({ record, survey }: SurveyedRecord): Held[] | null {
  const [sort, make] = pick(Object.entries(sorts)) ?? ['', (c: RecordContent) => c];
  const content = make(record.content);
  const answer = changeView(house, keeper, record.id, content);
  if (answer.kind === 'stopped') return null;
  const { view } = answer;
  const ways = Object.fromEntries(
    view.locked.map((item) => {
      const way = pick(item.ways)?.id ?? 'leave';
      return [item.listing, { way, reason: 'For the bench', code: view.code, until: view.date }];
    }),
  );
  const sum = sumOfPicks(view, { ...noPicks, ways });
  if (sum.listings.length + Object.keys(ways).length === 0 || view.held.length + view.asks.length > 0) return null;
  // What is locked there is said before it is tried: by the place's own count of what it sold.
  for (const { id, lock, rules } of survey.listings)
    if (rules.gives.includes('ticket link') && lock.sold + soldThere(id) > 0)
      judge('locks', lock.sold === soldThere(id) || rules.id.startsWith('pennyseat'), record.code, id, lock.sold);
  const items = [
    ...view.atOnce,
    ...view.later,
    ...view.locked.map((item) => byWay(view, item, ways[item.listing]?.way ?? '')),
  ];
  const held = items.map((item): Held => ({
    ...{ record: record.id, sort, item, seenAt: null },
    toldBefore: toldThere(item.listing),
  }));
  const request = { id: record.id, base: record.revision, content, reason: sort };
  const sent = saveAndSend(house, keeper, request, new Set(sum.listings), { ways: sum.ways, seen: 'all' });
  if (sent.kind !== 'sent') {
    console.error(`not sent: ${sort} of ${record.code}: ${JSON.stringify(sent)}`);
    return null;
  }
  say(`${sort} of ${record.code}: ${items.map(({ channel }) => channel).join(', ')}`);
  return held;
}

const listingOf = ({ record, item }: Held) =>
  surveyById(house, record)?.survey.listings.find(({ id }) => id === item.listing);

/** Whether a listing shows all that was foretold of it, as it was read last. */
function isSeen(held: Held): boolean {
  const listing = listingOf(held);
  const { observed } = listing?.state ?? {};
  if (!listing || !observed) return false;
  return held.item.changes.every(({ key }) => {
    const dropped = listing.rules.rows.find((row) => row.field === key.split('@')[0]);
    if (dropped?.dropped || dropped?.settled) return true;
    return equalOrAbsent(observed[key], listing.wanted[key]) || equalOrAbsent(observed[key], listing.state.sent?.[key]);
  });
}

/** Holds against each other what was foretold of a few changes and what came, at each moment that was foretold. */
async function watch(held: Held[]) {
  await settle(120_000);
  const moments = held.flatMap(({ item: { by } }) => [by.asRule, by.atLatest]).filter(Number.isFinite);
  for (const moment of [...new Set(moments)].sort((a, b) => a - b)) {
    const now = house.clock.now();
    if (moment > now) await moveClock(base, moment - now);
    await followed(house);
    for (const record of new Set(held.map((item) => item.record))) readNow(house, keeper, record);
    await settle(3_000);
    for (const item of held) if (item.seenAt === null && isSeen(item)) item.seenAt = moment;
  }
}

function close(held: readonly Held[]) {
  for (const item of held) {
    const { by, leaves, channel, listing } = item.item;
    const words = [item.sort, listing, listingOf(item)?.standing];
    predictions += 1;
    const refused = errandsWhere(house.db, { recordId: item.record, states: ['refused'] }).some(
      (errand) => errand.listingId === listing && errand.lastError?.kind === 'locked',
    );
    judge('locks', !refused, ...words, 'was refused as locked');
    if (Number.isFinite(by.atLatest)) {
      judge('asARule', item.seenAt !== null && item.seenAt <= by.asRule, ...words, by, item.seenAt);
      judge('atLatest', item.seenAt !== null && item.seenAt <= by.atLatest, ...words, by, item.seenAt);
      judge('wrongUntil', item.seenAt !== null && item.seenAt <= by.atLatest, ...words);
    } else {
      const shown = listingOf(item)?.state.observed ?? {};
      const stays = leaves.every((key) => !equalOrAbsent(shown[key], listingOf(item)?.wanted[key]));
      judge('wrongUntil', stays, ...words, 'was to stay as it is');
    }
    // What goes by itself and what is locked may be of one listing: it is told once, by either.
    if (held.find((other) => other.item.listing === listing) !== item) continue;
    const ways = held.filter((other) => other.item.listing === listing).map((other) => other.item.tells);
    const more = toldThere(listing) - item.toldBefore;
    judge('told', more === (ways.every((by) => by === 'nobody') ? 0 : 1), ...words, channel, ways, more);
  }
}

try {
  let used = new Set<string>();
  for (let tries = 0; changes < wanted && tries < wanted * 6;) {
    const batch: Held[] = [];
    for (let made = 0; made < atOnce && changes < wanted && tries < wanted * 6; tries += 1) {
      const one = pick(candidates(used));
      if (!one) break;
      const held = change(one);
      if (held === null) continue;
      used.add(one.record.id);
      batch.push(...held);
      made += 1;
      changes += 1;
    }
    if (batch.length > 0) {
      await watch(batch);
      close(batch);
      say(`${changes} changes, ${predictions} foretold`);
      if (candidates(used).length >= atOnce || candidates(new Set()).length >= atOnce) {
        // All that can be changed was: in another round each may be changed again.
        if (candidates(used).length < atOnce) used = new Set();
        continue;
      }
    } else if (used.size > 0) {
      used = new Set();
      continue;
    }
    // So much time has passed that nothing is ahead any more: the demo is read in once more.
    say('reading the demo in once more');
    end();
    used = new Set();
    ({ house, base, outsideDb, end } = await demoHouse());
  }
} finally {
  end();
}
console.log(JSON.stringify({ changes, predictions, ...right, of }));
const all = right.atLatest === of.atLatest && right.told === of.told && right.locks === of.locks;
const mostly = right.asARule >= of.asARule * 0.9;
process.exit(all && mostly && right.wrongUntil === of.wrongUntil && changes > 0 ? 0 : 1);
