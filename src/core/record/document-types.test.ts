import { isAsNamed, typeOfFile } from './document-types';

const bytes = (...start: number[]) => Uint8Array.from([...start, 1, 2, 3]);
const zip = [0x50, 0x4b];
const starts: Record<string, number[]> = {
  pdf: [0x25, 0x50, 0x44, 0x46],
  odt: zip,
  ods: zip,
  docx: zip,
  xlsx: zip,
  png: [0x89, 0x50, 0x4e, 0x47],
  jpg: [0xff, 0xd8],
  jpeg: [0xff, 0xd8],
};

test.each(Object.entries(starts))('%s begins as it should, and otherwise is none', (ending, start) => {
  expect([typeOfFile(`a.b.${ending.toUpperCase()}`), isAsNamed(`a.${ending}`, bytes(...start))]).toEqual([
    expect.any(String),
    true,
  ]);
  // Each byte counts.
  for (const i of start.keys())
    expect(isAsNamed(`a.${ending}`, bytes(...start.map((byte, at) => (at === i ? byte ^ 1 : byte))))).toBe(false);
});

test('a text holds no zero bytes; what a browser would run, and what has no ending, is not taken', () => {
  expect([isAsNamed('a.txt', bytes(65)), isAsNamed('a.csv', bytes(65, 0))]).toEqual([true, false]);
  expect(['a.html', 'a.svg', 'a.js', 'pdf', 'a.', ''].map(typeOfFile)).toEqual(Array(6).fill(null));
});
