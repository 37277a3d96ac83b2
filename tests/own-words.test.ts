import { by, keeper } from '@/core/testing/doers';
import { artistSchema, type Artist } from '@/core/record/directory';
import { newEntry, newLevel, newOutlet, newTickets } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { nothingOwn } from '@/core/record/house-own';
import { sayAudience } from '@/desk/channels/connect-channel';
import { keepOwn } from '@/desk/directory/keep-own';
import { savePerson } from '@/desk/directory/save-directory';
import { tryPurchase } from '@/desk/records/try-purchase';
import { makeRig, type Rig } from './rig';

/* What is said in words of our own, seen where the public, a member and a buyer see it. */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern', 'lectern-2', 'lectern-3', 'gatefold', 'hearthside', 'fernway']);
  sayAudience(rig.house, keeper, 'lectern-2', { who: 'members', alone: true });
  sayAudience(rig.house, keeper, 'lectern-3', { who: 'group', name: 'Friends of the yard', alone: true });
});
afterAll(() => rig.end());

const page = async (address: string) => {
  const answer = await fetch(address.startsWith('http') ? address : `${rig.base}/${address}`);
  return `${answer.status} ${(await answer.text()).replace(/\s+/g, ' ')}`;
};
const sent = async () => {
  rig.send();
  await rig.settle();
};
const publicPage = async (id: Parameters<Rig['record']>[0], channel: string) =>
  page(rig.listings(id).find((listing) => listing.channel === channel)?.publicUrl ?? 'nowhere');
const change = (id: Parameters<Rig['record']>[0], part: Partial<RecordContent>) => {
  const now = rig.record(id);
  if (now) rig.save(id, rig.revision(id), { ...now, ...part });
};

test('what is for members, and for a group, stands on their page of the website and nowhere else', async () => {
  const open = rig.make({ title: 'For All' });
  const members = rig.make({ title: 'For Members', audience: { who: 'members' } });
  const friends = rig.make({ title: 'For Friends', audience: { who: 'group', name: 'friends of the yard' } });
  await sent();
  const on = async (address: string) => {
    const text = await page(address);
    return ['For All', 'For Members', 'For Friends'].filter((title) => text.includes(title));
  };
  const seen = ['lectern/', 'lectern/in/music', 'lectern/members', 'lectern/friends', 'gatefold/', 'hearthside/'];
  expect(await Promise.all(seen.map(on))).toEqual([
    ['For All'],
    ['For All'],
    ['For Members'],
    ['For Friends'],
    ['For All'],
    ['For All'],
  ]);
  // Its page is not that of an event for everybody under the same name.
  expect(await page('lectern/events/for-members')).toMatch(/^404/);
  expect(await publicPage(members, 'lectern-2')).toMatch(/^200 .*For Members/);
  expect(rig.standings(friends)).toMatchObject({ 'lectern-3.0': 'instep' });
  // Opened to all it leaves their page for that of everybody, and the other way about.
  change(members, { audience: { who: 'everyone' } });
  change(open, { audience: { who: 'members' } });
  await sent();
  expect(await Promise.all(seen.slice(0, 3).map(on))).toEqual([['For Members'], ['For Members'], ['For All']]);
});

test('a page that is opened to everybody while a placing for members is under way does not keep it', async () => {
  await rig.weather('lectern', { slowMs: 600 });
  rig.make({ title: 'Raced', audience: { who: 'members' } });
  rig.send();
  const done = rig.settle();
  await new Promise((resolve) => setTimeout(resolve, 250));
  sayAudience(rig.house, keeper, 'lectern-2', { who: 'everyone' });
  await done;
  await rig.weather('lectern', { slowMs: 0 });
  await rig.settle();
  expect((await page('lectern/members')).includes('Raced')).toBe(false);
  sayAudience(rig.house, keeper, 'lectern-2', { who: 'members', alone: true });
});

test('the seller’s page and letter: our fee, our tax, how many are left, our words', async () => {
  const tickets = newTickets({
    levels: [newLevel('s', 'Standard', 2000, { quantity: 30, taxBasisPoints: 1350 })],
    outlets: [
      newOutlet('o', 'Gatefold', {
        channel: 'gatefold',
        fee: { mode: 'added', basisPoints: 450, fixed: 60, cap: 900 },
        allocation: 30,
      }),
    ],
    serviceFee: 150,
    tax: 'included',
    showLeft: 40,
    total: 30,
    letter: { words: 'Bring a lamp.', several: 'Bring two.' },
  });
  const id = rig.make({ title: 'Lamplight', tickets });
  await sent();
  expect(rig.standings(id)).toMatchObject({ 'gatefold.0': 'instep', 'hearthside.0': 'instep', 'lectern.0': 'instep' });
  const sold = await publicPage(id, 'gatefold');
  for (const words of ['service fee, on each ticket', '1.50 EUR', 'Prices hold the tax', '13.5 % tax', '30 left'])
    expect(sold).toContain(words);
  // The face, the place's fee (4.5 % and 0.60) and ours.
  const tried = await tryPurchase(rig.house, by('Maren'), { recordId: id, channel: 'gatefold' });
  expect(tried).toMatchObject({
    ok: true,
    value: expect.arrayContaining([expect.objectContaining({ what: 'the buyer pays', is: '€23', right: true })]),
  });
  expect(await publicPage(id, 'lectern')).toContain('€20, plus €1.50 service fee, incl. tax, 30 left');
});

test('who comes is shown, and guests write, only where that is asked for', async () => {
  const [quiet, loud] = [
    rig.make({ title: 'Quiet' }),
    rig.make({ title: 'Loud', guests: { shown: true, write: true } }),
  ];
  await sent();
  const said = async (id: typeof quiet) => {
    const text = await publicPage(id, 'hearthside');
    return [text.includes('Who comes'), text.includes('may write here')];
  };
  expect([await said(quiet), await said(loud)]).toEqual([
    [false, false],
    [true, true],
  ]);
});

test('an act’s own words, the sound, the street and the logo stand on the website; changed once, they are to send', async () => {
  const odalys = savePerson(
    rig.house,
    by('Maren'),
    'artist',
    artistSchema.parse({ id: 'x1', name: 'Odalys Quarry', words: 'A harp and a lamp.', links: ['https://o.example/'] }),
  );
  if (!odalys.ok) throw new Error('not kept');
  const id = rig.make({
    title: 'Own Words',
    sound: 'https://sound.example/1',
    lineUp: [newEntry('a', 'Odalys Quarry', 'headliner', { artistId: 'x1' })],
  });
  const pictureId = rig.record(id)?.pictures[0]?.pictureId ?? '';
  expect(keepOwn(rig.house, keeper, { ...nothingOwn, logoId: pictureId })).toMatchObject({ ok: true });
  expect(keepOwn(rig.house, keeper, { ...nothingOwn, logoId: 'cd'.repeat(32) })).toMatchObject({
    ok: false,
    error: { logoId: expect.stringContaining('not kept') },
  });
  await sent();
  const shown = await publicPage(id, 'lectern');
  for (const words of [
    'A harp and a lamp.',
    'https://o.example/',
    'https://sound.example/1',
    '9 Wicker Lane',
    'class="logo"',
  ])
    expect(shown).toContain(words);
  const logo = /class="logo" src="\/([^"]+)"/.exec(shown)?.[1] ?? 'nowhere';
  expect((await fetch(`${rig.base}/${logo}`)).status).toBe(200);
  expect(rig.standings(id)).toMatchObject({ 'lectern.0': 'instep' });
  const revision = rig.revision(id);
  savePerson(rig.house, by('Maren'), 'artist', { ...(odalys.value as Artist), words: 'Two harps.' });
  expect([rig.standings(id)['lectern.0'], rig.standings(id)['gatefold.0']]).toEqual(['due', 'instep']);
  await sent();
  expect(await publicPage(id, 'lectern')).toContain('Two harps.');
  expect(rig.revision(id)).toBe(revision);
});
