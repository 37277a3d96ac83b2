import fc from 'fast-check';
import { cleanHtml, flattenBlocks, plainToHtml, readMarkup, writeHtml, writePlain } from './markup';

test.each([
  ['plain', 'Bring a blanket', '<p>Bring a blanket</p>'],
  [
    'a fragment from a word processor',
    '<div class="x"><p style="mso:1"><b>Doors</b> at&nbsp;7</p><o:p></o:p></div>',
    '<p><strong>Doors</strong> at 7</p>',
  ],
  [
    'script, style and pictures',
    '<p>a<script>alert(1)</script><img src=x onerror=alert(1)>b</p><style>p{}</style>',
    '<p>ab</p>',
  ],
  [
    'a link that is no link',
    '<a href="javascript:alert(1)">x</a> <a href="https://a.example/?q=1&amp;r=2">y</a>',
    '<p>x <a href="https://a.example/?q=1&amp;r=2">y</a></p>',
  ],
  [
    'lists and headings',
    '<h1>On</h1><ul><li>one<li><p>two</p></ul><blockquote>said</blockquote>',
    '<h3>On</h3><ul><li>one</li><li>two</li></ul><blockquote><p>said</p></blockquote>',
  ],
  [
    'a picture in a list is left out',
    '<ul><li>one<figure data-picture="a.jpg"><figcaption>A harp</figcaption></figure>two</li></ul>',
    '<ul><li>one<br>two</li></ul>',
  ],
  ['a table becomes words', '<table><tr><td>a</td><td>b</td></tr><tr><td>c</td></tr></table>', '<p>a b</p><p>c</p>'],
  [
    'a list within a list',
    '<ul><li>one<ul><li>two</li><li>three</li></ul></li><li>four</li></ul>',
    '<ul><li>one</li><li>two</li><li>three</li><li>four</li></ul>',
  ],
  ['an item of two paragraphs', '<ol><li><p>one</p><p>two</p></li></ol>', '<ol><li>one<br>two</li></ol>'],
  [
    'words in a list that are no item',
    '<ul>stray<li>one</li> <b>bold</b></ul>',
    '<ul><li>stray</li><li>one</li><li><strong>bold</strong></li></ul>',
  ],
  ['breaks', '<p>one<br>two</p>', '<p>one<br>two</p>'],
  ['emptiness', '<p> </p><p><br></p>', ''],
])('%s', (_, html, clean) => {
  expect(cleanHtml(html)).toBe(clean);
  expect(cleanHtml(clean)).toBe(clean);
});

test('down to what channels without lists take, and to plain text', () => {
  const blocks = readMarkup(
    '<h3>Cast</h3><ol><li>Odalys</li><li>Tin</li></ol><p>See <a href="https://a.example/">here</a></p>',
  );
  expect(writeHtml(flattenBlocks(blocks))).toBe(
    '<p><strong>Cast</strong></p><p>1. Odalys</p><p>2. Tin</p><p>See <a href="https://a.example/">here</a></p>',
  );
  expect(writePlain(blocks)).toBe('Cast\n\n1. Odalys\n2. Tin\n\nSee here (https://a.example/)');
});

test('cleaning is idempotent and never lets a tag of its own through, whatever the input', () => {
  const bit = fc.oneof(
    fc.string(),
    fc.constantFrom(
      '<p>',
      '</p>',
      '<ul>',
      '</ul>',
      '<ol>',
      '<li>',
      '</li>',
      '<td>',
      '<b>',
      '</b>',
      '<a href="https://x.example">',
      '</a>',
      '<script>',
      '</script>',
      '<br>',
      '&lt;',
      '<table>',
      '<h2>',
      '\n\n',
    ),
  );
  fc.assert(
    fc.property(fc.array(bit, { maxLength: 30 }), (bits) => {
      const clean = cleanHtml(bits.join(''));
      expect(cleanHtml(clean)).toBe(clean);
      expect(clean.replace(/<\/?(p|br|strong|em|h3|ul|ol|li|blockquote|a)( href="[^"<>]*")?>/g, '')).not.toMatch(
        /[<>]/,
      );
    }),
    { numRuns: 1500 },
  );
});

test('deep nesting and large input end soon', () => {
  const started = performance.now();
  expect(cleanHtml('<div>'.repeat(20_000) + 'x').length).toBeLessThan(100);
  expect(cleanHtml(plainToHtml('word '.repeat(200_000))).length).toBeGreaterThan(900_000);
  expect(performance.now() - started).toBeLessThan(8_000);
});
