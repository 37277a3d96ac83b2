import { readTypes } from './event-types';
import type { FileNote } from './file-note';

test.each<[string, string, string[], boolean]>([
  ['', 'concert', [], false],
  ['Concert', 'concert', [], false],
  ['workshop; family', 'workshop', ['family'], false],
  [' dance ;; Family; dance ', 'dance', ['family'], false],
  ['puppet opera', 'puppet opera', [], true],
  ['concert; séance', 'concert', ['séance'], true],
  ['a;b;c;d;e;f;g', 'a', ['b', 'c', 'd', 'e', 'f', 'g'], true],
])('%j: %s, %j', (text, eventType, categories, told) => {
  const notes: FileNote[] = [];
  expect(readTypes('event_type', text, notes)).toEqual({ eventType, categories });
  expect(notes.map((note) => note.code)).toEqual(told ? ['type-own'] : []);
});

test.each([['x'.repeat(41)], ['a;b;c;d;e;f;g;h']])('%.20s is refused at its column', (text) =>
  expect(() => readTypes('event_type', text, [])).toThrow(),
);
