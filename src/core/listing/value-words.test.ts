import { valueWords } from './rich-words';

/* A picture is told by what it shows, never by its file's name alone. */

test.each([
  ['4dcb8f00ea81e417-0.90.800x533-800.jpg', 'A harp', '“A harp”, 800 × 533 from 0, 90 of 4dcb8f'],
  ['4dcb8f00ea81e417-0.0.800x800-800.jpg', '', 'a picture without description, 800 × 800 from 0, 0 of 4dcb8f'],
  ['poster.jpg', 'Theirs', '“Theirs”, poster.jpg'],
  ['', 'Theirs', '“Theirs”'],
  ['', '', 'a picture without description'],
])('%s, “%s”', (name, alt, words) => {
  expect(valueWords({ kind: 'picture', name, alt, source: null })).toBe(words);
});
