import { by, keeper } from '@/core/testing/doers';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { keepDraft } from '@/desk/records/keep-draft';
import { tryPurchase } from '@/desk/records/try-purchase';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { makeRig, type Rig } from './rig';

/*
 * One side at draft and the other live, a listing without its post and a post without its listing, and what an
 * operation does besides: only where somebody asks. Over real HTTP, on real stand-ins.
 */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern', 'gatefold', 'hearthside', 'fernway', 'ostinato', 'concourse']);
});
afterAll(() => rig.end());

const tickets = newTickets({
  levels: [newLevel('s', 'Standard', 2200)],
  outlets: [
    newOutlet('o1', 'Gatefold', {
      channel: 'gatefold',
      fee: { mode: 'added', basisPoints: 450, fixed: 60, cap: 900 },
    }),
  ],
});
const one = (id: string, channel: string) => rig.listings(id as never).find((listing) => listing.channel === channel);
const status = async (url: string | null | undefined) => (await fetch(url ?? 'http://127.0.0.1:9/')).status;
const codes = (id: string, channel: string) =>
  one(id, channel)?.findings.map((finding) => `${finding.weight} ${finding.code}`);
const ownerSays = async (channel: string, title: string) =>
  new RegExp(`>[^<]*${title}</a> · ([^<]*)`).exec(await (await fetch(`${rig.base}/${channel}/owner`)).text())?.[1];

test('the sale stays a draft while the website is live; then it opens, and the link is everywhere', async () => {
  const id = rig.make({ title: 'Half Open', tickets, draftOn: ['gatefold'], leftOff: ['fernway', 'concourse'] });
  // The website is asked how it goes, and can stay a draft too; it is not scolded twice.
  expect([codes(id, 'lectern'), codes(id, 'gatefold')]).toEqual([
    expect.arrayContaining(['warns giver-draft']),
    expect.arrayContaining(['notes kept-draft']),
  ]);
  const [event] = toSend(rig.house, keeper, [id]);
  const asked = event?.errands.find((errand) => errand.channel === 'lectern');
  expect(asked?.orDraft).toEqual({ without: expect.stringMatching(/^warns /) as string, draft: true });
  const all = new Set(event?.errands.map((errand) => errand.listing));
  expect(makeDispatch(rig.house, by('Maren'), all, {}).ok).toBe(false);
  const others = (event?.errands ?? [])
    .flatMap((errand) => errand.unseen)
    .filter((key) => key !== asked?.orDraft?.without);
  expect(makeDispatch(rig.house, by('Maren'), all, { seen: [...others, asked?.orDraft?.without ?? ''] }).ok).toBe(true);
  await rig.settle();
  expect(rig.standings(id)).toMatchObject({ 'lectern.0': 'instep', 'gatefold.0': 'instep', 'hearthside.0': 'instep' });
  // Mirrors of what is left off are not waited for.
  expect(rig.standings(id)['ostinato.0']).toBeNull();
  const [web, sale] = [one(id, 'lectern'), one(id, 'gatefold')];
  expect([await status(web?.publicUrl), await status(sale?.publicUrl)]).toEqual([200, 404]);
  expect([web?.wanted.link, await rig.publicCount('gatefold', 'Half Open')]).toEqual([undefined, 0]);
  // What is a draft can be bought to try it: that is what a draft is for.
  const tried = await tryPurchase(rig.house, by('Maren'), { recordId: id, channel: 'gatefold' });
  expect(tried.ok && tried.value.every((check) => check.right)).toBe(true);
  // A change goes to the draft too, and nobody sees it.
  rig.save(id, 1, rig.content({ ...contentOf(id), title: 'Half Shut' }));
  rig.send();
  await rig.settle();
  expect([rig.standings(id)['gatefold.0'], await ownerSays('gatefold', 'Half Shut')]).toEqual([
    'instep',
    expect.stringMatching(/^draft/),
  ]);
  expect(keepDraft(rig.house, by('Maren'), id, 'gatefold', false)).toBeNull();
  rig.send();
  await rig.settle();
  expect([await status(sale?.publicUrl), one(id, 'lectern')?.wanted.link]).toEqual([
    200,
    { kind: 'url', href: expect.stringContaining('/gatefold/e/') as string },
  ]);
  // And back: what is seen goes out of sight, and its link goes from the website with it.
  expect(keepDraft(rig.house, by('Maren'), id, 'gatefold', true)).toBeNull();
  rig.send();
  await rig.settle();
  expect([await status(sale?.publicUrl), one(id, 'lectern')?.wanted.link, rig.standings(id)['gatefold.0']]).toEqual([
    404,
    undefined,
    'instep',
  ]);
});

test('a draft that somebody opens there is drift; the register’s draft is no date on the artist’s page', async () => {
  const leftOff = ['hearthside', 'concourse', 'gatefold'];
  const id = rig.make({
    title: 'Kept Back',
    tickets: newTickets({ mode: 'free entry' }),
    draftOn: ['lectern', 'fernway'],
    leftOff,
  });
  rig.send();
  await rig.settle();
  expect(rig.standings(id)).toMatchObject({ 'lectern.0': 'instep', 'fernway.0': 'instep', 'ostinato.0': null });
  const remote = /lectern\/owner\/(\w+)">Kept Back/.exec(await (await fetch(`${rig.base}/lectern/owner`)).text())?.[1];
  await rig.owner('lectern', one(id, 'lectern') as never, remote ?? '', { act: 'flip' });
  await rig.pass(13 * 3_600_000);
  await rig.settle();
  expect(rig.standings(id)['lectern.0']).toBe('drifted');
});

test('nothing is done besides, unless somebody asks: no post, no letter to followers', async () => {
  const quiet = rig.make({
    title: 'Quietly Placed',
    tickets: newTickets({ mode: 'free entry' }),
    leftOff: ['gatefold', 'lectern'],
  });
  rig.send();
  await rig.settle();
  const wall = async () => (await fetch(`${rig.base}/hearthside/`)).text();
  expect([
    await wall(),
    await ownerSays('fernway', 'Quietly Placed'),
    await ownerSays('concourse', 'Quietly Placed'),
  ]).toEqual([
    expect.not.stringContaining('New: Quietly Placed'),
    expect.stringContaining('told 0 times'),
    expect.stringContaining('told 0 times'),
  ]);
  rig.save(quiet, 1, { ...contentOf(quiet), title: 'Quietly Moved' });
  const loud = rig.make({
    title: 'Loudly Placed',
    tickets: newTickets({ mode: 'free entry' }),
    leftOff: ['gatefold', 'lectern'],
  });
  const events = toSend(rig.house, keeper);
  const errands = events.flatMap((event) => event.errands);
  const ask = (channel: string, effect: string) =>
    [errands.find((errand) => errand.listing === one(loud, channel)?.id)?.listing ?? '', [effect]] as const;
  const effects = Object.fromEntries([
    ask('hearthside', 'announce'),
    ask('fernway', 'tell'),
    ask('concourse', 'no such thing'),
  ]);
  expect(makeDispatch(rig.house, by('Maren'), null, { seen: 'all', effects }).ok).toBe(true);
  await rig.settle();
  expect([
    await wall(),
    await ownerSays('fernway', 'Loudly Placed'),
    await ownerSays('concourse', 'Loudly Placed'),
    await ownerSays('fernway', 'Quietly Moved'),
  ]).toEqual([
    expect.stringContaining('New: Loudly Placed'),
    expect.stringContaining('told 1 times'),
    expect.stringContaining('told 0 times'),
    expect.stringContaining('told 0 times'),
  ]);
});

test('placed without a post, and posted without placing', async () => {
  const free = newTickets({ mode: 'free entry' });
  const placed = rig.make({ title: 'Only Listed', tickets: free, leftOff: ['lectern', 'fernway', 'concourse'] });
  const posted = rig.make({
    title: 'Only Posted',
    tickets: free,
    leftOff: ['lectern', 'fernway', 'concourse', 'hearthside'],
    notices: [newNotice('n1', 'hearthside-posts', { words: 'Come to {{ title }}' })],
  });
  rig.send();
  await rig.settle();
  expect([
    rig.standings(placed)['hearthside.0'],
    Object.values(rig.standings(posted)).filter((candidate) => candidate !== null),
  ]).toEqual(['instep', ['instep']]);
  const wall = await (await fetch(`${rig.base}/hearthside/`)).text();
  expect([
    wall.includes('Come to Only Posted'),
    wall.includes('>Only Listed</a>'),
    wall.includes('>Only Posted</a>'),
  ]).toEqual([true, true, false]);
});

function contentOf(id: string) {
  const record = rig.record(id as never);
  if (!record) throw new Error('no record');
  return record;
}
