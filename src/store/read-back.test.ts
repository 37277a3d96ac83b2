import { z } from 'zod';
import { readBack } from './database';

describe('a text of a column', () => {
  const zodObject = z.object({ a: z.number(), b: z.array(z.string()).default(['x']) });

  test('gives the same value again, checked and filled in as at first, and nobody can change it', () => {
    const first = readBack(zodObject, '{"a":1}');
    expect(first).toEqual({ a: 1, b: ['x'] });
    expect(readBack(zodObject, ['{"a"', ':1}'].join(''))).toBe(first);
    expect(readBack(z.object({ a: z.number() }), '{"a":1}')).not.toBe(first);
    expect(() => first.b.push('y')).toThrow(TypeError);
    expect([readBack(zodObject.nullable(), null), readBack(zodObject, '{"a":2}').a]).toEqual([null, 2]);
  });

  test.each([['{"a":"1"}'], ['{"a":'], ['null'], [null]])('that is wrong is refused each time: %s', (text) => {
    expect(() => readBack(zodObject, text)).toThrow();
    expect(() => readBack(zodObject, text)).toThrow();
  });

  test('is forgotten once many others were read', () => {
    const texts = z.array(z.string());
    const long = (n: number) => JSON.stringify([`${n} ${'long '.repeat(100_000)}`]);
    const first = readBack(texts, '["first"]');
    for (let n = 0; n < 16; n += 1) readBack(texts, long(n));
    expect(readBack(texts, '["first"]')).toBe(first);
    for (let n = 0; n < 40; n += 1) readBack(texts, long(n));
    const again = readBack(texts, '["first"]');
    expect(again).toEqual(first);
    expect(again).not.toBe(first);
  });
});
