import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { openDatabase } from './database';
import { jsonReader } from './json-text';
import { dispatches, listings } from './schema';
import { jsonSetting } from './settings';

describe('a text of JSON', () => {
  const zodObject = z.object({ a: z.number(), b: z.array(z.string()).default(['x']) });
  const read = jsonReader(zodObject);

  test('gives the same value again, checked and filled in as at first, and nobody can change it', () => {
    const first = read('{"a":1}');
    expect(first).toEqual({ a: 1, b: ['x'] });
    expect(read(['{"a"', ':1}'].join(''))).toBe(first);
    expect(jsonReader(z.object({ a: z.number() }))('{"a":1}')).not.toBe(first);
    expect(() => first.b.push('y')).toThrow(TypeError);
    expect(read('{"a":2}').a).toBe(2);
    const nothing = jsonReader(z.null());
    expect([nothing('null'), nothing('null')]).toEqual([null, null]);
  });

  test.each([['{"a":"1"}'], ['{"a":'], ['null'], ['']])('that is wrong is refused each time: %s', (text) => {
    expect(() => read(text)).toThrow();
    expect(() => read(text)).toThrow();
  });

  test('is forgotten once so many characters of others were read, the least used first', () => {
    const texts = jsonReader(z.array(z.string()), 100);
    const [first, second] = [texts('["first"]'), texts('["second"]')];
    for (let n = 0; n < 30; n += 1) {
      texts(`["${n} other"]`);
      expect(texts('["first"]')).toBe(first);
    }
    expect(texts('["second"]')).toEqual(second);
    expect(texts('["second"]')).not.toBe(second);
  });
});

describe('a column of JSON', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nuntiax-json-'));
  const db = openDatabase(folder);
  afterAll(() => {
    db.close();
    rmSync(folder, { recursive: true });
  });

  test('is written as text, read as its value, filled in where nothing is said, and refused where it is damaged', () => {
    db.insert(dispatches)
      .values([
        { id: 'd-1' as never, actor: 'Maren', at: 1, seen: ['a “b”', 'c'] },
        { id: 'd-2' as never, actor: 'Maren', at: 2 },
      ])
      .run();
    expect(db.all(sql`SELECT seen FROM dispatches ORDER BY id`)).toEqual([{ seen: '["a “b”","c"]' }, { seen: '[]' }]);
    expect(db.select({ seen: dispatches.seen }).from(dispatches).all()).toEqual([
      { seen: ['a “b”', 'c'] },
      { seen: [] },
    ]);
    db.run(sql`UPDATE dispatches SET seen = '{"a":1}' WHERE id = 'd-2'`);
    expect(() => db.select().from(dispatches).all()).toThrow(z.ZodError);
    db.run(sql`UPDATE dispatches SET seen = '["half' WHERE id = 'd-2'`);
    expect(() => db.select().from(dispatches).all()).toThrow(SyntaxError);
  });

  test('of nothing is null, without meeting its schema', () => {
    db.run(sql`INSERT INTO records (id, code, revision, made_at) VALUES ('r', 'EV-1', 1, 1)`);
    db.insert(listings)
      .values({ id: 'l' as never, recordId: 'r' as never, channel: 'c' as never, part: 0, performanceIds: ['p'] })
      .run();
    expect(db.select().from(listings).get()).toMatchObject({
      remote: null,
      lost: null,
      twins: [],
      performanceIds: ['p'],
    });
  });

  test('or a setting: what is kept comes back, and before that what was given for none', () => {
    const words = jsonSetting('words', z.array(z.string().max(5)), ['none']);
    expect(words.of(db)).toEqual(['none']);
    words.put(db, ['a', 'b']);
    expect(words.of(db)).toEqual(['a', 'b']);
    expect(words.of(db)).toBe(words.of(db));
    db.run(sql`UPDATE settings SET value = '["much too long"]' WHERE name = 'words'`);
    expect(() => words.of(db)).toThrow(z.ZodError);
  });
});
