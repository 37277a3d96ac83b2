import { transaction } from '@/store/database';
import { asDoer } from '@/desk/people/who';
import { demoHouse, makeDemoHouse } from '@/house/demo-house';
import { hasAccount } from '@/store/persons';
import { kinds } from '@/channels/kinds-rules';
import { channelIdSchema } from '@/core/base/ids';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { newEntry, newNotice, newOutlet, newPicture } from '@/core/record/new-record';
import type { PlannedErrand } from '@/core/errands/plan';
import type { RecordContent } from '@/core/record/record';
import { addPicture } from '@/desk/records/add-picture';
import { createServer } from 'node:http';
import { feedOf } from '@/desk/channels/feed-of';
import type { ChannelAudience } from '@/core/listing/channel-row';
import { connectChannel, sayAudience } from '@/desk/channels/connect-channel';
import { copyEvent } from '@/desk/records/copy-event';
import { importEvents } from '@/desk/files/import-events';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { noteSales } from '@/desk/records/note-sales';
import { readNow } from '@/desk/drift/read-now';
import { saveRecord } from '@/desk/records/save-record';
import { tourFromRecord } from '@/desk/tours/save-tour';
import { planFor, surveyAll } from '@/house/survey';
import { verifyProfile } from '@/desk/directory/verify-profile';
import { openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';
import { putSetting, setting } from '@/store/settings';
import { allArtists, allOrganisers } from '@/store/people';
import { allRecords, recordAt, recordOfOrigin } from '@/store/records';
import { addDocument } from '@/desk/records/add-document';
import { keepFollowWords, keepQuestions } from '@/desk/records/house-words';
import { savePerson, saveVenue } from '@/desk/directory/save-directory';
import { allVenues } from '@/store/venues';
import { completions, smallPdf, workshopQuestions } from './completed';
import { editByHand, owner, withKey } from './owner';
import { drawLogo, drawPosters, type Poster } from './posters';
import { nothingOwn } from '@/core/record/house-own';
import { keepOwn } from '@/desk/directory/keep-own';

const folder = path.resolve(process.env.NUNTIAX_DATA ?? 'data');
const outside = process.env.OUTSIDE_URL ?? 'http://127.0.0.1:4320';
const files = [
  'yard-directory.json',
  'house-season.csv',
  'salt-and-static-tour.csv',
  'house-diary.ics',
  'yard-spring.json',
];
/** Tickets sold outside, in tens, at the first and at the second look; and those counted at the door. */
const sales: [string, [number, number]][] = [
  ['Thimble &amp; Crane', [6, 5]],
  ['Orla Fennimore: Weather Reports', [4, 3]],
  ['Candlemas Ceilidh', [20, 10]],
  ['The Counting House', [5, 4]],
  ['Odalys Quarry', [8, 6]],
];
const doorCounts: [string, [number, number]][] = [
  ['json:YS-11', [4, 9]],
  ['json:YS-10', [1, 2]],
];
/** Channels that are seen by some alone: what is for everyone does not go there. */
const forSome: Record<string, ChannelAudience> = {
  'lectern-2': { who: 'members', alone: true },
  'lectern-3': { who: 'group', name: 'Friends of the yard', alone: true },
};
/** What the user calls those channels of which there are several, and what is set for them. */
const ownNames: Record<string, { name?: string; shortName?: string; settings?: Record<string, string> }> = {
  'gatefold-2': { name: 'Gatefold · Lodestar', shortName: 'G. Lodestar' },
  'hearthside-2': { name: 'Ninefold on Hearthside', shortName: 'Ninefold', settings: { act: 'Ninefold Choir' } },
  'lectern-2': { name: 'Lectern · members’ page', shortName: 'L. members' },
  'lectern-3': { name: 'Lectern · friends’ page', shortName: 'L. friends' },
  concourse: { settings: { kinds: 'talk, workshop' } },
  fernway: { name: 'Fernway · Ninefold', shortName: 'F. Ninefold', settings: { act: 'The Ninefold Choir' } },
  'fernway-2': { name: 'Fernway · Odalys', shortName: 'F. Odalys', settings: { act: 'Odalys Quarry' } },
  'fernway-3': { name: 'Fernway · Brindle', shortName: 'F. Brindle', settings: { act: 'Brindle & the Tollkeepers' } },
  ostinato: { settings: { act: 'The Ninefold Choir' } },
  postbag: { settings: { segment: 'everyone' } },
};

const house = openHouse(folder, `${outside}/clock`);

const seeded = setting(house.db, 'demo-seeded') === 'yes';
if (!seeded && hasAccount(house.db)) {
  console.error(`${folder} is a house of somebody's own, and no demo: name another by NUNTIAX_DATA.`);
  process.exit(1);
}
transaction(house.db, (tx) => makeDemoHouse(tx, new Date()));
if (seeded) process.exit(0);
const [maren] = demoHouse(house.db, { NUNTIAX_DEMO: 'yes' })?.persons ?? [];
if (!maren) throw new Error('the demo has nobody');
const doer = asDoer(maren, true);
// One event was sent with a pinned post nine and a half days before the scenario begins: its pin is about to lapse.
await moveClock(-(9 * 24 + 14) * 60);
showFeeds();
await connectAll();
for (const name of files) {
  const report = importEvents(
    house,
    doer,
    name,
    readFileSync(path.join(import.meta.dirname, 'files', name), 'utf8'),
    'Europe/Dublin',
  );
  if (!report.ok) throw new Error(`${name}: ${report.error}`);
  for (const row of [...report.value.broken, ...report.value.asked])
    throw new Error(`${name}, line ${row.line}, ${row.field}: ${row.text}`);
  console.log(`${name}: ${report.value.made.length} records`);
}
await addPosters();
await completeRecords();
tellEveryKind();
await send((errand) => errand.record === recordOf('json:YS-20').id);
// The rest went out three days before: tickets have sold since, and what is not seen by now is late.
await moveClock((6 * 24 + 14) * 60);
openRegistration();
moveTheGlassEels();
makeTheTour();
await sendMost();
await sell(0);
readNow(house, doer);
await settle();
await moveClock(Math.round((Date.UTC(2027, 1, 2, 10, 20) - house.clock.now()) / 60_000) - 1);
await sell(1);
await makeDrift();
readNow(house, doer);
await settle();
await changeAfterwards();
await checkProfiles();
putSetting(house.db, 'demo-seeded', 'yes');
console.log(`${allRecords(house.db).length} records are ready`);
house.db.close();
process.exit(0);

/** Moves the simulated clock by so many minutes. */
async function moveClock(minutes: number) {
  await fetch(`${outside}/clock`, { method: 'POST', body: new URLSearchParams({ ms: String(minutes * 60_000) }) });
  await house.follow();
}

/** The town calendar reads our feed while the scenario is read in, as it does from the application later. */
function showFeeds() {
  const server = createServer((request, response) => {
    const feed = feedOf(house, (request.url ?? '').replace('/feeds/', ''));
    response.statusCode = feed === null ? 404 : 200;
    response.setHeader('content-type', feed?.type ?? 'text/plain');
    response.end(feed?.text ?? '');
  });
  server.listen(Number(process.env.PORT ?? 4310), '127.0.0.1');
}

/** Opens an account at each service and connects it, as a user would under Channels. */
async function connectAll() {
  const answer = await fetch(`${outside}/accounts`, { method: 'POST', headers: withKey });
  const accounts = z.record(z.string(), z.record(z.string(), z.string())).parse(await answer.json());
  const kindOf = (name: string) => name.replace(/-\d$/, '');
  // In the order in which kinds are offered, and the house's own page before the act's.
  const place = (name: string) => kinds.findIndex((kind) => kind.id === kindOf(name));
  const names = Object.keys(accounts).sort((a, b) => place(a) - place(b) || (a < b ? -1 : 1));
  for (const name of names) {
    const [kind, credentials] = [kindOf(name), accounts[name] ?? {}];
    const input = { address: `${outside}/${kind}`, credentials, ...ownNames[name] };
    const connected = await connectChannel(house, doer, { kind }, input);
    if (!connected.ok) throw new Error(`${name}: ${JSON.stringify(connected.error)}`);
    const some = forSome[name];
    if (some) sayAudience(house, doer, name, some);
  }
}

/** The record that came from a row of the demo files. */
function recordOf(origin: string) {
  const known = recordOfOrigin(house.db, origin);
  const record = known && recordAt(house.db, known.id);
  if (!record) throw new Error(`no record came from ${origin}`);
  return record;
}

/** Saves a change to the record that came from a row of the demo files. */
function change(origin: string, reason: string, edit: (content: RecordContent) => RecordContent) {
  const record = recordOf(origin);
  const saved = saveRecord(house, doer, {
    id: record.id,
    base: record.revision,
    content: edit(record.content),
    reason,
  });
  if (saved.kind !== 'saved') throw new Error(`${origin}: ${JSON.stringify(saved)}`);
}

function withFirst(content: RecordContent, part: Partial<RecordContent['performances'][number]>): RecordContent {
  return {
    ...content,
    performances: content.performances.map((performance, i) => (i === 0 ? { ...performance, ...part } : performance)),
  };
}

/** What the records say beyond dates and prices, and what the house keeps to be used again. */
async function completeRecords() {
  const list = await addDocument(house, doer, 'reading-list.pdf', smallPdf('What the tide keeps: a reading list'));
  if (!list.ok) throw new Error(list.error);
  for (const [origin, reason, edit] of completions(list.value)) change(origin, reason, edit);
  const yard = [...allOrganisers(house.db).values()].find((organiser) => organiser.name === 'Tallow Yard');
  if (!yard) throw new Error('no organiser Tallow Yard');
  const logo = await addPicture(house, doer, 'Tallow Yard, the lamp.png', await drawLogo());
  if (!logo.ok) throw new Error(logo.error);
  const kept = [
    savePerson(house, doer, 'organiser', {
      ...yard,
      phone: '555 0142',
      mail: 'desk@tallowyard.example',
      address: '9 Wicker Lane, Marrowby',
      bookings: '555 0143',
      links: ['https://hearthside.example/tallowyard'],
      shown: ['phone', 'mail', 'bookings'],
    }),
    keepQuestions(house, doer, { name: 'Workshops and lectures', questions: workshopQuestions }),
    keepFollowWords(house, doer, { time: 'doors and start to follow' }),
    keepOwn(house, doer, { ...nothingOwn, mail: 'desk@tallowyard.example', logoId: logo.value.id }),
  ];
  for (const item of kept) if (!item.ok) throw new Error(JSON.stringify(item.error));
}

/** What the further kinds need to be told: the box offices their code and their share, and what goes out as notices. */
function tellEveryKind() {
  for (const venue of allVenues(house.db).values()) {
    if (venue.name !== 'Tallow Yard') continue;
    const saved = saveVenue(house, doer, venue.id, {
      ...venue,
      channelIds: { ...venue.channelIds, pennyseat: 'TALLOW' },
    });
    if (!saved.ok) throw new Error(JSON.stringify(saved.error));
  }
  for (const [origin, allocation] of [
    ['json:YS-26', 40],
    ['json:YS-22', 15],
  ] as const)
    change(origin, 'a share for the box offices', (content) => ({
      ...content,
      tickets: {
        ...content.tickets,
        outlets: [
          ...content.tickets.outlets,
          newOutlet('pennyseat', 'Pennyseat', { channel: 'pennyseat', allocation }),
        ],
      },
    }));
  change('json:YS-26', 'a short notice', (content) => ({
    ...content,
    notices: [...content.notices, newNotice('m1', 'murmurline')],
  }));
  // This letter quotes an hour that moves later.
  change('csv:TY-103', 'a letter to those who come with children', (content) => ({
    ...content,
    notices: [
      ...content.notices,
      newNotice('l1', 'postbag', {
        subject: 'A wet Sunday, and a film',
        words: 'Come in out of the rain: {{ title }}, {{ weekday }} at {{ start }}.',
        segment: 'families',
      }),
    ],
  }));
  change('csv:SS-03', 'the highlight at home', (content) => ({
    ...content,
    notices: [...content.notices, newNotice('h1', 'ostinato-highlights', { words: 'At home in the yard' })],
  }));
}

/** The weekly bench is free with registration: twenty-four places, and a waiting list. */
function openRegistration() {
  change('ics:repair-bench-2027@tallowyard.example', 'registration opened', (content) => ({
    ...content,
    eventType: 'workshop',
    tickets: {
      ...content.tickets,
      mode: 'registration',
      link: 'https://tallowyard.example/bench',
      questions: [
        { id: 'q1', ask: 'What is broken?', answer: 'text', choices: [], needed: true, of: 'buyer', consent: '' },
      ],
      registration: {
        ...content.tickets.registration,
        limit: 24,
        waitingList: true,
        yes: 'Bring it along; there is tea.',
        waiting: 'The bench is full; you are on the list.',
      },
    },
    words: { ...content.words, teaser: 'Bring what is broken. Free, twenty-four places.' },
  }));
}

/** The Wick Room was flooded: a fortnight later, with the old date left in the words. */
function moveTheGlassEels() {
  change('json:YS-09', 'moved by the flood', (content) => ({
    ...withFirst(content, { date: '2027-03-19', turn: 'rescheduled' }),
    words: { ...content.words, teaser: 'Moved from Friday 5 March by the flood.' },
  }));
}

/** The twenty-two dates become one tour, made of the first. */
function makeTheTour() {
  const made = tourFromRecord(house, doer, recordOf('csv:SS-01').id, 'Salt and Static');
  if (!made.ok) throw new Error(made.error);
  for (let n = 2; n <= 22; n += 1)
    change(`csv:SS-${String(n).padStart(2, '0')}`, 'a date of Salt and Static', (content) => ({
      ...content,
      tourId: made.value,
    }));
  change('csv:SS-03', 'a word from home', (content) => ({
    ...content,
    words: { ...content.words, teaser: 'Nine voices and a loop station, at home in the yard for one night.' },
  }));
}

async function addPosters() {
  const named = files.flatMap((name) =>
    [
      ...readFileSync(path.join(import.meta.dirname, 'files', name), 'utf8').matchAll(
        /^(?:\s*\{"ref": ")?((?:TY|SS|YS)-\d+)[",]/gm,
      ),
    ].map((m) => m[1] ?? ''),
  );
  const origins = [
    ...named.map((reference) => [reference, `${reference.startsWith('YS') ? 'json' : 'csv'}:${reference}`] as const),
    ['DI-1', 'ics:repair-bench-2027@tallowyard.example'] as const,
    ['DI-2', 'ics:ink-by-the-inch-2027@tallowyard.example'] as const,
  ];
  const shown = origins
    .filter(([, origin]) => recordOf(origin).content.publicity.visibility !== 'private')
    .map(([reference, origin]) => ({ reference, origin, act: reference.startsWith('SS') ? 'SS' : reference }));
  const first = [...new Map(shown.toReversed().map((item) => [item.act, item])).values()];
  const drawn = new Map<string, Poster[]>(
    await Promise.all(
      first.map(
        async ({ act, reference }) => [act, await drawPosters(reference, act === 'SS' || act === 'TY-101')] as const,
      ),
    ),
  );
  for (const { act, origin } of shown) {
    const posters = drawn.get(act) ?? [];
    const pictures: RecordContent['pictures'] = [];
    for (const poster of posters) {
      const name = `${recordOf(origin).content.title}${posters.length > 1 ? `, ${poster.wide ? 'wide' : 'tall'}` : ''}.jpg`;
      const added = await addPicture(house, doer, name, poster.bytes);
      if (!added.ok) throw new Error(added.error);
      pictures.push(
        newPicture(added.value, {
          alt: poster.alt,
          credit: 'Tallow Yard',
          focal: { x: 0.6, y: 0.42 },
          keep: poster.wide ? { x0: 0.42, y0: 0.2, x1: 0.86, y1: 0.68 } : null,
        }),
      );
    }
    change(origin, 'poster added', (content) => ({ ...content, pictures }));
  }
}

/** Sends what can go, but for a few events that are left for the person at the desk. */
async function sendMost() {
  const left = ['csv:TY-105', 'csv:TY-110', 'csv:SS-11', 'json:YS-19', 'json:YS-29'].map(
    (origin) => recordOfOrigin(house.db, origin)?.id,
  );
  await send((errand) => !left.includes(errand.record) && errand.notBefore === null);
}

/** Sends those of the planned errands that are `wanted`, and waits until they have gone. */
async function send(wanted: (errand: PlannedErrand) => boolean) {
  const listings = planFor(surveyAll(house))
    .errands.filter(wanted)
    .map((errand) => errand.listing);
  const made = makeDispatch(house, doer, new Set(listings), { seen: 'all' });
  if (!made.ok) throw new Error(made.error);
  console.log(`${made.value.errands} errands go out`);
  await settle();
}

/** Lets the runner work until nothing is left to do. */
async function settle() {
  const runner = startRunner(house);
  const until = Date.now() + 240_000;
  do await new Promise((resolve) => setTimeout(resolve, 150));
  while (!runner.idle() && Date.now() < until);
  await runner.stop();
}

/** Sells outside and counts at the door what was sold by the first or the second look. */
async function sell(look: 0 | 1) {
  for (const [title, tens] of sales)
    await owner(
      outside,
      'gatefold',
      title,
      Array.from({ length: tens[look] }, () => ({ act: 'sell-ten' })),
    );
  for (const [origin, sold] of doorCounts) {
    const { id, content } = recordOf(origin);
    const door = content.tickets.outlets.find((outlet) => outlet.channel === null);
    const noted = noteSales(house, doer, {
      recordId: id,
      performanceId: content.performances[0]?.id,
      levelId: content.tickets.levels[0]?.id,
      outletId: door?.id,
      sold: sold[look],
    });
    if (!noted.ok) throw new Error(noted.error);
  }
}

/** Somebody edits listings by hand, on the owner's pages of the services, and deletes one. */
async function makeDrift() {
  await editByHand(outside, 'hearthside', 'Cold Lantern Trio', { headline: 'Cold Lantern Trio: the quiet night' });
  await editByHand(outside, 'lectern', 'The Salt Parliament', { act: 'tickets' });
  await editByHand(outside, 'hearthside', 'Marisol Venn', { act: 'delete' });
}

/** What befell since: these events are to send, locked on a channel, cancelled, moved … */
async function changeAfterwards() {
  change('csv:TY-103', 'later start', (content) =>
    withFirst(content, { doors: '15:00', start: '15:30', end: '17:45' }),
  );
  change('csv:TY-108', 'support added', (content) => ({
    ...content,
    lineUp: [...content.lineUp, newEntry('support1', 'Wren Halfpenny', 'support')],
  }));
  change('csv:TY-101', 'radius clause', (content) => ({ ...content, radius: { km: 100, days: 60 } }));
  change('json:YS-10', 'moved: it sells', (content) => {
    const vat = recordOf('csv:TY-101').content.performances[0];
    return withFirst(content, { roomId: vat?.roomId ?? null, setUpId: null, turn: 'moved' });
  });
  change('json:YS-26', 'dearer than planned', (content) => ({
    ...content,
    tickets: { ...content.tickets, levels: content.tickets.levels.map((level) => ({ ...level, price: 2000 })) },
  }));
  change('json:YS-11', 'she has lost her voice', (content) => withFirst(content, { turn: 'cancelled' }));
  const copied = copyEvent(house, doer, recordOf('csv:TY-109').id);
  if (!copied.ok) throw new Error(copied.error);
}

/** Hearthside is asked whose the artists' pages are; one turns out to be an upholsterer's. */
async function checkProfiles() {
  for (const artist of allArtists(house.db).values()) {
    for (const { channel } of artist.profiles)
      await verifyProfile(house, doer, artist.id, channelIdSchema.parse(channel));
  }
}
