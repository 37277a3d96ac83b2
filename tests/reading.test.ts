import { by, keeper } from '@/core/testing/doers';
import { unsavedRecord, type RecordId } from '@/core/base/ids';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { FilePart } from '@/core/formats/import-row';
import { fileLimits } from '@/core/formats/import-row';
import { importEvents, importFile } from '@/desk/files/import-events';
import { exportEvents } from '@/desk/files/export-events';
import { fileJob, readAgain, receiveFile, stopJob } from '@/desk/files/jobs';
import { readBeside } from '@/desk/files/read-beside';
import { openHouse } from '@/house/house';
import { countRecords, recordAt } from '@/store/records';
import { allVenues } from '@/store/venues';

const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-files-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let n = 0;
const written = (name: string, text: string | Buffer) => {
  const at = path.join(folder, `${(n += 1)}-${name}`);
  writeFileSync(at, text);
  return { path: at, name, zone: null, venues: [], answers: [] };
};
const parts = async (file: ReturnType<typeof written>, ...more: [AbortSignal?, object?]) => {
  const all: FilePart[] = [];
  for await (const part of readBeside(file, ...more)) all.push(part);
  return all;
};
const titles = (all: FilePart[]) => all.flatMap((part) => (part.kind === 'event' ? [part.event.content.title] : []));
const calendar = (...events: string[][]) =>
  [
    'BEGIN:VCALENDAR',
    ...events.flatMap((lines, i) => ['BEGIN:VEVENT', `UID:u${i}`, `SUMMARY:E${i}`, ...lines, 'END:VEVENT']),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
const childrenOf = (pid: number) =>
  readdirSync(`/proc/${pid}/task`).flatMap((task) =>
    readFileSync(`/proc/${pid}/task/${task}/children`, 'utf8').split(' ').filter(Boolean).map(Number),
  );
const house = () => openHouse(mkdtempSync(path.join(folder, 'house-')), null);
const rows = (count: number, town = 'Chicago,USA') =>
  `ref,title,date,start,venue,town,country\n${Array.from({ length: count }, (_, i) => `R-${i},Night ${i},2027-04-${String(1 + (i % 28)).padStart(2, '0')},19:30,Hall ${i % 7},${town}`).join('\n')}\n`;

describe('a file is read in a process of its own', () => {
  test('what it gives is what it holds; letters of an older spreadsheet are read as such, and told', async () => {
    const all = await parts(
      written(
        'old.csv',
        Buffer.from('title,date,start,venue,town,country\nGr\xfcn,2027-04-01,19:30,Hall,K\xf6ln,Germany\n', 'latin1'),
      ),
    );
    expect([titles(all), all.find((part) => part.kind === 'note')]).toMatchObject([
      ['Grün'],
      { note: { code: 'encoding' } },
    ]);
    const [event] = all.flatMap((part) => (part.kind === 'event' ? [part.event] : []));
    expect([event?.content.performances[0]?.zone, event?.venue?.town, event?.venue?.point?.lat]).toEqual([
      'Europe/Berlin',
      'Köln',
      expect.closeTo(50.9, 0),
    ]);
    expect(
      titles(
        await parts(
          written(
            'wide.csv',
            Buffer.from('\ufefftitle\tdate\tstart\tvenue\nOné\t2027-04-01\t19:30\tHall\n', 'utf16le'),
          ),
        ),
      ),
    ).toEqual(['Oné']);
  });

  test('more memory than is allowed refuses the file with a word, and this process goes on', async () => {
    const [refused] = await parts(
      written('heavy.json', `{"nuntiax":1,"events":[${'[[[]]],'.repeat(1_500_000)}0]}`),
      undefined,
      { heapMb: 60 },
    );
    expect(refused).toEqual({ kind: 'refused', message: expect.stringMatching(/takes more than 60 MB of memory/) });
  });

  test('more time than is allowed costs the event that takes it; the file ends in any case', async () => {
    const file = written(
      'slow.ics',
      calendar(
        ...Array.from({ length: 4 }, () => [
          'DTSTART;TZID=Europe/Dublin:20270202T180000',
          `RRULE:FREQ=YEARLY;BYMONTHDAY=31;BYMONTH=2;BYDAY=${Array.from({ length: 700 }, () => 'MO').join(',')};BYSETPOS=366`,
        ]),
      ),
    );
    const all = await parts(file, undefined, { stepMs: 1, tries: 3 });
    expect(all.filter((part) => part.kind === 'broken').length).toBeGreaterThan(0);
    expect(all.length).toBeLessThan(40);
    const ended = await parts(file, undefined, { wholeMs: 0 });
    expect(ended.at(-1)).toMatchObject({ kind: 'note', note: { code: 'out-of-time' } });
  });

  test('that the machine is busy with others costs no event', async () => {
    let held = false;
    const read = [];
    for await (const part of readBeside(written('held.csv', rows(4_000)), undefined, { stepMs: 2_000 })) {
      read.push(part);
      if (part.kind !== 'event' || held) continue;
      held = true;
      for (const id of childrenOf(process.pid)) {
        process.kill(id, 'SIGSTOP');
        setTimeout(() => process.kill(id, 'SIGCONT'), 4_000);
      }
    }
    expect([held, titles(read).length, read.filter((part) => part.kind === 'broken')]).toEqual([true, 4_000, []]);
  });

  test('stopped, it ends at once', async () => {
    const stop = new AbortController();
    const seen: string[] = [];
    for await (const part of readBeside(written('long.csv', rows(20_000)), stop.signal)) {
      if (part.kind === 'event') seen.push(part.event.origin);
      if (seen.length === 50) stop.abort();
    }
    expect(seen.length).toBeLessThan(2_000);
  });
});

describe('a file that is taken in', () => {
  test('stopped half-way, what was in stays; read again it takes the rest, and nothing twice', async () => {
    const at = house();
    const file = written('season.csv', rows(600));
    const stop = new AbortController();
    const first = await importFile(at, file, by('Maren'), {
      signal: stop.signal,
      report: (_, { counts }) => counts.made > 60 && stop.abort(),
    });
    const made = first.ok ? first.value.counts.made : 0;
    expect(made).toBeGreaterThan(60);
    expect([made < 600, countRecords(at.db)]).toEqual([true, made]);
    const again = await importFile(at, file, by('Maren'), {
      signal: new AbortController().signal,
      report: () => undefined,
    });
    expect(again).toMatchObject({
      ok: true,
      value: { counts: { made: 600 - made, known: made, asked: 0, broken: 0 } },
    });
    expect([countRecords(at.db), allVenues(at.db).size]).toEqual([600, 7]);
    expect([...allVenues(at.db).values()][0]).toMatchObject({
      zone: 'America/Chicago',
      point: { lat: expect.closeTo(41.85, 1) },
    });
    at.db.close();
  });

  const stream = (...pieces: (string | Error)[]) => {
    const left = [...pieces];
    return new ReadableStream<Uint8Array>({
      pull(controller) {
        const next = left.shift();
        if (next === undefined) controller.close();
        else if (next instanceof Error) controller.error(next);
        else controller.enqueue(Buffer.from(next));
      },
    });
  };
  const ended = async (id: string) => {
    for (let i = 0; i < 4_000; i += 1) {
      const job = fileJob(keeper, id);
      if (job && job.state !== 'waiting' && job.state !== 'reading') return job;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('the file was never read to its end');
  };

  test('a town of which there are several is asked; answered, the row goes in with its zone and its place', async () => {
    const at = house();
    const text = rows(2, 'Springfield,USA') + 'X,Known,2027-04-01,19:30,Hall,Leeds,UK\n';
    const received = await receiveFile(at, by('Maren'), 'towns.csv', stream(text.slice(0, 40), text.slice(40)), null, {
      zone: null,
    });
    if (!received.ok) throw new Error(received.error.message);
    const job = await ended(received.value.id);
    expect([job.state, job.report.counts]).toEqual(['done', { made: 1, known: 0, asked: 2, broken: 0 }]);
    const [choice] = job.report.asked[0]?.choices ?? [];
    const again = readAgain(at, by('Maren'), job.id, {
      zone: null,
      answers: [{ town: 'Springfield', country: 'USA', zone: choice?.zone ?? '', point: choice?.point ?? null }],
    });
    if (!again.ok) throw new Error(again.error);
    const done = await ended(again.value.id);
    expect(done.report.counts).toEqual({ made: 2, known: 1, asked: 0, broken: 0 });
    const record = recordAt(at.db, done.report.made[0]?.id ?? unsavedRecord);
    const venue = allVenues(at.db).get(record?.content.performances[0]?.venueId ?? '');
    expect([record?.content.performances[0]?.zone, venue?.zone, venue?.point]).toEqual([
      choice?.zone,
      choice?.zone,
      choice?.point,
    ]);
    expect(readAgain(at, by('Maren'), 'nobody', { zone: null, answers: [] })).toMatchObject({ ok: false });
    at.db.close();
  });

  test('what is too large, empty, or ends before its end is refused, and nothing of it stays', async () => {
    const at = house();
    const kept = () => readdirSync(path.join(at.folder, 'incoming'));
    const huge = 'x'.repeat(1_000_000);
    expect(
      await receiveFile(
        at,
        by('Maren'),
        'a.csv',
        stream(...Array.from({ length: fileLimits.bytes / 1_000_000 + 1 }, () => huge)),
        null,
        { zone: null },
      ),
    ).toMatchObject({ ok: false, error: { status: 413 } });
    expect(await receiveFile(at, by('Maren'), 'a.csv', stream(huge), 200_000_000, { zone: null })).toMatchObject({
      ok: false,
    });
    expect(await receiveFile(at, by('Maren'), 'a.csv', stream(), null, { zone: null })).toMatchObject({
      ok: false,
      error: { status: 400 },
    });
    expect(
      await receiveFile(at, by('Maren'), 'a.csv', stream('title,', new Error('gone')), null, { zone: null }),
    ).toMatchObject({ ok: false, error: { status: 507 } });
    expect([kept(), countRecords(at.db)]).toEqual([[], 0]);
    at.db.close();
  });

  test('one that waits is stopped before it begins', async () => {
    const at = house();
    const first = await receiveFile(at, by('Maren'), 'a.csv', stream(rows(400)), null, { zone: null });
    const second = await receiveFile(at, by('Maren'), 'b.csv', stream(rows(400)), null, { zone: null });
    if (!first.ok || !second.ok) throw new Error('not received');
    stopJob(keeper, second.value.id);
    expect([(await ended(first.value.id)).state, (await ended(second.value.id)).state, countRecords(at.db)]).toEqual([
      'done',
      'stopped',
      400,
    ]);
    at.db.close();
  });
});

describe('what a row is already', () => {
  const value = (read: ReturnType<typeof importEvents>) => {
    if (!read.ok) throw new Error(read.error);
    return read.value;
  };
  const take = (at: ReturnType<typeof house>, text: string, name = 'x.csv') =>
    value(importEvents(at, by('Maren'), name, text, 'Europe/Dublin')).counts;
  const tour = Array.from(
    { length: 22 },
    (_, i) => `,The Ninefold Choir,2027-03-${String(1 + i).padStart(2, '0')},20:00,Hall ${i},Leeds,UK`,
  );
  const head = 'ref,title,date,start,venue,town,country\n';

  test.each(['csv', 'json', 'ics'] as const)(
    'our own export, read in another house whose codes are the same: every date is made, once (%s)',
    (format) => {
      const [ours, theirs] = [house(), house()];
      take(ours, head + tour.join('\n'));
      // The other house has counted the same title under the same codes, on other days and in other places.
      take(
        theirs,
        head +
          tour
            .slice(0, 6)
            .map((line) => line.replace('2027-03', '2027-09').replace(/Hall/, 'Elsewhere'))
            .join('\n'),
      );
      const ids = ours.db.all<{ id: RecordId }>('SELECT id FROM records' as never).map((item) => item.id);
      const { name, text } = exportEvents(ours, keeper, ids, format);
      expect(take(theirs, text, name)).toEqual({ made: 22, known: 0, asked: 0, broken: 0 });
      expect(take(theirs, text, name)).toEqual({ made: 0, known: 22, asked: 0, broken: 0 });
      expect(take(ours, text, name)).toEqual({ made: 0, known: 22, asked: 0, broken: 0 });
      ours.db.close();
      theirs.db.close();
    },
  );

  test.each<[string, string, number]>([
    ['the same again', 'TY-1,Open Mic,2027-04-01,20:00,Yard,Leeds,UK', 0],
    ['its hour was put right', 'TY-1,Open Mic,2027-04-01,20:30,Yard,Leeds,UK', 0],
    ['its day was put right', 'TY-1,Open Mic,2027-04-02,20:00,Yard,Leeds,UK', 0],
    ['its title was put right', 'TY-1,Open Mike,2027-04-01,20:00,Yard,Leeds,UK', 0],
    ['another house’s evening of that name under that code', 'TY-1,Open Mic,2027-05-06,20:00,Cellar,York,UK', 1],
    ['another event under that code, elsewhere', 'TY-1,Repair Bench,2027-04-01,20:00,Cellar,York,UK', 1],
  ])('%s', (_, line, made) => {
    const at = house();
    take(at, `${head}TY-1,Open Mic,2027-04-01,20:00,Yard,Leeds,UK\n`);
    expect(take(at, `${head}${line}\n`)).toMatchObject({ made, known: 1 - made });
    expect(take(at, `${head}${line}\n`)).toMatchObject({ made: 0, known: 1 });
    at.db.close();
  });
});
