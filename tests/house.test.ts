import { by, keeper } from '@/core/testing/doers';
import { channelIdSchema, unsavedRecord, type RecordId } from '@/core/base/ids';
import { newEntry, newLevel, newOutlet, newTickets } from '@/core/record/new-record';
import { performance } from '@/core/testing/samples';
import { seasonClashes } from '@/desk/records/bookings';
import { copyEvent } from '@/desk/records/copy-event';
import { directoryView, whereUsed } from '@/desk/directory/directory-view';
import { importEvents, importTourDates } from '@/desk/files/import-events';
import { mergeDuplicates } from '@/desk/directory/merge-duplicates';
import { noteSales } from '@/desk/records/note-sales';
import { recordOfSlug } from '@/desk/records/record-of-slug';
import { recordView } from '@/desk/records/record-view';
import { restoreRevision } from '@/desk/records/restore-revision';
import { revisionChanges } from '@/desk/records/revision-changes';
import { savePerson, saveVenue } from '@/desk/directory/save-directory';
import { saveTour, tourFromRecord } from '@/desk/tours/save-tour';
import { tourView } from '@/desk/tours/tours';
import { verifyProfile } from '@/desk/directory/verify-profile';
import { wrongWords } from '@/desk/records/words-check';
import { readNow } from '@/desk/drift/read-now';
import { recordAt } from '@/store/records';
import { tourById } from '@/store/tours';
import { makeRig, type Rig } from './rig';

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig();
});
afterAll(() => rig.end());

const content = (id: RecordId) => recordAt(rig.house.db, id)?.content ?? fault();
const value = <T, E>(result: { ok: true; value: T } | { ok: false; error: E }): T => {
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
};

const file = {
  nuntiax: 1,
  venues: [
    {
      name: 'Candle Hall',
      town: 'Marrowby',
      country: 'Ireland',
      zone: 'Europe/Dublin',
      point: { lat: 53.2, lon: -7.6 },
      rooms: [
        {
          name: 'Main',
          capacity: 300,
          changeover: 60,
          setUps: [
            {
              name: 'seated',
              capacity: 160,
              holds: [
                { name: 'house', seats: 6 },
                { name: 'guests', seats: 14 },
              ],
            },
          ],
        },
      ],
    },
    {
      name: 'Candlehall',
      town: 'Marrowby',
      country: 'Ireland',
      zone: 'Europe/Dublin',
      rooms: [
        { name: 'main', capacity: 300 },
        { name: 'Loft', capacity: 40 },
      ],
    },
  ],
  organisers: [{ name: 'Finch', boilerplate: 'Finch sends quiet music a long way.' }],
  artists: [{ name: 'The Ninefold Choir', profiles: [{ channel: 'hearthside', link: 'ninefold' }] }],
  tours: [{ name: 'Salt', from: 'A' }],
  events: [
    {
      ref: 'A',
      title: 'Choir',
      kind: 'concert',
      stage: 'confirmed',
      zone: 'Europe/Dublin',
      venue: 'Candle Hall',
      room: 'Main',
      setUp: 'seated',
      organiser: 'Finch',
      tour: 'Salt',
      performances: [{ date: '2027-04-02', start: '20:00', end: '22:00' }],
      lineUp: [{ name: 'The Ninefold Choir', role: 'headliner' }],
      tickets: {
        mode: 'ticketed',
        currency: 'EUR',
        link: null,
        levels: [{ name: 'Standard', price: 2200, opens: { kind: 'at', date: '2027-02-12', time: '10:00' } }],
      },
      words: { teaser: 'By {{ organiser }}. {{ about_organiser }}', full: 'On Friday 2 April.' },
      publicity: { visibility: 'public', announce: null },
    },
    {
      ref: 'B',
      title: 'Choir',
      kind: 'concert',
      zone: 'Europe/Dublin',
      venue: 'Candlehall',
      room: 'main',
      tour: 'Salt',
      performances: [
        { date: '2027-04-02', start: '21:00', end: '23:00' },
        { date: '2027-04-05', start: '20:00', end: '23:00' },
      ],
      lineUp: [{ name: 'The Ninefold Choir', role: 'headliner' }],
      tickets: { mode: 'free entry', currency: 'EUR', link: null },
      words: { teaser: 'Our own.', full: '' },
      publicity: { visibility: 'private', announce: null },
    },
    {
      ref: 'C',
      title: 'Broken',
      zone: 'Europe/Dublin',
      performances: [{ date: '2027-02-30', start: '20:00' }],
      tickets: { mode: 'free entry', currency: 'EUR', link: null },
      publicity: { visibility: 'private', announce: null },
    },
  ],
};

test('a JSON file brings the directory, the events and their tour; a broken event is told by its place, nothing twice', () => {
  const read = value(importEvents(rig.house, by('Maren'), 'yard.json', JSON.stringify(file), 'Europe/Dublin'));
  expect([
    read.made.map((readRow) => readRow.title),
    read.broken.map((brokenRow) => [brokenRow.line, brokenRow.field]),
  ]).toEqual([['Choir', 'Choir'], [[3, 'performances.0.date']]]);
  expect(
    value(importEvents(rig.house, by('Maren'), 'yard.json', JSON.stringify(file), 'Europe/Dublin')).known,
  ).toHaveLength(2);
  const [a] = read.made;
  const view = recordView(rig.house, keeper, a?.id ?? unsavedRecord);
  expect(view?.venues.find((venue) => venue.name === 'Candle Hall')?.rooms[0]?.setUps[0]).toMatchObject({
    capacity: 160,
    holds: [{ seats: 6 }, { seats: 14 }],
  });
  const survey = rig.listings(a?.id ?? unsavedRecord);
  expect(survey[0]?.proof.teaser).toEqual({ kind: 'text', text: 'By Finch. Finch sends quiet music a long way.' });
  for (const [text, words] of [
    ['{"nuntiax": 2}', 'no file of events'],
    ['{oops', 'no JSON'],
  ]) {
    expect(importEvents(rig.house, by('Maren'), 'x.json', text ?? '', 'UTC')).toEqual({
      ok: false,
      error: expect.stringContaining(words ?? ''),
    });
  }
  expect(
    value(
      importEvents(
        rig.house,
        by('Maren'),
        'x.json',
        '{"nuntiax":1,"venues":[{"name":"X","town":"Y","zone":"Nowhere"}]}',
        'UTC',
      ),
    ).broken,
  ).toMatchObject([{ field: 'venues.0.zone' }]);
});

test('a tour’s change goes to its dates, minus those that have their own; dry says the same and writes nothing', () => {
  const [a, b] = value(importEvents(rig.house, by('Maren'), 'yard.json', JSON.stringify(file), 'Europe/Dublin')).known;
  const tourId = content(a?.id ?? unsavedRecord).tourId ?? '';
  const view = tourView(rig.house, keeper, tourId);
  expect(view?.stops.map((stop) => [stop.code, stop.own])).toEqual([
    [a?.code, []],
    [b?.code, expect.arrayContaining(['teaser', 'on-sale'])],
  ]);
  const shared = {
    ...(view?.tour.shared ?? fault()),
    subtitle: 'Nine voices',
    words: { ...view?.tour.shared.words, teaser: 'New for all.' },
  };
  const before = content(a?.id ?? unsavedRecord);
  const dry = value(saveTour(rig.house, by('Maren'), tourId, 1, { name: 'Salt', shared }, true));
  expect(content(a?.id ?? unsavedRecord)).toBe(before);
  const done = value(saveTour(rig.house, by('Maren'), tourId, 1, { name: 'Salt', shared }, false));
  expect(done.stops).toEqual(dry.stops);
  expect(done.stops).toMatchObject([
    { takes: ['subtitle', 'teaser'], keeps: [] },
    { takes: ['subtitle'], keeps: ['teaser'] },
  ]);
  expect([
    content(a?.id ?? unsavedRecord).words.teaser,
    content(b?.id ?? unsavedRecord).words.teaser,
    content(b?.id ?? unsavedRecord).subtitle,
  ]).toEqual(['New for all.', 'Our own.', 'Nine voices']);
  expect(saveTour(rig.house, by('Maren'), tourId, 1, { name: 'Salt', shared }, false)).toMatchObject({ ok: false });
  const pasted = value(
    importTourDates(
      rig.house,
      by('Maren'),
      tourId,
      'date,start,venue,town\n2027-05-01,20:00,Quay,Marrowby\n2027-05-02,25:00,Quay,Marrowby\n',
      'Europe/Dublin',
    ),
  );
  expect([pasted.made.length, pasted.broken.map((brokenRow) => brokenRow.line)]).toEqual([1, [3]]);
  expect(content(pasted.made[0]?.id ?? unsavedRecord)).toMatchObject({
    title: 'Choir',
    subtitle: 'Nine voices',
    tourId,
  });
});

test('two venues that are the same become one: events change as revisions, rooms of one name are one', () => {
  const view = directoryView(rig.house, keeper);
  const [from, into] = [
    view.venues.find((venue) => venue.name === 'Candlehall'),
    view.venues.find((venue) => venue.name === 'Candle Hall'),
  ];
  const [use] = whereUsed(rig.house, keeper, 'venue', from?.id ?? '');
  const before = recordAt(rig.house.db, use?.id ?? unsavedRecord);
  expect(seasonClashes(rig.house, keeper).map((clash) => clash.code)).toEqual(['artist-twice']);
  expect(value(mergeDuplicates(rig.house, by('Maren'), 'venue', from?.id ?? '', into?.id ?? ''))).toBe(1);
  const after = recordAt(rig.house.db, use?.id ?? unsavedRecord);
  expect([after?.revision, after?.content.performances[0]?.venueId, after?.content.performances[0]?.roomId]).toEqual([
    (before?.revision ?? 0) + 1,
    into?.id,
    into?.rooms[0]?.id,
  ]);
  expect(
    directoryView(rig.house, keeper)
      .venues.find((venue) => venue.id === into?.id)
      ?.rooms.map((room) => room.name),
  ).toEqual(['Loft', 'Main']);
  // Now it is seen that both stood in one room.
  expect(seasonClashes(rig.house, keeper).map((clash) => clash.code)).toContain('room-overlap');
  // An old revision still names the venue that is gone; brought back, it names the one that stays.
  expect(restoreRevision(rig.house, by('Maren'), after?.id ?? unsavedRecord, 1, after?.revision ?? 0)).toMatchObject({
    kind: 'saved',
  });
  expect(content(after?.id ?? unsavedRecord).performances[0]?.venueId).toBe(into?.id);
  expect(mergeDuplicates(rig.house, by('Maren'), 'venue', from?.id ?? '', into?.id ?? '')).toMatchObject({ ok: false });
});

test('two artists that are the same become one: in the tour’s shared line-up too, and an old revision names the one that stays', () => {
  const artist = (name: string) =>
    value(savePerson(rig.house, by('Maren'), 'artist', { id: null, name, profiles: [] })).id;
  const [from, into] = [artist('The Ninefold Quire'), artist('Ninefold Choir of Marrowby')];
  const first = rig.make({
    title: 'Merged tour',
    lineUp: [newEntry('l1', 'The Ninefold Quire', 'headliner', { artistId: from })],
  });
  const tour = value(tourFromRecord(rig.house, by('Maren'), first, 'Merged'));
  expect(value(mergeDuplicates(rig.house, by('Maren'), 'artist', from, into))).toBe(1);
  expect(tourById(rig.house.db, tour)?.shared.lineUp).toMatchObject([
    { artistId: into, name: 'Ninefold Choir of Marrowby' },
  ]);
  const after = recordAt(rig.house.db, first);
  expect(restoreRevision(rig.house, by('Maren'), first, 1, after?.revision ?? 0)).toMatchObject({ kind: 'saved' });
  expect(content(first).lineUp[0]).toMatchObject({ artistId: into, name: 'Ninefold Choir of Marrowby' });
});

test('a tour that renames its dates keeps their old addresses', () => {
  const id = rig.make({ title: 'Old name of the tour' });
  const tour = value(tourFromRecord(rig.house, by('Maren'), id, 'Renamed'));
  const { revision, shared } = tourById(rig.house.db, tour) ?? fault();
  const saved = saveTour(
    rig.house,
    by('Maren'),
    tour,
    revision,
    { name: 'Renamed', shared: { ...shared, title: 'New name of the tour' } },
    false,
  );
  expect(saved).toMatchObject({ ok: true });
  const led = ['new-name-of-the-tour-2027', 'old-name-of-the-tour-2027'].map((slug) =>
    recordOfSlug(rig.house, keeper, slug),
  );
  expect(led).toEqual([id, id]);
});

test('a room that events use cannot be taken out; a name that is there cannot be taken twice; a profile is asked for', async () => {
  const venue = directoryView(rig.house, keeper).venues.find((venue) => venue.name === 'Candle Hall') ?? fault();
  expect(saveVenue(rig.house, keeper, venue.id, { ...venue, rooms: [] })).toEqual({
    ok: false,
    error: { rooms: expect.stringContaining('Main is used by events') },
  });
  expect(saveVenue(rig.house, keeper, venue.id, { ...venue, site: 'nonsense' })).toMatchObject({
    ok: false,
    error: { site: expect.stringContaining('http') },
  });
  expect(savePerson(rig.house, by('Maren'), 'organiser', { name: 'finch' })).toMatchObject({ ok: false });
  const artist =
    directoryView(rig.house, keeper).artists.find((artist) => artist.name === 'The Ninefold Choir') ?? fault();
  expect(
    value(await verifyProfile(rig.house, by('Maren'), artist.id, channelIdSchema.parse('hearthside'))).profiles[0]
      ?.verified,
  ).toMatchObject({
    ok: false,
    name: 'Ninefold Upholstery',
  });
  value(
    savePerson(rig.house, by('Maren'), 'artist', {
      ...artist,
      profiles: [{ channel: 'hearthside', link: 'https://hearthside.example/ninefold-choir' }],
    }),
  );
  expect(
    value(await verifyProfile(rig.house, by('Maren'), artist.id, channelIdSchema.parse('hearthside'))).profiles[0]
      ?.verified,
  ).toMatchObject({
    ok: true,
  });
});

test('a copy, its history, and its old address', () => {
  const id = rig.make({ title: 'Harp Night', tags: ['harp'] });
  const copy = value(copyEvent(rig.house, by('Maren'), id));
  expect(content(copy)).toMatchObject({
    copiedFrom: recordAt(rig.house.db, id)?.code,
    carried: expect.arrayContaining(['dates', 'tags', 'pictures']),
    publicity: { visibility: 'private' },
  });
  const moved = {
    ...content(copy),
    performances: [{ ...(content(copy).performances[0] ?? performance('x', '2028-01-01')), date: '2028-03-12' }],
  };
  expect(rig.save(copy, 1, moved)).toMatchObject({ kind: 'saved' });
  expect(content(copy).carried).not.toContain('dates');
  expect(revisionChanges(rig.house, keeper, copy, 2)?.map((change) => change.path)).toEqual(
    expect.arrayContaining([expect.stringMatching(/date$/), 'carried']),
  );
  rig.save(copy, 2, { ...content(copy), title: 'Harp Morning' });
  expect([
    recordOfSlug(rig.house, keeper, 'harp-night-2028'),
    recordOfSlug(rig.house, keeper, 'harp-morning-2028'),
    recordOfSlug(rig.house, keeper, 'nowhere'),
  ]).toEqual([copy, copy, null]);
  // Events of one title have numbers; each keeps its own however often it is saved.
  const twins = [rig.make({ title: 'Twin' }), rig.make({ title: 'Twin' }), rig.make({ title: 'Twin & more' })];
  rig.save(twins[1] ?? unsavedRecord, 1, { ...content(twins[1] ?? unsavedRecord), subtitle: 'again' });
  expect(['twin-2027', 'twin-2027-2', 'twin-more-2027'].map((slug) => recordOfSlug(rig.house, keeper, slug))).toEqual(
    twins,
  );
  expect(value(tourFromRecord(rig.house, by('Maren'), copy, 'Harps'))).toMatch(/^t/);
});

test('what is sold outside is read back and counted with what is counted by hand; left and price follow', async () => {
  const outlets = [
    newOutlet('g', 'Gatefold', { channel: 'gatefold', allocation: 20 }),
    newOutlet('d', 'Door', { allocation: 5 }),
  ];
  const id = rig.make({
    title: 'Small House',
    tickets: newTickets({
      levels: [newLevel('e', 'Early', 1000, { quantity: 10 }), newLevel('s', 'Standard', 1500)],
      outlets,
      holds: [{ id: 'h', name: 'most of it', seats: 395 }],
    }),
  });
  rig.send(rig.listings(id).map((listing) => listing.id));
  await rig.settle();
  expect(rig.standings(id)).toEqual({ 'gatefold.0': 'instep', 'lectern.0': 'instep', 'hearthside.0': 'instep' });
  const remote = rig.listings(id).find((listing) => listing.channel === 'gatefold');
  const owned = new URL(remote?.publicUrl ?? '').pathname.split('/').pop() ?? '';
  await rig.owner('gatefold', { state: { sent: null }, publicUrl: null }, owned, {
    name: 'Small House',
    summary: 'Concert harp, two tape machines.',
    starts: '2027-03-14 19:30',
    act: 'sell-ten',
  });
  readNow(rig.house, keeper);
  await rig.settle();
  value(noteSales(rig.house, by('Maren'), { recordId: id, performanceId: 'p1', levelId: 's', outletId: 'd', sold: 3 }));
  const view = recordView(rig.house, keeper, id);
  expect(view?.sales.map((sale) => [sale.outlet, sale.levelId, sale.sold])).toEqual([
    ['gatefold', 'e', 10],
    ['d', 's', 3],
  ]);
  // The early level is gone: the public pays the next one, and the channels are to be told.
  expect(rig.listings(id).find((listing) => listing.channel === 'lectern')?.wanted.price).toEqual({
    kind: 'text',
    text: '€15',
  });
  expect(
    noteSales(rig.house, by('Maren'), { recordId: id, performanceId: 'p1', levelId: 's', outletId: 'g', sold: 3 }),
  ).toMatchObject({ ok: false });
  const over = {
    ...content(id),
    tickets: { ...content(id).tickets, holds: [{ id: 'h', name: 'nearly all', seats: 415 }] },
  };
  rig.save(id, 1, over);
  expect(rig.listings(id)[0]?.findings.map((finding) => finding.code)).toEqual(
    expect.arrayContaining(['over-allocated', 'oversold']),
  );
});

test('a stale date in the words is found across the season', () => {
  const id = rig.make({
    title: 'Stale',
    lineUp: [newEntry('x', 'Somebody')],
    words: { ...content(rig.make()).words, full: '<p>Come on Sunday 14 March.</p>' },
  });
  expect(wrongWords(rig.house, keeper).filter((word) => word.record === id)).toEqual([]);
  rig.save(id, 1, {
    ...content(id),
    performances: content(id).performances.map((performance) => ({ ...performance, date: '2027-03-21' })),
  });
  expect(
    wrongWords(rig.house, keeper)
      .filter((word) => word.record === id)
      .map((word) => [word.mention.verdict, word.mention.text]),
  ).toEqual([['stale', 'Sunday 14 March']]);
});

function fault(): never {
  throw new Error('it is not there');
}
