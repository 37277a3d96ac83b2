import { by, keeper } from '@/core/testing/doers';
import { sql } from 'drizzle-orm';
import type { ChannelId, RecordId } from '@/core/base/ids';
import { findingWords } from '@/core/findings/finding-words';
import { exportEvents } from '@/desk/files/export-events';
import { importEvents } from '@/desk/files/import-events';
import { filesReadIn, takeFileBack } from '@/desk/files/take-back';
import { pulseRow } from '@/store/pulse';
import { bringBack, cutTie, deleteRecord, endingsOf, putAway } from '@/desk/records/endings';
import { clashesOf } from '@/desk/records/bookings';
import { recordView } from '@/desk/records/record-view';
import { season } from '@/desk/records/season';
import { countStale } from '@/runner/tally';
import { openDatabase } from '@/store/database';
import { listingsOf } from '@/store/listings';
import { recordAt } from '@/store/records';
import { makeRig, type Rig } from './rig';

/*
 * How a record ends. What was never outside can be deleted, and nothing of it is left in any table; what was is put
 * away; a tie that was cut leaves what stands there as it is, whatever the record comes to say.
 */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern', 'gatefold']);
});
afterAll(() => rig.end());

const lectern = 'lectern' as ChannelId;
const titles = () => season(rig.house, keeper, Infinity).rows.map((row) => `${row.title}: ${row.stage}`);
const code = (id: RecordId) => recordAt(rig.house.db, id)?.code ?? '';
const said = (answer: { ok: boolean; error?: unknown }) => (answer.ok ? 'done' : String(answer.error));

/** Rows of any table that name a record, or a listing of it. */
function rowsOf(id: RecordId): Record<string, number> {
  const { db } = rig.house;
  const tables = db.all<{ name: string }>(sql`SELECT name FROM sqlite_master WHERE type = 'table'`);
  const left = tables.flatMap(({ name }): [string, number][] => {
    const columns = db.all<{ name: string }>(sql`SELECT name FROM pragma_table_info(${name})`);
    const rows = db
      .all<Record<string, unknown>>(sql`SELECT * FROM ${sql.identifier(name)}`)
      .filter((row) =>
        columns.some(
          (column) =>
            /^id$|_id$/.test(column.name) && (row[column.name] === id || String(row[column.name]).startsWith(`${id}.`)),
        ),
      );
    return rows.length === 0 ? [] : [[name, rows.length]];
  });
  return Object.fromEntries(left);
}

test('a record that was never outside is deleted with its code typed: nothing of it is left, and no number comes again', async () => {
  const id = rig.make({ title: 'Never Out' });
  const before = season(rig.house, keeper, Infinity).rows.length;
  const elsewhere = { ...rig.house, db: openDatabase(rig.house.folder) };
  expect(season(elsewhere, keeper, Infinity).rows.length).toBe(before);
  await countStale(rig.house);
  const due = pulseRow(rig.house.db);
  expect([Object.keys(rowsOf(id)).sort(), titles()]).toEqual([
    ['records', 'revisions', 'season_lines', 'slugs', 'tallies'],
    ['Never Out: announced'],
  ]);
  const number = code(id);
  expect(said(deleteRecord(rig.house, keeper, id, 'OQ-0001'))).toContain(`Type its code, ${number}`);
  expect(said(deleteRecord(rig.house, keeper, id, ` ${number.toLowerCase()} `))).toBe('done');
  expect([rowsOf(id), season(rig.house, keeper, Infinity).rows.length]).toEqual([{}, before - 1]);
  // Another process, which has told the season before, does not show it any more either.
  expect(season(elsewhere, keeper, Infinity).rows.length).toBe(before - 1);
  elsewhere.db.close();
  expect([
    said(deleteRecord(rig.house, keeper, id, number)),
    said(putAway(rig.house, keeper, id)),
    said(bringBack(rig.house, keeper, id)),
  ]).toEqual(Array(3).fill('This record is not there any more.'));
  // What it added to the sums is taken off again.
  await countStale(rig.house);
  expect(pulseRow(rig.house.db).toSend).toBe(due.toSend - 2);
  expect(rig.save(id, 1, rig.content({ title: 'Back' })).kind).toBe('missing');
  const next = rig.make({ title: 'Never Out' });
  expect(code(next)).not.toBe(number);
  expect(said(deleteRecord(rig.house, keeper, next, code(next)))).toBe('done');
});

test('what went out in a file, or is on its way, cannot be deleted; it says so', async () => {
  const id = rig.make({ title: 'In a File' });
  exportEvents(rig.house, keeper, [id], 'csv');
  expect(said(deleteRecord(rig.house, keeper, id, code(id)))).toMatch(/went out in a file on .*put it away/);
  const other = rig.make({ title: 'On its Way' });
  rig.send([...rig.listings(other)].filter((l) => l.channel === 'lectern').map((l) => l.id));
  expect(said(deleteRecord(rig.house, keeper, other, code(other)))).toMatch(/on its way/);
  expect([said(putAway(rig.house, keeper, other)), said(cutTie(rig.house, by('Maren'), other, lectern))]).toEqual([
    'Something is under way on Lectern. Wait until it has ended.',
    'Nothing of this record stands there that is ours.',
  ]);
  await rig.settle();
  expect(said(putAway(rig.house, keeper, other))).toMatch(/is not over, and stands on Lectern/);
  expect(said(deleteRecord(rig.house, keeper, other, code(other)))).toMatch(/was sent/);
});

test('a file is taken back as a whole, until something of it went out; then nothing of it is deleted', () => {
  const file = (...names: string[]) =>
    `title,date,start,venue,town\n${names.map((name) => `${name},2027-05-01,20:00,Tallow Yard,Marrowby`).join('\n')}`;
  const read = (name: string, ...names: string[]) => {
    const report = importEvents(rig.house, by('Maren'), name, file(...names), 'Europe/Dublin');
    if (!report.ok) throw new Error(report.error);
    return report.value.made.map((row) => row.id);
  };
  const kept = read('kept.csv', 'Kept A', 'Kept B');
  read('wrong.csv', 'Wrong A', 'Wrong B', 'Wrong C');
  const named = (name: string) => filesReadIn(rig.house, keeper).filter(({ reason }) => reason.includes(name));
  expect([named('wrong')[0]?.records, named('kept')[0]?.changed]).toEqual([3, 0]);
  exportEvents(rig.house, keeper, kept.slice(1), 'csv');
  const before = titles();
  expect(said(takeFileBack(rig.house, keeper, named('kept')[0]))).toMatch(
    /^1 of its 2 events were sent or went out in a file/,
  );
  expect(titles()).toEqual(before);
  expect(takeFileBack(rig.house, keeper, named('wrong')[0])).toEqual({ ok: true, value: 3 });
  expect([named('wrong'), titles()]).toEqual([[], before.filter((title) => !title.startsWith('Wrong'))]);
  expect([
    said(takeFileBack(rig.house, keeper, { reason: 'read from wrong.csv', at: 1 })),
    said(takeFileBack(rig.house, keeper, null)),
  ]).toEqual(['Nothing of this file is here any more.', 'This file is not known.']);
  // Taken back, it can be read in anew.
  expect(read('wrong.csv', 'Wrong A')).toHaveLength(1);
});

test('a tie that was cut: what stands there stays, private or not; nothing is sent or read; it is told', async () => {
  const id = rig.make({ title: 'Let Go Of' });
  rig.send();
  await rig.settle();
  expect([
    await rig.publicCount('lectern', 'Let Go Of'),
    endingsOf(rig.house, id)?.ties.map((tie) => tie.name),
  ]).toEqual([1, ['Gatefold', 'Lectern'].sort((a, b) => (a < b ? 1 : -1))]);
  expect(said(cutTie(rig.house, by('Maren'), id, lectern))).toBe('done');
  expect(said(cutTie(rig.house, by('Maren'), id, lectern))).toMatch(/Nothing of this record stands there/);
  const told = () =>
    rig
      .listings(id)
      .flatMap((l) => l.findings.flatMap((f) => (f.code === 'cut-loose' ? [`${f.weight} ${findingWords(f)}`] : [])));
  expect(told()).toEqual([expect.stringMatching(/^notes .*no longer ours/)]);
  expect([rig.record(id)?.leftOff, rig.standings(id)['lectern.0']]).toEqual([['lectern'], null]);
  // Renamed and made private: the others follow, and what was let go of does not.
  const revision = rig.revision(id);
  rig.save(id, revision, {
    ...rig.content({ title: 'Renamed' }),
    leftOff: ['lectern'],
    publicity: { visibility: 'private', announce: null },
  });
  expect(told()).toEqual([expect.stringMatching(/^warns /)]);
  rig.send();
  await rig.pass(26 * 3_600_000);
  await rig.settle();
  rig.readAll();
  await rig.settle();
  expect([await rig.publicCount('lectern', 'Let Go Of'), await rig.publicCount('gatefold', 'Renamed')]).toEqual([1, 0]);
  expect(said(deleteRecord(rig.house, keeper, id, code(id)))).toMatch(/was sent/);
  // Nothing stands any more that is ours: it can be put away.
  expect([said(putAway(rig.house, keeper, id)), titles().filter((title) => title.startsWith('Renamed'))]).toEqual([
    'done',
    ['Renamed: put away'],
  ]);
});

test('what was put away is to send nowhere, is not changed, and comes back as it was', async () => {
  const id = rig.make({
    title: 'Long Over',
    performances: [{ ...rig.content().performances[0], date: '2026-12-01' } as never],
  });
  expect(said(putAway(rig.house, keeper, id))).toBe('done');
  expect([rig.standings(id), recordView(rig.house, keeper, id)?.channels, endingsOf(rig.house, id)?.awayAt]).toEqual([
    {},
    [],
    expect.any(Number),
  ]);
  const saved = rig.save(id, 1, rig.content({ title: 'Changed' }));
  expect(saved.kind === 'stopped' && saved.findings.map(findingWords)).toEqual([expect.stringMatching(/put away/)]);
  const before = rig.send(null);
  expect([before.ok, rig.listings(id)]).toEqual([before.ok, []]);
  // It takes no room: an event of the same evening there does not clash with it, until it is back.
  const tonight = { performances: [{ ...rig.content().performances[0], date: '2027-09-01' } as never] };
  const [there, here] = [rig.make({ title: 'There', ...tonight }), rig.make({ title: 'Here', ...tonight })];
  expect(clashesOf(rig.house, here).length).toBeGreaterThan(0);
  expect([said(putAway(rig.house, keeper, there)), clashesOf(rig.house, here)]).toEqual(['done', []]);
  expect(said(bringBack(rig.house, keeper, id))).toBe('done');
  expect(Object.keys(rig.standings(id)).length).toBeGreaterThan(0);
  expect(rig.save(id, 1, rig.content({ title: 'Changed' })).kind).toBe('saved');
  await rig.settle();
});

test('what is over is put away as it stands: nothing of it is taken down, and nobody reads it any more', async () => {
  const id = rig.make({
    title: 'Was Lovely',
    performances: [{ ...rig.content().performances[0], date: '2027-02-12' } as never],
  });
  rig.send();
  await rig.settle();
  expect(said(putAway(rig.house, keeper, id))).toMatch(/is not over/);
  await rig.pass(20 * 24 * 3_600_000);
  expect(said(putAway(rig.house, keeper, id))).toBe('done');
  const readAt = () => listingsOf(rig.house.db, id).map((listing) => listing.readAt);
  expect([readAt(), rig.listings(id)]).toEqual([[null, null], []]);
  rig.send();
  await rig.settle();
  expect([await rig.publicCount('lectern', 'Was Lovely'), readAt()]).toEqual([1, [null, null]]);
});

test('where nothing was written, the season is the very same list', async () => {
  rig.make({ title: 'Just so' });
  await countStale(rig.house);
  const [first, again] = [season(rig.house, keeper, Infinity), season(rig.house, keeper, Infinity)];
  expect([first.behind, again.rows === first.rows]).toEqual([0, true]);
});
