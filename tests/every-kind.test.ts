import { kinds } from '@/channels/kinds-rules';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { mapCategories } from '@/desk/channels/connect-channel';
import { saveVenue } from '@/desk/directory/save-directory';
import { allVenues } from '@/store/venues';
import { makeRig, type Rig } from './rig';

/*
 * One event to every kind there is, in one dispatch: over real HTTP and SMTP, on real stand-ins, by the simulated clock. What is
 * public in the end is read by the pages themselves.
 */

const hourMs = 3_600_000;
const names = kinds.filter((kind) => kind.connectsAs === undefined).map((kind) => kind.id);
let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(names);
  const venue = allVenues(rig.house.db).get(rig.venueId);
  if (!venue) throw new Error('no venue');
  const coded = saveVenue(rig.house, venue.id, { ...venue, channelIds: { pennyseat: 'TYVAT' } });
  if (!coded.ok) throw new Error(JSON.stringify(coded.error));
});
afterAll(() => rig.end());

const publicOf = (id: string, channel: string) =>
  rig.listings(id as never).find((one) => one.channel === channel)?.publicUrl ?? null;
const pageAt = async (url: string | null) => (url === null ? '' : (await fetch(url)).text());

test('one event to every kind in one dispatch: gifts first, then those that carry them; in the end every page is right to the minute', async () => {
  const id = rig.make({
    title: 'The Lamp Lecture',
    online: { keep: null, join: null },
    tickets: newTickets({
      levels: [newLevel('s', 'Standard', 2200)],
      outlets: [
        newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 }),
        newOutlet('o2', 'Pennyseat', { channel: 'pennyseat', allocation: 30 }),
      ],
    }),
    notices: [
      newNotice('n1', 'hearthside-posts', { words: 'Come and hear {{ title }}' }),
      newNotice('n2', 'murmurline'),
      newNotice('n3', 'postbag', { words: 'A lamp, and who lit it.', segment: 'members' }),
      newNotice('n4', 'ostinato-highlights', { words: 'Next' }),
    ],
  });
  const sent = rig.send();
  if (!sent.ok) throw new Error(sent.error);
  await rig.settle(60);
  // What takes its time: the batch on the hour, the diary's visit and its editor, the artist's page.
  for (const hours of [2, 24, 24]) {
    await rig.pass(hours * hourMs);
    await rig.settle(30);
  }
  const standings = rig.standings(id);
  expect(Object.entries(standings).filter(([, standing]) => standing !== 'instep')).toEqual([]);
  expect(Object.keys(standings)).toHaveLength(kinds.length);

  const ticketLink = publicOf(id, 'gatefold') ?? '';
  for (const channel of ['lectern', 'hearthside', 'concourse', 'fernway', 'ostinato', 'marrowby-diary']) {
    const page = await pageAt(publicOf(id, channel));
    expect([
      channel,
      page.includes('2027-03-14T19:30:00'),
      page.includes(ticketLink),
      page.includes('The Lamp Lecture'),
    ]).toEqual([channel, true, true, true]);
  }
  // Each source has a link of its own.
  expect(await pageAt(publicOf(id, 'concourse'))).toContain(`${ticketLink}?via=concourse`);
  expect(await pageAt(publicOf(id, 'pennyseat'))).toMatch(/Sunday 14 March 2027, 19:30[\s\S]*22\.00 EUR/);
  expect(await pageAt(publicOf(id, 'vestibule'))).toContain('2027-03-14T19:30:00');
  for (const channel of ['concourse', 'murmurline'])
    expect(await pageAt(publicOf(id, channel))).toMatch(/<img src="\/[\w/.-]+\.jpg" alt="A harp"/);
  // Nothing public says where one joins.
  for (const { publicUrl } of rig.listings(id as never)) expect(await pageAt(publicUrl)).not.toContain('/join/');
}, 180_000);

test('the artist’s page is linked to the wrong profile: late, with its cause; put right, it shows', async () => {
  const id = rig.make({
    title: 'Wrongly Linked',
    leftOff: names.filter((one) => one !== 'fernway' && one !== 'ostinato'),
  });
  const link = (to: string) =>
    fetch(`${rig.base}/ostinato/owner/link`, {
      method: 'POST',
      body: new URLSearchParams({ profile: 'os-ninefold', to }),
    });
  await link('fw-odalys');
  rig.send();
  await rig.settle();
  expect(rig.standings(id)['ostinato.0']).toBe('unread');
  await rig.pass(41 * hourMs);
  await rig.settle();
  const late = rig.listings(id as never).find((one) => one.channel === 'ostinato');
  expect([late?.standing, late?.findings.find((one) => one.code === 'channel-says')]).toEqual([
    'late',
    expect.objectContaining({ note: 'the artist’s page is linked to fw-odalys, not to fw-ninefold' }),
  ]);
  await link('fw-ninefold');
  await rig.pass(5 * hourMs);
  await rig.settle();
  expect(rig.standings(id)['ostinato.0']).toBe('instep');
  // Nobody ever wrote to it; a change goes by way of the register, and is late to nobody before its time.
  rig.save(
    id,
    1,
    rig.content({ title: 'Rightly Linked', leftOff: names.filter((one) => one !== 'fernway' && one !== 'ostinato') }),
  );
  rig.send();
  await rig.settle();
  expect([rig.standings(id)['fernway.0'], rig.standings(id)['ostinato.0']]).toEqual(['instep', 'unread']);
  await rig.pass(41 * hourMs);
  await rig.settle();
  expect(rig.standings(id)['ostinato.0']).toBe('instep');
}, 120_000);

test('a kind that stands in none of their categories is stopped there; mapped, it goes; what is none of theirs is refused', () => {
  const id = rig.make({ title: 'Unmapped', leftOff: names.filter((one) => one !== 'marrowby-diary') });
  const map = (to: Record<string, string>) => mapCategories(rig.house, 'marrowby-diary', to, 'Maren');
  const stopped = () =>
    rig
      .listings(id as never)
      .some((one) => one.findings.some((f) => f.code === 'category-unmapped' && f.weight === 'stops'));
  expect([map({ concert: '', talk: 'Talks' }).ok, stopped()]).toEqual([true, true]);
  expect([map({ concert: 'Music', talk: 'Talks' }).ok, stopped()]).toEqual([true, false]);
  expect(map({ concert: 'Jazz' })).toMatchObject({ ok: false, error: expect.stringContaining('Jazz') });
  expect(map({ opera: 'Music' }).ok).toBe(false);
});

test('a diary entry turned down with a word asks a person; changed and sent again it is looked at anew', async () => {
  const only = names.filter((one) => one !== 'marrowby-diary');
  const teaser = (words: string) => ({
    title: 'Scarf Night',
    leftOff: only,
    words: { line: '', teaser: words, short: '', full: '', access: '', age: '', drafted: [] },
  });
  const id = rig.make(teaser('A raffle for the first scarf.'));
  rig.send();
  await rig.settle();
  await rig.pass(31 * hourMs);
  await rig.settle();
  const down = rig.listings(id as never).find((one) => one.channel === 'marrowby-diary');
  expect([down?.standing, down?.findings.find((one) => one.code === 'turned-down')]).toEqual([
    'refused',
    expect.objectContaining({ note: 'no raffles in the Diary' }),
  ]);
  rig.save(id, 1, rig.content(teaser('A prize for the first scarf.')));
  rig.send();
  await rig.settle();
  await rig.pass(31 * hourMs);
  await rig.settle();
  expect(rig.standings(id)['marrowby-diary.0']).toBe('instep');
}, 120_000);
