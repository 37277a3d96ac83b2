import { csvParts, readEventsCsv } from './events-csv';
import { bareContext, fileLimits } from './import-row';

const head = 'title,date,start,venue,town,zone\n';
const row = (n: number) => `E${n},2027-03-01,19:30,Yard,Marrowby,Europe/Dublin\n`;

test('how far a long table is read is told every two hundred rows', () => {
  const text = head + Array.from({ length: 401 }, (_, i) => row(i)).join('');
  const at = [...csvParts([text], bareContext('Europe/Dublin'))].flatMap((part) =>
    part.kind === 'at' ? [part.place] : [],
  );
  expect(at).toEqual([200, 400]);
});

test('from the row on that is one too many nothing is read, and the file says so', () => {
  // Rows that are broken count as rows, and are read quickly.
  const broken = 'x,no day,,,,\n';
  const notes = (rows: number) => {
    const text = head + broken.repeat(rows);
    return [...csvParts([text], bareContext('Europe/Dublin'), (line) => line > 2)].flatMap((part) =>
      part.kind === 'note' ? [part.note.code] : [],
    );
  };
  expect(notes(fileLimits.rows)).not.toContain('too-many-rows');
  expect(notes(fileLimits.rows + 1)).toContain('too-many-rows');
});

test('a short table tells nothing of how far it is', () =>
  expect(readEventsCsv(head + row(1), 'Europe/Dublin')).toMatchObject({ ok: true }));
