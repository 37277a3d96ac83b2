import fc from 'fast-check';
import { CsvRows, type CsvRow } from './csv-rows';

/** Reads a text in pieces that end at `cuts`. */
function read(text: string, cuts: readonly number[] = [], most = 400_000): CsvRow[] {
  const rows = new CsvRows({ delimiter: ',', most });
  const ends = [...new Set(cuts.map((at) => at % (text.length + 1)))].sort((a, b) => a - b);
  return [...[0, ...ends].flatMap((from, i) => rows.push(text.slice(from, ends[i] ?? text.length))), ...rows.end()];
}

const written = (cells: readonly string[]) => cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',');
const cell = fc.oneof(
  fc.string({ maxLength: 12 }),
  fc.constantFrom('', '"', 'a,b', 'two\nlines', 'two\r\nlines', '""', ' ', '6" pizza'),
);
const cuts = fc.array(fc.nat(4_000), { maxLength: 12 });

describe('rows of a table', () => {
  test('what was written is read, with the lines it stands on, wherever the pieces end and however lines do', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 8 }),
        fc.constantFrom('\n', '\r\n', '\r'),
        cuts,
        (table, end, ends) => {
          const text = table.map((row) => written(row)).join(end) + end;
          let line = 1;
          const expected = table.map((cells) => {
            const at = line;
            line += 1 + cells.reduce((sum, cell) => sum + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
            return { line: at, cells, problem: null };
          });
          expect(read(text, ends)).toEqual(expected);
        },
      ),
    );
  });

  test('any text at all is read the same, in one piece or in many, and nothing of it is read twice', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom('a', '"', ',', '\n', '\r', ' '), maxLength: 60 }),
        cuts,
        (text, ends) => {
          const rows = read(text);
          expect(read(text, ends)).toEqual(rows);
          expect(rows.map((csv) => csv.line)).toEqual([...rows.map((csv) => csv.line)].sort((a, b) => a - b));
        },
      ),
    );
  });

  test.each<[string, string, (string[] | RegExp)[]]>([
    ['a mark in a cell without marks is a mark', 'a,6" pizza\n', [['a', '6" pizza']]],
    ['a mark inside marks costs its own line', 'a,"x "y" z"\nb,c\n', [/Double it/, ['b', 'c']]],
    ['one that is never closed costs its own line', 'a,"x\nb,c\nd,e\n', [/never closed/, ['b', 'c'], ['d', 'e']]],
    ['one that is never closed, before another', 'a,"x\nb,"c"\nd,e\n', [/inside a cell/, ['b', 'c'], ['d', 'e']]],
    ['a row longer than any', `a,${'x'.repeat(500)}\nb,c\n`, [/more than 200/, ['b', 'c']]],
    [
      'a row as long as any may be',
      `${'x'.repeat(199)},\nb,c\n`,
      [
        ['x'.repeat(199), ''],
        ['b', 'c'],
      ],
    ],
    ['a row longer by one', `${'x'.repeat(200)},\nb,c\n`, [/more than 200/, ['b', 'c']]],
    ['the last line without its end', 'a,b\nc', [['a', 'b'], ['c']]],
    ['empty lines are rows of nothing', 'a\n\nb\n', [['a'], [''], ['b']]],
  ])('%s', (_, text, expected) => {
    const rows = read(text, [], 200);
    expect(rows).toHaveLength(expected.length);
    rows.forEach((row, i) => {
      const wanted = expected[i];
      if (wanted instanceof RegExp) expect(row.problem).toMatch(wanted);
      else expect(row.cells).toEqual(wanted);
    });
  });

  test('a mark that is never closed before a great many rows costs its own line, and no time', () => {
    const text = `a,"x\n${'b,"c\n'.repeat(20_000)}${'d,e\n'.repeat(20_000)}`;
    expect(read(text, [], 10_000).filter((row) => row.problem === null)).toHaveLength(20_000);
  });
});
