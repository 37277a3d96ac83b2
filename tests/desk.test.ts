import { by, keeper } from '@/core/testing/doers';
import { recordIdSchema, type RecordId } from '@/core/base/ids';
import { usualDoors } from '@/core/dates/usual-doors';
import { plan } from '@/core/errands/plan';
import { slugOf } from '@/core/record/slug';
import { newEntry, newLevel, newOutlet, newTickets } from '@/core/record/new-record';
import { performance } from '@/core/testing/samples';
import { keepOwn } from '@/desk/directory/keep-own';
import { directoryView, whereUsed, type Sort } from '@/desk/directory/directory-view';
import { makeVenue } from '@/desk/directory/make-venue';
import { mergeDuplicates } from '@/desk/directory/merge-duplicates';
import { savePerson, saveVenue } from '@/desk/directory/save-directory';
import { verifyProfile } from '@/desk/directory/verify-profile';
import { goesBehind } from '@/desk/dispatch/behind';
import { importEvents, importTourDates } from '@/desk/files/import-events';
import { fileJob, readAgain, receiveFile, stopJob } from '@/desk/files/jobs';
import { houseZone } from '@/desk/house/pulse';
import { doVerb } from '@/desk/house/verbs';
import { copyEvent } from '@/desk/records/copy-event';
import { houseWords, keepQuestions } from '@/desk/records/house-words';
import { keepDraft } from '@/desk/records/keep-draft';
import { registrationCount } from '@/core/facts/tickets/registering';
import { noteSales } from '@/desk/records/note-sales';
import { previewNotice } from '@/desk/records/preview-notice';
import { recordOfSlug } from '@/desk/records/record-of-slug';
import { restoreRevision } from '@/desk/records/restore-revision';
import { emptyView } from '@/desk/records/record-view';
import { revisionChanges } from '@/desk/records/revision-changes';
import { saveTour, tourFromRecord } from '@/desk/tours/save-tour';
import { sharedOfDate, tourList, tourName, tourView } from '@/desk/tours/tours';
import { allArtists } from '@/store/people';
import { recordAt, revisionLog } from '@/store/records';
import { saleHistory } from '@/store/sales';
import { tourById } from '@/store/tours';
import { allVenues } from '@/store/venues';
import { makeRig, type Rig } from './rig';

/** What a person does at the desk, one verb after the other, with nothing sent. */
let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern']);
});
afterAll(() => rig.end());

const nobody = recordIdSchema.parse('nobody');
const codeOf = (id: RecordId) => recordAt(rig.house.db, id)?.code ?? '';
const lastReason = (id: RecordId) => revisionLog(rig.house.db, id).toSorted((a, b) => b.number - a.number)[0]?.reason;
const person = (sort: 'artist' | 'organiser', name: string, more: object = {}) => {
  const saved = savePerson(rig.house, by('Maren'), sort, { name, ...more });
  if (!saved.ok) throw new Error(JSON.stringify(saved.error));
  return saved.value.id;
};

describe('the directory', () => {
  test('each entry says how often it is used, and where, by date', () => {
    const [artist, organiser] = [person('artist', 'Reed Count'), person('organiser', 'Yard Nights')];
    const uses = { lineUp: [newEntry('a', 'Reed Count', 'headliner', { artistId: artist })], organiserId: organiser };
    const later = rig.make({ title: 'Later', performances: [performance('p', '2027-05-02')], ...uses });
    const sooner = rig.make({ title: 'Sooner', performances: [performance('p', '2027-04-02')], ...uses });
    const view = directoryView(rig.house, keeper);
    expect([
      view.artists.find((entry) => entry.id === artist)?.uses,
      view.organisers.find((entry) => entry.id === organiser)?.uses,
      view.venues.find((venue) => venue.id === rig.venueId)?.uses,
    ]).toEqual([2, 2, 2]);
    const where = (sort: Sort, id: string) => whereUsed(rig.house, keeper, sort, id).map((use) => [use.id, use.date]);
    const both = [
      [sooner, '2027-04-02'],
      [later, '2027-05-02'],
    ];
    expect([where('artist', artist), where('organiser', organiser), where('venue', rig.venueId)]).toEqual([
      both,
      both,
      both,
    ]);
    expect([where('artist', organiser), where('organiser', 'x')]).toEqual([[], []]);
  });

  test('two that are the same become one: events say the one that stays, and why', () => {
    const [was, stays] = [person('organiser', 'Old Yard Nights'), person('organiser', 'New Yard Nights')];
    const id = rig.make({ organiserId: was });
    const other = rig.make({ organiserId: stays });
    expect(mergeDuplicates(rig.house, by('Maren'), 'organiser', was, was).ok).toBe(false);
    expect(mergeDuplicates(rig.house, by('Maren'), 'organiser', was, 'x').ok).toBe(false);
    expect(mergeDuplicates(rig.house, by('Maren'), 'organiser', was, stays)).toEqual({ ok: true, value: 1 });
    expect([rig.record(id)?.organiserId, lastReason(id), rig.revision(other)]).toEqual([
      stays,
      'Old Yard Nights is the same as New Yard Nights',
      1,
    ]);
    expect(directoryView(rig.house, keeper).organisers.map((entry) => entry.id)).not.toContain(was);
    // What is brought back from before names what the old one became.
    rig.save(id, 2, rig.content({ title: 'Renamed since', organiserId: stays }));
    expect(restoreRevision(rig.house, by('Maren'), id, 1, 3)).toMatchObject({ kind: 'saved' });
    expect(rig.record(id)?.organiserId).toBe(stays);
  });

  test('merged artists keep every profile once: on one channel that of the one that stays', () => {
    const profile = (channel: string, link: string) => ({ channel, link, verified: null });
    const was = person('artist', 'Odalys Q.', {
      profiles: [profile('fernway', 'https://f.example/was'), profile('ostinato', 'https://o.example/was')],
    });
    const stays = person('artist', 'Odalys Quarry Herself', {
      profiles: [profile('fernway', 'https://f.example/stays')],
    });
    expect(mergeDuplicates(rig.house, by('Maren'), 'artist', was, stays).ok).toBe(true);
    expect(
      allArtists(rig.house.db)
        .get(stays)
        ?.profiles.map(({ channel, link }) => `${channel} ${link}`),
    ).toEqual(['fernway https://f.example/stays', 'ostinato https://o.example/was']);
  });

  test.each([
    [{ name: '', town: 'Ghent', zone: 'Europe/Brussels' }, 'name'],
    [{ name: 'Voss', town: '', zone: 'Europe/Brussels' }, 'town'],
    [{ name: 'Voss', town: 'Ghent', zone: 'Europe/Nowhere' }, 'zone'],
    [{ name: 'Voss', town: 'Ghent', zone: 'Europe/Brussels', capacity: 0 }, 'capacity'],
  ])('a venue of %j is refused at its field, and nothing is made', (given, field) => {
    const before = directoryView(rig.house, keeper).venues.length;
    const input = { address: '', country: 'Belgium', room: 'Hall', capacity: 100, ...given };
    const made = makeVenue(rig.house, by('Maren'), input);
    expect(made.ok ? [] : Object.keys(made.error)).toEqual([field]);
    expect(directoryView(rig.house, keeper).venues.length).toBe(before);
  });

  test('a name that is there already is refused at its field; a room that is used stays', () => {
    person('artist', 'Twice Told');
    expect(savePerson(rig.house, by('Maren'), 'artist', { name: 'twice told' })).toMatchObject({
      ok: false,
      error: { name: expect.stringContaining('already') },
    });
    expect(savePerson(rig.house, by('Maren'), 'organiser', { name: 'O', mail: 'no mail' })).toMatchObject({
      ok: false,
      error: { mail: expect.stringContaining('like desk@') },
    });
    rig.make();
    const venue = allVenues(rig.house.db).get(rig.venueId);
    expect(saveVenue(rig.house, keeper, rig.venueId, { ...venue, rooms: [] })).toMatchObject({
      ok: false,
      error: { rooms: expect.stringContaining('The Vat is used') },
    });
    const more = {
      ...venue,
      rooms: [...(venue?.rooms ?? []), { id: 'spare', name: 'Spare', capacity: 9, setUps: [] }],
    };
    expect(saveVenue(rig.house, keeper, rig.venueId, more).ok).toBe(true);
    expect(saveVenue(rig.house, keeper, rig.venueId, venue)).toMatchObject({ ok: true });
    expect(
      allVenues(rig.house.db)
        .get(rig.venueId)
        ?.rooms.map((room) => room.name),
    ).toEqual(['The Vat']);
  });

  test('a set-up that no event uses may go; one that is used stays', () => {
    const [seated, standing] = ['seated', 'standing'].map((id) => ({ id, name: id, capacity: 9, holds: [] }));
    const venue = allVenues(rig.house.db).get(rig.venueId);
    const withSetUps = (setUps: unknown[]) => {
      const rooms = (venue?.rooms ?? []).map((room) => ({ ...room, setUps }));
      const saved = saveVenue(rig.house, keeper, rig.venueId, { ...venue, rooms });
      return saved.ok ? saved.value.rooms.flatMap((room) => room.setUps.map(({ name }) => name)) : saved.error;
    };
    expect(withSetUps([seated, standing])).toEqual(['seated', 'standing']);
    const { performances } = rig.content();
    const id = rig.make({ performances: performances.map((item) => ({ ...item, setUpId: 'seated' })) });
    expect(withSetUps([standing])).toEqual({ rooms: expect.stringContaining('seated is used') });
    expect(withSetUps([seated])).toEqual(['seated']);
    rig.save(id, 1, rig.content({ performances: performances.map((item) => ({ ...item, setUpId: null })) }));
    expect(withSetUps([])).toEqual([]);
  });

  test('a profile that nobody saved, and a channel without profiles, are a word each', async () => {
    const profiles = [{ channel: 'lectern', link: 'https://yard.example/reed' }];
    const id = person('artist', 'With a page', { profiles });
    const asked = async (artist: string, channel: string) => {
      const answer = await verifyProfile(rig.house, by('Maren'), artist, channel as never);
      return answer.ok ? 'asked' : answer.error;
    };
    expect([await asked('x', 'lectern'), await asked(id, 'gatefold'), await asked(id, 'lectern')]).toEqual([
      'Save the profile first.',
      'Save the profile first.',
      expect.stringMatching(/has no profiles/),
    ]);
    expect(allArtists(rig.house.db).get(id)?.profiles[0]?.verified).toBeNull();
  });
});

describe('a record', () => {
  test('its history says what each revision changed; an old one is brought back as the newest', () => {
    const id = rig.make({ title: 'First' });
    rig.save(id, 1, rig.content({ title: 'Second', subtitle: 'and more' }));
    expect(revisionChanges(rig.house, keeper, id, 2)?.map(({ path, before, after }) => [path, before, after])).toEqual([
      ['title', 'First', 'Second'],
      ['subtitle', 'Harp and tape', 'and more'],
    ]);
    expect([revisionChanges(rig.house, keeper, id, 1), revisionChanges(rig.house, keeper, id, 3)]).toEqual([[], null]);
    expect(restoreRevision(rig.house, by('Maren'), id, 9, 2)).toEqual({ kind: 'missing' });
    expect(restoreRevision(rig.house, by('Maren'), id, 1, 2)).toMatchObject({ kind: 'saved', revision: 3 });
    expect([rig.record(id)?.title, lastReason(id)]).toEqual(['First', 'revision 1 restored']);
  });

  test('a copy names its source; it has an address and performances of its own', () => {
    const id = rig.make({ title: 'To copy' });
    const made = copyEvent(rig.house, by('Maren'), id);
    if (!made.ok) throw new Error(made.error);
    expect([lastReason(made.value), rig.record(made.value)?.performances[0]?.id]).toEqual([
      `copied from ${codeOf(id)}`,
      expect.not.stringMatching(/^p1$/),
    ]);
    expect(rig.record(made.value)?.carried.length).toBeGreaterThan(3);
    expect(copyEvent(rig.house, by('Maren'), nobody).ok).toBe(false);
    const slug = slugOf(rig.content({ title: 'To copy' }));
    expect([recordOfSlug(rig.house, keeper, slug), recordOfSlug(rig.house, keeper, 'never%20there')]).toEqual([
      id,
      null,
    ]);
  });

  test('it stays a draft on one channel, until it does not', () => {
    const id = rig.make();
    const drafts = () => rig.record(id)?.draftOn;
    expect([keepDraft(rig.house, by('Maren'), id, 'lectern', true), drafts()]).toEqual([null, ['lectern']]);
    expect([keepDraft(rig.house, by('Maren'), id, 'lectern', true), drafts()]).toEqual([null, ['lectern']]);
    expect([keepDraft(rig.house, by('Maren'), id, 'lectern', false), drafts()]).toEqual([null, []]);
    expect(keepDraft(rig.house, by('Maren'), nobody, 'lectern', true)).toMatch(/not there/);
  });

  test('what is sold at the door is noted by level and night; what is read from a channel is not', () => {
    const outlets = [newOutlet('l', 'Website', { channel: 'lectern' }), newOutlet('d', 'Door', {})];
    const id = rig.make({ tickets: newTickets({ levels: [newLevel('s', 'Standard', 2200)], outlets }) });
    const noted = (part: object) => {
      const input = { recordId: id, performanceId: 'p1', levelId: 's', outletId: 'd', sold: 4, ...part };
      const answer = noteSales(rig.house, by('Maren'), input);
      return answer.ok ? 'noted' : answer.error;
    };
    expect(
      [{}, { outletId: 'l' }, { outletId: 'x' }, { levelId: 'x' }, { performanceId: 'x' }, { sold: -1 }, { sold: 1.5 }]
        .map(noted)
        .map((text) => /^noted|counted by reading|Save the record first|whole number/.exec(text)?.[0]),
    ).toEqual([
      'noted',
      'counted by reading',
      'Save the record first',
      'Save the record first',
      'Save the record first',
      'whole number',
      'whole number',
    ]);
    expect(saleHistory(rig.house.db, id).map(({ outlet, sold }) => [outlet, sold])).toEqual([['d', 4]]);
  });

  test('who registered elsewhere is noted by night, where one registers', () => {
    const { tickets } = rig.content();
    const id = rig.make({ tickets: { ...tickets, mode: 'registration' } });
    const paid = rig.make();
    const noted = (recordId: RecordId, performanceId: string) => {
      const of = { levelId: registrationCount, outletId: 'd', sold: 7 };
      const answer = noteSales(rig.house, by('Maren'), { recordId, performanceId, ...of });
      return answer.ok ? 'noted' : answer.error.slice(0, 21);
    };
    expect([noted(id, 'p1'), noted(id, 'x'), noted(paid, 'p1')]).toEqual([
      'noted',
      'Save the record first',
      'Save the record first',
    ]);
    expect(saleHistory(rig.house.db, id).map(({ performanceId, sold }) => [performanceId, sold])).toEqual([['p1', 7]]);
  });

  test('questions are kept as a set by their name, and a set is replaced by one of its name', () => {
    const question = (ask: string) => ({ id: 'q', ask, answer: 'text' });
    expect(keepQuestions(rig.house, keeper, { name: 'Supper', questions: [] })).toEqual({
      ok: false,
      error: 'Ask a question first.',
    });
    for (const ask of ['What do you eat?', 'What do you drink?'])
      expect(keepQuestions(rig.house, keeper, { name: 'Supper', questions: [question(ask)] }).ok).toBe(true);
    const sets = houseWords(rig.house).questionSets.map(({ name, questions }) => [name, questions.map((q) => q.ask)]);
    expect(sets).toEqual([['Supper', ['What do you drink?']]]);
  });
});

test('a letter is seen as it will be read; what shows its words as they are sent needs no preview', async () => {
  const said = async (input: unknown) => {
    const seen = await previewNotice(rig.house, keeper, input);
    return seen.ok ? 'seen' : seen.error;
  };
  expect([
    await said({ channel: 'lectern', shown: {} }),
    await said({ channel: 'nowhere', shown: {} }),
    await said({ channel: 'lectern' }),
  ]).toEqual([
    expect.stringMatching(/its words are the preview/),
    'This channel is not there any more.',
    expect.stringMatching(/cannot be shown as it stands/),
  ]);
});

test('behind what goes out nothing is queued that waits for its own moment', () => {
  const id = rig.make();
  const [listing] = rig.listings(id);
  const [errand] = listing ? plan([listing]).errands : [];
  if (!listing || !errand) throw new Error('nothing to send');
  const behind = (notBefore: number | null) =>
    goesBehind(rig.house.db, { ...listing, listing: listing.id, next: { ...errand, notBefore } } as never) !== null;
  expect([behind(null), behind(rig.house.clock.now())]).toEqual([true, false]);
});

describe('what is usual in the house', () => {
  const usual = () => emptyView(rig.house, keeper, 'Europe/Dublin');
  test('a new record begins with it and says so; one that is there stays; what is gone is left open', () => {
    const id = rig.make({ title: 'Before it' });
    expect([usual().took, usual().content.performances[0]?.venueId]).toEqual([[], null]);
    const organiserId = person('organiser', 'Those of the house');
    const roomId = allVenues(rig.house.db).get(rig.venueId)?.rooms[0]?.id;
    const own = {
      venueId: rig.venueId,
      roomId,
      organiserId,
      doorsBefore: 60,
      age: '14 and over',
      refunds: 'Until noon',
    };
    expect(keepOwn(rig.house, keeper, { ...own, venueId: 'x' })).toMatchObject({
      error: { venueId: expect.any(String) },
    });
    expect(keepOwn(rig.house, keeper, { ...own, roomId: 'x' })).toMatchObject({
      error: { roomId: expect.any(String) },
    });
    expect(keepOwn(rig.house, keeper, { ...own, organiserId: 'x' })).toMatchObject({
      error: { organiserId: expect.any(String) },
    });
    expect(keepOwn(rig.house, keeper, { ...own, doorsBefore: 9_999 })).toMatchObject({
      error: { doorsBefore: expect.any(String) },
    });
    expect(keepOwn(rig.house, keeper, { ...own, doorsBefore: Number('soon') })).toMatchObject({
      error: { doorsBefore: 'Write a whole number of minutes.' },
    });
    expect(keepOwn(rig.house, keeper, { ...own, unheard: 1 }).ok).toBe(false);
    expect(keepOwn(rig.house, keeper, own).ok).toBe(true);
    const { content, took, house } = usual();
    expect(took).toEqual(['organiser', 'venue', 'doors', 'currency', 'refunds', 'age']);
    expect([content.performances[0], content.tickets.currency, content.words.age, house.doorsBefore]).toMatchObject([
      { venueId: rig.venueId, roomId, start: '19:30', doors: '18:30', zone: 'Europe/Dublin' },
      'EUR',
      '14 and over',
      60,
    ]);
    expect([rig.revision(id), rig.record(id)?.words.age]).toEqual([1, '']);
    mergeDuplicates(rig.house, by('Maren'), 'organiser', organiserId, person('organiser', 'Those who came after'));
    expect(usual().content.organiserId).toBeNull();
  });

  test('its zone is the one that is set, before that of most venues; with another, the public is told of it', () => {
    const id = rig.make({ performances: [performance('p1', '2027-03-14')] });
    const note = () => rig.facts(id).performances[0]?.zoneNote;
    expect([houseZone(rig.house), note()]).toEqual(['Europe/Dublin', '']);
    expect(keepOwn(rig.house, keeper, { zone: 'Australia/Adelaide' }).ok).toBe(true);
    expect([houseZone(rig.house), note()]).toEqual(['Australia/Adelaide', 'Dublin time']);
    expect(keepOwn(rig.house, keeper, { zone: 'Mars/Olympus' })).toMatchObject({ error: { zone: expect.any(String) } });
    expect(keepOwn(rig.house, keeper, {}).ok).toBe(true);
    expect(note()).toBe('');
  });
});

test.each([
  ['19:30', 30, '19:00'],
  ['00:15', 30, '23:45'],
  ['20:00', 0, '20:00'],
  ['09:05', 720, '21:05'],
])('doors of a start at %s, %i minutes before, open at %s', (start, before, doors) =>
  expect(usualDoors(start, before)).toBe(doors),
);

describe('a tour', () => {
  test('what its dates share goes to each that has nothing of its own; a dry run writes nothing', () => {
    const [lead, own] = [rig.make({ title: 'On tour' }), rig.make({ title: 'Its own name' })];
    expect(tourFromRecord(rig.house, by('Maren'), lead, '  ').ok).toBe(false);
    const made = tourFromRecord(rig.house, by('Maren'), lead, ' Spring ');
    if (!made.ok) throw new Error(made.error);
    const tourId = made.value;
    const before = rig.record(own);
    if (before) rig.save(own, 1, { ...before, tourId });
    expect([tourName(rig.house, keeper, tourId), tourName(rig.house, keeper, 'x'), rig.record(lead)?.tourId]).toEqual([
      'Spring',
      null,
      tourId,
    ]);
    const shared = { ...tourById(rig.house.db, tourId)?.shared, title: 'On tour again' };
    const save = (base: number, dry: boolean, name = 'Spring') =>
      saveTour(rig.house, by('Maren'), tourId, base, { name, shared }, dry);
    const stops = [
      { id: lead, takes: ['title'], keeps: [] },
      { id: own, takes: [], keeps: ['title'] },
    ];
    const dry = save(1, true);
    expect(dry).toMatchObject({ ok: true, value: { revision: 1 } });
    expect(rig.record(lead)?.title).toBe('On tour');
    const saved = save(1, false);
    expect(saved.ok && saved.value.stops.map(({ id, takes, keeps }) => ({ id, takes, keeps }))).toEqual(stops);
    // The next save stands on this one.
    expect(saved).toMatchObject({ value: { revision: 2 } });
    expect([save(1, true).ok, save(2, true)]).toMatchObject([false, { ok: true, value: { revision: 2 } }]);
    expect(dry.ok && saved.ok && dry.value.stops).toEqual(saved.ok && saved.value.stops);
    expect([rig.record(lead)?.title, rig.record(own)?.title, rig.revision(own)]).toEqual([
      'On tour again',
      'Its own name',
      2,
    ]);
    expect(save(1, false)).toMatchObject({ ok: false, error: [{ message: expect.stringContaining('meanwhile') }] });
    expect(save(2, false, '').ok).toBe(false);
    expect(sharedOfDate(rig.house, keeper, lead)?.title).toBe('On tour again');
    expect(tourList(rig.house, keeper)).toMatchObject([
      { id: tourId, dates: 2, first: '2027-03-14', last: '2027-03-14' },
    ]);
    expect(
      tourView(rig.house, keeper, tourId)
        ?.stops.toSorted((a, b) => a.own.length - b.own.length)
        .map((stop) => [stop.id, stop.own, stop.time, stop.town]),
    ).toEqual([
      [lead, [], '19:30', 'Marrowby'],
      [own, ['title'], '19:30', 'Marrowby'],
    ]);
    // What is put off has no day, and so no hour either.
    const content = rig.record(own) ?? rig.content();
    const off = content.performances.map((performance) => ({ ...performance, turn: 'postponed' as const }));
    rig.save(own, rig.revision(own) ?? 0, { ...content, performances: off });
    expect(tourView(rig.house, keeper, tourId)?.stops.find((stop) => stop.id === own)).toMatchObject({
      date: '',
      time: '',
    });
    expect(tourView(rig.house, keeper, 'x')).toBeNull();
  });
});

test('dates of a tour that are pasted share what it shares, with their own promoter, link and price', () => {
  const acts = ['Nine Voices', 'Loop Station'].map((name, i) =>
    newEntry(`e${i}`, name, i === 0 ? 'headliner' : 'support'),
  );
  const lead = rig.make({ title: 'Pasted tour', lineUp: acts });
  const made = tourFromRecord(rig.house, by('Maren'), lead, 'Pasted');
  if (!made.ok) throw new Error(made.error);
  const text = [
    'date,start,venue,city,country,zone,Promoter,Ticket link,price,Riders',
    '2027-06-12,20:00,Harbour Hall,Bergen,Norway,Europe/Oslo,Fjord Nights,https://fjord.example/t,300,four towels',
    '2027-06-13,20:00,Harbour Hall,Bergen,Norway,Europe/Oslo,Fjord Nights,,300,',
  ].join('\n');
  const read = importTourDates(rig.house, by('Maren'), made.value, text, null);
  if (!read.ok) throw new Error(read.error);
  expect(read.value.notes.map((note) => note.text).join(' ')).toMatch(/Nothing was read of the column “riders”/);
  const [first, second] = read.value.made.map((row) => rig.record(recordIdSchema.parse(row.id)));
  expect([first?.tickets, second?.tickets]).toMatchObject([
    { mode: 'elsewhere', link: 'https://fjord.example/t', currency: 'NOK' },
    { mode: 'ticketed', link: null, currency: 'NOK' },
  ]);
  const promoter = directoryView(rig.house, keeper).organisers.find((entry) => entry.name === 'Fjord Nights');
  expect([first?.organiserId, second?.organiserId]).toEqual([promoter?.id, promoter?.id]);
  const tour = tourById(rig.house.db, made.value);
  const shared = { ...tour?.shared, lineUp: [...acts, newEntry('e9', 'Somebody New', 'guest')] };
  const saved = saveTour(rig.house, by('Maren'), made.value, 1, { name: 'Pasted', shared }, false);
  expect(saved.ok && saved.value.stops.map(({ takes, keeps }) => [takes, keeps])).toEqual(
    [0, 1, 2].map(() => [['line-up'], []]),
  );
  expect(rig.record(recordIdSchema.parse(read.value.made[1]?.id))?.lineUp.map((act) => act.name)).toEqual([
    'Nine Voices',
    'Loop Station',
    'Somebody New',
  ]);
});

describe('files', () => {
  const rows = (count: number, broken = 0) =>
    [
      'title,date,start,venue,town,country',
      ...Array.from({ length: count }, (_, i) => `Row ${i},2027-06-01,20:00,Tallow Yard,Marrowby,Ireland`),
      ...Array.from({ length: broken }, (_, i) => `Bad ${i},no day,20:00,Tallow Yard,Marrowby,Ireland`),
    ].join('\n');

  test('of each sort of row a report names the first three hundred, and counts all', () => {
    const read = () => {
      const report = importEvents(rig.house, by('Maren'), 'many.csv', rows(301, 302), null);
      if (!report.ok) throw new Error(report.error);
      const { counts, made, known, broken } = report.value;
      return [counts, made.length, known.length, broken.length];
    };
    expect(read()).toEqual([{ made: 301, known: 0, asked: 0, broken: 302 }, 300, 0, 300]);
    expect(read()).toEqual([{ made: 0, known: 301, asked: 0, broken: 302 }, 0, 300, 300]);
  });

  const until = async (id: string) => {
    for (;;) {
      const job = fileJob(keeper, id);
      if (job && job.state !== 'waiting' && job.state !== 'reading') return job;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  };
  const given = (text: string, length: number | null = null) =>
    receiveFile(rig.house, by('Maren'), 'few.csv', new Blob([text]).stream(), length, { zone: null });

  test('a file is taken in, read once more, and forgotten after five; an empty or far too large one is refused', async () => {
    const first = await given(rows(3).replaceAll('Row', 'Few'));
    if (!first.ok) throw new Error(first.error.message);
    expect(await until(first.value.id)).toMatchObject({ state: 'done', report: { counts: { made: 3 } } });
    const again = readAgain(rig.house, by('Maren'), first.value.id, { zone: null, answers: [] });
    if (!again.ok) throw new Error(again.error);
    expect(await until(again.value.id)).toMatchObject({ state: 'done', report: { counts: { made: 0, known: 3 } } });
    expect(readAgain(rig.house, by('Maren'), first.value.id, { zone: null, answers: [] }).ok).toBe(false);
    expect(await given('')).toMatchObject({ ok: false, error: { status: 400 } });
    expect(await given('x', 10_000_000_000)).toMatchObject({ ok: false, error: { status: 413 } });
    expect(await receiveFile(rig.house, by('M'), 'x', null, null, { zone: null })).toMatchObject({
      error: { status: 400 },
    });
    for (let i = 0; i < 5; i += 1) {
      const more = await given(`title,date\nNo ${i},no day`);
      if (more.ok) await until(more.value.id);
    }
    expect(fileJob(keeper, again.value.id)).toBeNull();
    expect(stopJob(keeper, 'x')).toBeNull();
  });
});

describe('a script', () => {
  const said = (...[verb, ...args]: string[]) => {
    const lines = doVerb(rig.house, verb, args, by('Maren'));
    return lines.ok ? lines.value : lines.error;
  };
  test('sets what it is told by what stands there: nothing, a number, yes and no, a list, a text', () => {
    const id = rig.make({ title: 'Set by a script', video: 'https://films.example/a' });
    const code = codeOf(id);
    const set = [
      'video=null',
      'tags=["late"]',
      'tickets.holds=null',
      'subtitle=null and void',
      'performances.0.start=21:15',
    ];
    expect(said('set', code, ...set)).toMatchObject([{ code, revision: 2, saved: true }]);
    const record = rig.record(id);
    expect([record?.video, record?.tags, record?.subtitle, record?.performances[0]?.start]).toEqual([
      null,
      ['late'],
      'null and void',
      '21:15',
    ]);
  });

  test('of a record that is not there, and of what is not whole, every verb says so and does nothing', () => {
    const id = rig.make({ title: 'Scripted' });
    const code = codeOf(id);
    const none = 'There is no record NQ-9999.';
    expect([
      said('set', 'NQ-9999', 'title=x'),
      said('private', 'NQ-9999'),
      said('send', 'NQ-9999'),
      said('standings', 'NQ-9999'),
      said('private'),
    ]).toEqual([none, none, none, none, 'There is no record .']);
    expect([
      said('set', code),
      said('set', code, 'title'),
      said('set', code, 'nothing=1'),
      said('set', code, 'tags=[1'),
      said('theirs', 'x'),
      said('ours', 'x', 'title'),
      said('drop', 'x'),
      said('again', '999'),
      said('no'),
    ]).toEqual([
      expect.stringMatching(/^Write: .*set CODE/),
      expect.stringMatching(/^Write: .*set CODE/),
      'nothing: the record has no such field.',
      'tags: “[1” is no JSON.',
      expect.stringMatching(/^Write: .*theirs LISTING/),
      'There is no listing x.',
      expect.stringMatching(/^Write: .*drop ID/),
      expect.stringMatching(/neither refused nor waiting/),
      expect.stringMatching(/one of: read FILE/),
    ]);
    expect(rig.revision(id)).toBe(1);
    expect(said('private', code.toLowerCase())).toMatchObject([{ code, revision: 2, saved: true }]);
    expect([rig.record(id)?.publicity.visibility, lastReason(id)]).toEqual(['private', 'made private']);
  });
});
