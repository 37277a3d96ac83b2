import { by, keeper, person } from '@/core/testing/doers';
import { performance } from '@/core/testing/samples';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { newNotice, newOutlet, newTickets, newLevel } from '@/core/record/new-record';
import { readNow } from '@/desk/drift/read-now';
import { makeDispatch, type Along } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { dispatchView } from '@/desk/dispatch/dispatch-view';
import { exportEvents } from '@/desk/files/export-events';
import { changeView } from '@/desk/records/change-view';
import { saveAndSend } from '@/desk/records/save-and-send';
import type { ChangeView } from '@/views/change';
import { feedAddress } from '@/house/feeds';
import { accountOf, allChannels } from '@/store/channels';
import { errandsWhere } from '@/store/errands';
import { foretoldOf } from '@/store/foretold';
import { listingById } from '@/store/listings';
import { doingsOf } from '@/store/persons';
import { makeRig, type Rig } from './rig';

/*
 * A change is looked at, said yes to once, saved and sent as one; what was foretold of it is held against what came.
 */

const hourMs = 3_600_000;
let rig: Rig;
let id: RecordId;
beforeAll(async () => {
  rig = await makeRig(['lectern', 'gatefold', 'hearthside', 'marrowby-diary', 'murmurline']);
  id = rig.make({
    title: 'The Counting House',
    categories: ['concert'],
    tickets: newTickets({
      levels: [newLevel('s', 'Standard', 2200)],
      outlets: [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 })],
    }),
    notices: [newNotice('n1', 'murmurline', { words: '{{ title }}, {{ start }}' })],
  });
  rig.send();
  await rig.settle();
  await rig.pass(13 * hourMs);
  await rig.settle();
  for (let i = 0; i < 2; i += 1)
    await rig.owner('gatefold', listing('gatefold'), remoteOf('gatefold'), { act: 'sell' });
  readNow(rig.house, keeper, id);
  await rig.settle();
});
afterAll(() => rig.end());

const listing = (channel: string) => {
  const found = rig.listings(id).find((candidate) => candidate.channel === channel);
  if (!found) throw new Error(`no listing on ${channel}`);
  return found;
};
const remoteOf = (channel: string) => listingById(rig.house.db, listing(channel).id)?.remote?.id ?? '';
const now = () => {
  const content = rig.record(id);
  if (!content) throw new Error('no record');
  return content;
};
const starting = (start: string) => ({
  ...now(),
  performances: now().performances.map((performance) => ({ ...performance, start })),
});
const looked = (content: unknown): ChangeView => {
  const answer = changeView(rig.house, keeper, id, content);
  if (answer.kind !== 'view') throw new Error(answer.messages.join(' '));
  return answer.view;
};
const listingsOf = ({ atOnce, later }: ChangeView) =>
  new Set<string>([...atOnce, ...later.filter(({ op }) => op !== null)].map((item) => item.listing));
/** The calendar feed that the town calendar reads. */
const feedText = async () => {
  const row = allChannels(rig.house.db).find(({ kind }) => kind === 'marrowby-diary');
  if (!row) throw new Error('no calendar');
  return (await fetch(feedAddress(rig.house, accountOf(row)))).text();
};
const revision = () => looked(now()).revision - 1;
const leave = (view: ChangeView) =>
  Object.fromEntries(
    view.said.map(({ listing: one }) => [one, { way: 'leave', reason: 'read already', code: '', until: '2027-03-14' }]),
  );
const send = (content: unknown, part: { base?: number; ways?: object } = {}) => {
  const view = looked(content);
  return saveAndSend(
    rig.house,
    by('Maren'),
    { id, base: part.base ?? revision(), content, reason: 'later' },
    listingsOf(view),
    { ways: { ...leave(view), ...part.ways }, seen: 'all' },
  );
};

test('looking writes nothing; where it cannot be sent, nothing is saved either', () => {
  const before = revision();
  const view = looked(starting('20:15'));
  expect([view.revision, view.locked.map(({ channel, sold }) => [channel, sold]), view.facts]).toEqual([
    before + 1,
    [['gatefold', 2]],
    [expect.objectContaining({ label: 'start', before: '19:30', after: '20:15' })],
  ]);
  expect(send(starting('20:15'))).toMatchObject({ kind: 'stopped' });
  expect(
    send(starting('20:15'), { ways: { [listing('gatefold').id]: { way: 'reschedule', reason: ' ', code: '' } } }),
  ).toEqual({
    kind: 'stopped',
    messages: [expect.stringContaining('say why'), 'Nothing was saved or sent.'],
  });
  expect([revision(), now().performances[0]?.start]).toEqual([before, '19:30']);
});

test('what cannot be saved is told with its field; who looks only is told who may', () => {
  expect(changeView(rig.house, keeper, id, { ...now(), title: '' })).toMatchObject({ kind: 'stopped' });
  expect(() => changeView(rig.house, person('reader'), id, now())).toThrow(/Idris|may/);
  expect(() =>
    saveAndSend(rig.house, person('writer'), { id, base: 1, content: now(), reason: '' }, new Set(), {}),
  ).toThrow(/may/);
});

test('it says yes: all is right in order, each by the hour that was foretold, and that is kept with the dispatch', async () => {
  const sent = send(starting('20:45'), {
    ways: { [listing('gatefold').id]: { way: 'reschedule', reason: 'The hall is needed', code: '' } },
  });
  if (sent.kind !== 'sent' || sent.dispatchId === null) throw new Error(JSON.stringify(sent));
  await rig.settle();
  const dispatch = sent.dispatchId as Parameters<typeof foretoldOf>[1];
  const kept = () => new Map(foretoldOf(rig.house.db, dispatch).map((item) => [item.channel as string, item]));
  expect([...kept().keys()].sort()).toEqual(['gatefold', 'hearthside', 'lectern', 'marrowby-diary']);
  expect(kept().get('gatefold')).toMatchObject({ op: 'reschedule', tells: 'buyers', told: 2 });
  // The calendar comes in its own time, and a person there looks: its day passes.
  for (let hour = 0; hour < 32; hour += 2) {
    await rig.pass(2 * hourMs);
    readNow(rig.house, keeper, id);
    await rig.settle(4);
  }
  const came = [...kept().values()].map(({ channel, seenAt, unseenAt, earliest, asRule, atLatest }) => ({
    channel,
    seen: seenAt !== null && seenAt >= earliest,
    inTime: (unseenAt ?? 0) <= atLatest,
    asRule: (unseenAt ?? 0) <= asRule,
  }));
  expect(came.filter(({ seen, inTime, asRule }) => !seen || !inTime || !asRule)).toEqual([]);
  const view = dispatchView(rig.house, keeper, dispatch);
  expect(view?.errands.every(({ state, foretold }) => state === 'done' && foretold?.seenAt != null)).toBe(true);
  // Who bought was written to once, by the channel's own step.
  const page = await (await fetch(listing('gatefold').publicUrl ?? '')).text();
  expect(page).toContain('20:45');
});

test('what it clashes with is told to whoever sees the season, and not to a guest', () => {
  const other = rig.make({ title: 'A party of somebody else', performances: [performance('q1', '2027-03-20')] });
  const moved = { ...now(), performances: now().performances.map((night) => ({ ...night, date: '2027-03-20' })) };
  const told = (doer: Doer) => {
    const answer = changeView(rig.house, doer, id, moved);
    return answer.kind === 'view' ? JSON.stringify([answer.view.clashes, answer.view.unseen]) : answer.messages.join();
  };
  expect(told(keeper)).toContain('A party of somebody else');
  expect(told(person('writer', { only: { records: [id], tours: [] } }))).not.toContain('somebody else');
  expect(() => told(person('writer', { only: { records: [other], tours: [] } }))).toThrow(/let in/);
});

test('the marketplace says no: nothing else goes out, though it is saved', async () => {
  await rig.weather('gatefold', { answerCalls: { 'POST /listings/:id/reschedule': { status: 422 } } });
  const sent = send(starting('21:15'), {
    ways: { [listing('gatefold').id]: { way: 'reschedule', reason: 'The hall is needed', code: '' } },
  });
  expect(sent).toMatchObject({ kind: 'sent' });
  await rig.settle(15);
  const states = Object.fromEntries(rig.listings(id).map(({ channel, standing }) => [channel, standing]));
  expect([states.gatefold, states.lectern, states.hearthside]).toEqual(['refused', 'underway', 'underway']);
  expect(await (await fetch(listing('lectern').publicUrl ?? '')).text()).toContain('20:45');
  await rig.weather('gatefold', {});
});

test('who saved meanwhile is not gone over: both versions are brought together first, and nothing is sent', () => {
  const base = revision();
  expect(send({ ...now(), subtitle: 'anew' }, { base: base - 1 })).toEqual({ kind: 'merge' });
  expect(revision()).toBe(base);
});

test('what is changed while a person there has not looked at it yet keeps all that it said', async () => {
  const fresh = rig.make({ title: 'Not looked at yet', categories: ['concert'] });
  rig.send();
  await rig.settle();
  readNow(rig.house, keeper, fresh);
  await rig.settle();
  const before = rig.record(fresh) ?? rig.content();
  const performances = before.performances.map((performance) => ({ ...performance, start: '20:15' }));
  rig.save(fresh, 1, { ...before, performances });
  rig.send();
  await rig.settle();
  const entries = (await feedText()).split('BEGIN:VEVENT');
  const mine = entries.find((entry) => entry.includes('Not looked at yet')) ?? '';
  expect(mine).toContain('DTSTART:20270314T201500Z');
  expect(mine).toContain('DTEND:20270314T220000Z');
  expect(mine).toContain('SEQUENCE:1');
});

test('what quotes the old fact beyond the channels stands in the logbook: what is seen to, and what is left', async () => {
  const other = rig.make({ title: 'Handed on', categories: ['concert'] });
  rig.send();
  await rig.settle();
  const save = (start: string, mended: string[]) => {
    const at = rig.record(other) ?? rig.content();
    const content = { ...at, performances: at.performances.map((item) => ({ ...item, start })) };
    const wish = { id: other, base: rig.revision(other), content, reason: '' };
    const goes = new Set(rig.listings(other).map((item): string => item.id));
    expect(saveAndSend(rig.house, by('Maren'), wish, goes, { seen: 'all', mended })).toMatchObject({ kind: 'sent' });
    return doingsOf(rig.house.db, 20, other).flatMap(({ sort, words }) => (sort === 'decision' ? [words] : []));
  };
  expect(save('20:15', ['file'])).toEqual([]);
  await rig.settle();
  exportEvents(rig.house, keeper, [other], 'json');
  const seenTo = 'sees to what quotes the old fact: the file that was taken out';
  expect(save('20:30', ['file', 'document gone'])).toEqual([seenTo]);
  await rig.settle();
  expect(save('20:45', [])[0]).toBe('left what quotes the old fact as it is: the file that was taken out');
  await rig.settle();
});

test('what waits for a link that is not chosen does not take it along unseen: it says which, and nothing goes', () => {
  const outlets = [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 })];
  const levels = [newLevel('s', 'Standard', 2200)];
  const performances = rig.content().performances.map((item) => ({ ...item, date: '2027-06-01' }));
  const fresh = rig.make({ title: 'Chosen in part', performances, tickets: newTickets({ levels, outlets }) });
  const of = (channel: string) => rig.listings(fresh).find((item) => item.channel === channel)?.id ?? '';
  const go = (channels: string[], along: Along) => {
    const made = makeDispatch(rig.house, by('Maren'), new Set(channels.map(of)), along);
    return made.ok ? made.value.errands : made.error;
  };
  const seen = toSend(rig.house, keeper, [fresh]).flatMap(({ errands }) => errands.flatMap(({ unseen }) => unseen));
  expect(go(['lectern'], { seen })).toMatch(
    /waits for the ticket link of Gatefold, which is not chosen\. Tick that too/,
  );
  expect(go(['lectern'], {})).toMatch(/Gatefold/);
  expect(errandsWhere(rig.house.db, { recordId: fresh })).toEqual([]);
  expect(go(['lectern', 'gatefold'], { seen })).toBe(2);
});
