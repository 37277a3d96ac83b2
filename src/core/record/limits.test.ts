import { z } from 'zod';
import { defOf, bare, leaves, type Schema } from '@/core/testing/schema-walk';
import { houseOwnSchema } from './house-own';
import { artistSchema, newVenueSchema, organiserSchema, venueEditSchema, wordingSchema } from './directory';
import { recordSchema } from './record';
import { tourSchema } from './tour';

/*
 * How much each place of the schemas takes, found by trying, and held against a table of its own: whoever changes a
 * limit says so here.
 */

const takes = (schema: Schema, value: unknown) => z.safeParse(schema, value).success;

/** The greatest of the whole numbers from `low` on that is taken; `null` where there is no end before `high`. */
function greatest(low: number, high: number, taken: (n: number) => boolean): number | null {
  if (taken(high)) return null;
  let [fits, over] = [low, high];
  while (over - fits > 1) {
    const middle = Math.floor((fits + over) / 2);
    if (taken(middle)) fits = middle;
    else over = middle;
  }
  return fits;
}

/** Characters, items, or least and greatest number that a place takes; empty where it is none of these. */
function limitOf(schema: Schema): string {
  const def = defOf(bare(schema));
  if (def.type === 'array') {
    const of = (n: number) => {
      const found = z.safeParse(
        schema,
        Array.from({ length: n }, () => ({})),
      );
      return found.success || !found.error.issues.some((issue) => issue.path.length === 0 && issue.code === 'too_big');
    };
    const most = greatest(0, 5_000, of);
    return most === null ? '' : `${most} items`;
  }
  if (takes(schema, 'x') || takes(schema, 'xx')) {
    const most = greatest(1, 200_000, (n) => takes(schema, 'x'.repeat(n)));
    return most === null ? '' : `${takes(schema, '') ? 0 : 1}–${most} characters`;
  }
  if (takes(schema, 'https://a.example/')) {
    const most = greatest(0, 10_000, (n) => takes(schema, `https://a.example/${'x'.repeat(n)}`));
    return most === null ? '' : `${most + 'https://a.example/'.length} characters`;
  }
  const some = [1, 0.5, 100].find((n) => takes(schema, n));
  if (some === undefined) return '';
  const unit = takes(schema, 0.5) ? 0.25 : 1;
  const top = greatest(Math.floor(some / unit), 2 ** 40, (n) => takes(schema, n * unit));
  const low = greatest(Math.floor(-some / unit), 2 ** 40, (n) => takes(schema, -n * unit));
  if (top === null && low === null) return '';
  return `${low === null ? '' : -low * unit + 0}–${top === null ? '' : top * unit}`;
}

/** The table: a place, and what it takes. */
const limits = {
  record: `
    title: 1–300 characters
    shortTitle: 0–120 characters
    subtitle: 0–300 characters
    eventType: 1–40 characters
    categories: 6 items
    categories.*: 1–40 characters
    organiserId: 1–64 characters
    tourId: 1–64 characters
    tags: 20 items
    tags.*: 1–40 characters
    hashtags: 8 items
    hashtags.*: 1–60 characters
    performances: 3000 items
    performances.*.id: 1–64 characters
    performances.*.venueId: 1–64 characters
    performances.*.roomId: 1–64 characters
    performances.*.setUpId: 1–64 characters
    performances.*.was.venueId: 1–64 characters
    performances.*.was.roomId: 1–64 characters
    performances.*.note: 0–120 characters
    performances.*.lineUpOut: 60 items
    performances.*.lineUpOut.*: 1–64 characters
    performances.*.lineUpExtra: 0–200 characters
    performances.*.link: 2000 characters
    rule: 0–500 characters
    online.keep: 2000 characters
    online.join: 2000 characters
    lineUp: 60 items
    lineUp.*.id: 1–64 characters
    lineUp.*.name: 1–160 characters
    lineUp.*.role: 1–40 characters
    lineUp.*.artistId: 1–64 characters
    tickets.levels: 24 items
    tickets.levels.*.id: 1–64 characters
    tickets.levels.*.name: 1–60 characters
    tickets.levels.*.price: 0–100000000
    tickets.levels.*.code: 0–60 characters
    tickets.levels.*.quantity: 1–1000000
    tickets.levels.*.admits: 1–50
    tickets.levels.*.least: 1–1000
    tickets.levels.*.most: 1–1000
    tickets.levels.*.opens.amount: 0–1000
    tickets.levels.*.closes.amount: 0–1000
    tickets.levels.*.taxBasisPoints: 0–5000
    tickets.levels.*.poolId: 1–64 characters
    tickets.levels.*.words: 0–300 characters
    tickets.levels.*.covers.n: 2–100
    tickets.levels.*.covers.ids: 200 items
    tickets.levels.*.covers.ids.*: 1–64 characters
    tickets.link: 2000 characters
    tickets.pools: 20 items
    tickets.pools.*.id: 1–64 characters
    tickets.pools.*.name: 1–60 characters
    tickets.pools.*.seats: 1–500000
    tickets.holds: 20 items
    tickets.holds.*.id: 1–64 characters
    tickets.holds.*.name: 1–60 characters
    tickets.holds.*.seats: 0–500000
    tickets.outlets: 12 items
    tickets.outlets.*.id: 1–64 characters
    tickets.outlets.*.name: 1–60 characters
    tickets.outlets.*.channel: 0–40 characters
    tickets.outlets.*.link: 2000 characters
    tickets.outlets.*.allocation: 0–1000000
    tickets.outlets.*.fee.basisPoints: 0–5000
    tickets.outlets.*.fee.fixed: 0–1000000
    tickets.outlets.*.fee.cap: 0–1000000
    tickets.outlets.*.trackAs: 0–30 characters
    tickets.serviceFee: 1–1000000
    tickets.letter.words: 0–1000 characters
    tickets.letter.several: 0–1000 characters
    tickets.total: 1–500000
    tickets.mostPerOrder: 1–1000
    tickets.closes.amount: 0–1000
    tickets.closesWhy: 0–200 characters
    tickets.extras: 20 items
    tickets.extras.*.id: 1–64 characters
    tickets.extras.*.name: 1–60 characters
    tickets.extras.*.price: 0–100000000
    tickets.extras.*.quantity: 1–1000000
    tickets.extras.*.words: 0–300 characters
    tickets.coupons: 20 items
    tickets.coupons.*.id: 1–64 characters
    tickets.coupons.*.code: 1–40 characters
    tickets.coupons.*.off.percent: 1–100
    tickets.coupons.*.off.minor: 1–100000000
    tickets.coupons.*.uses: 1–1000000
    tickets.coupons.*.levels: 24 items
    tickets.coupons.*.levels.*: 1–64 characters
    tickets.membersProof: 0–120 characters
    tickets.showLeft: 1–500000
    tickets.questions: 30 items
    tickets.questions.*.id: 1–64 characters
    tickets.questions.*.ask: 1–300 characters
    tickets.questions.*.choices: 30 items
    tickets.questions.*.choices.*: 1–120 characters
    tickets.questions.*.consent: 0–2000 characters
    tickets.refunds: 0–600 characters
    tickets.registration.limit: 1–1000000
    tickets.registration.contact: 0–120 characters
    tickets.registration.yes: 0–2000 characters
    tickets.registration.no: 0–2000 characters
    tickets.registration.waiting: 0–2000 characters
    words.line: 0–400 characters
    words.teaser: 0–600 characters
    words.short: 0–1600 characters
    words.full: 0–60000 characters
    words.access: 0–1000 characters
    words.age: 0–200 characters
    words.drafted: 3 items
    pictures: 12 items
    pictures.*.width: 1–
    pictures.*.height: 1–
    pictures.*.alt: 0–400 characters
    pictures.*.credit: 0–200 characters
    pictures.*.focal.x: 0–1
    pictures.*.focal.y: 0–1
    pictures.*.keep.x0: 0–1
    pictures.*.keep.y0: 0–1
    pictures.*.keep.x1: 0–1
    pictures.*.keep.y1: 0–1
    video: 2000 characters
    sound: 2000 characters
    audience.name: 1–60 characters
    leftOff: 50 items
    unlistedOn: 50 items
    unlistedOn.*: 0–40 characters
    draftOn: 50 items
    draftOn.*: 0–40 characters
    oneLineOn: 50 items
    oneLineOn.*: 0–40 characters
    links: 12 items
    links.*.id: 1–64 characters
    links.*.label: 0–80 characters
    links.*.to.channel: 1–40 characters
    links.*.to.href: 2000 characters
    leadsAway: 1–64 characters
    linkChoices: 60 items
    linkChoices.*.id: 1–64 characters
    linkChoices.*.channel: 1–40 characters
    linkChoices.*.noticeId: 1–64 characters
    linkChoices.*.to.channel: 1–40 characters
    linkChoices.*.to.href: 2000 characters
    linkChoices.*.reason: 0–200 characters
    documents: 20 items
    documents.*.id: 1–64 characters
    documents.*.name: 1–120 characters
    documents.*.type: 0–100 characters
    documents.*.bytes: 0–
    documents.*.title: 0–160 characters
    programme: 100 items
    programme.*.id: 1–64 characters
    programme.*.title: 1–200 characters
    programme.*.names: 0–300 characters
    programme.*.role: 0–40 characters
    programme.*.room: 0–80 characters
    programme.*.performanceId: 1–64 characters
    after.recording.href: 2000 characters
    after.pictures.ids: 12 items
    after.setList.text: 0–2000 characters
    toFollow.?: 0–120 characters
    overrides: 100 items
    overrides.*.channel: 1–40 characters
    overrides.*.field: 1–40 characters
    overrides.*.value: 0–60000 characters
    overrides.*.from: 0–60000 characters
    notices: 20 items
    notices.*.id: 1–64 characters
    notices.*.channel: 1–40 characters
    notices.*.words: 0–4000 characters
    notices.*.subject: 0–120 characters
    notices.*.segment: 0–60 characters
    radius.km: 1–5000
    radius.days: 1–730
    copiedFrom: 0–20 characters
    carried: 400 items
    carried.*: 1–140 characters
  `,
  venue: `
    name: 1–120 characters
    address: 0–200 characters
    town: 1–120 characters
    country: 0–80 characters
    room: 0–120 characters
    capacity: 1–500000
    point.lat: -90–90
    point.lon: -180–180
  `,
  venueEdit: `
    name: 1–120 characters
    address: 0–200 characters
    town: 1–120 characters
    country: 0–80 characters
    point.lat: -90–90
    point.lon: -180–180
    phone: 0–60 characters
    site: 2000 characters
    findIt: 0–1000 characters
    channelIds.?: 0–200 characters
    rooms: 60 items
    rooms.*.id: 1–64 characters
    rooms.*.name: 1–120 characters
    rooms.*.setUps: 12 items
    rooms.*.setUps.*.id: 1–64 characters
    rooms.*.setUps.*.name: 1–60 characters
    rooms.*.setUps.*.capacity: 1–500000
    rooms.*.setUps.*.holds: 20 items
    rooms.*.setUps.*.holds.*.id: 1–64 characters
    rooms.*.setUps.*.holds.*.name: 1–60 characters
    rooms.*.setUps.*.holds.*.seats: 0–500000
    rooms.*.changeover: 0–2880
  `,
  artist: `
    id: 1–64 characters
    name: 1–160 characters
    site: 2000 characters
    words: 0–2000 characters
    links: 12 items
    links.*: 2000 characters
    profiles: 20 items
    profiles.*.channel: 1–40 characters
    profiles.*.link: 1–500 characters
  `,
  organiser: `
    id: 1–64 characters
    name: 1–160 characters
    site: 2000 characters
    boilerplate: 0–2000 characters
    links: 12 items
    links.*: 2000 characters
    phone: 0–60 characters
    address: 0–300 characters
    bookings: 0–60 characters
    shown: 6 items
  `,
  tour: `
    name: 1–160 characters
    shared.title: 1–300 characters
    shared.subtitle: 0–300 characters
    shared.eventType: 1–40 characters
    shared.lineUp: 60 items
    shared.lineUp.*.id: 1–64 characters
    shared.lineUp.*.name: 1–160 characters
    shared.lineUp.*.role: 1–40 characters
    shared.lineUp.*.artistId: 1–64 characters
    shared.tags: 20 items
    shared.tags.*: 1–40 characters
    shared.words.line: 0–400 characters
    shared.words.teaser: 0–600 characters
    shared.words.short: 0–1600 characters
    shared.words.full: 0–60000 characters
    shared.pictures: 12 items
    shared.pictures.*.width: 1–
    shared.pictures.*.height: 1–
    shared.pictures.*.alt: 0–400 characters
    shared.pictures.*.credit: 0–200 characters
    shared.pictures.*.focal.x: 0–1
    shared.pictures.*.focal.y: 0–1
    shared.pictures.*.keep.x0: 0–1
    shared.pictures.*.keep.y0: 0–1
    shared.pictures.*.keep.x1: 0–1
    shared.pictures.*.keep.y1: 0–1
  `,
  houseOwn: `
    venueId: 1–64 characters
    roomId: 1–64 characters
    organiserId: 1–64 characters
    doorsBefore: 0–720
    types: 40 items
    types.*: 1–40 characters
    closedTypes: 80 items
    closedTypes.*: 1–40 characters
    age: 0–200 characters
    access: 0–1000 characters
    logoId: 1–64 characters
    refunds: 0–600 characters
  `,
  wording: `
    id: 1–64 characters
    name: 1–160 characters
    text: 1–4000 characters
  `,
};

const tableOf = (text: string) =>
  text
    .split('\n')
    .map((row) => row.trim())
    .filter((row) => row !== '');

const limitsOf = (schema: Schema) =>
  leaves(schema, [], true).flatMap(({ path, schema: place }) => {
    const limit = limitOf(place);
    return limit === '' ? [] : [`${path}: ${limit}`];
  });

test.each([
  ['record', recordSchema, limits.record],
  ['new venue', newVenueSchema, limits.venue],
  ['venue', venueEditSchema, limits.venueEdit],
  ['artist', artistSchema, limits.artist],
  ['organiser', organiserSchema, limits.organiser],
  ['tour', tourSchema, limits.tour],
  ['house’s own', houseOwnSchema, limits.houseOwn],
  ['wording', wordingSchema, limits.wording],
])('the limits of a %s are those of the table', (_, schema, table) => {
  expect(limitsOf(schema)).toEqual(tableOf(table));
});
