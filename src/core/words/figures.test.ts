import fc from 'fast-check';
import { articleAt } from '../listing/wire';
import { newPicture } from '../record/new-record';
import { figureFile, figureWidth, ownFigures, shownFigures } from './figures';
import {
  cleanHtml,
  figureSides,
  figureSizes,
  flattenBlocks,
  readMarkup,
  softBreaks,
  writeHtml,
  writePlain,
} from './markup';

const picture = newPicture({ id: 'ab'.repeat(32), width: 1000, height: 700 }, { alt: 'A harp & “tape”', credit: 'us' });
const other = newPicture({ id: 'cd'.repeat(32), width: 3000, height: 2000 }, { alt: '', credit: 'us' });
const figure = (id: string, more = '') =>
  `<figure data-picture="${id}" data-side="left" data-size="half"${more}><figcaption>At night</figcaption></figure>`;

const html = fc
  .array(
    fc.oneof(
      fc.constantFrom('<p>One.<br>Two.</p>', '<ul><li>a</li><li>b</li></ul>', '<h3>Head</h3>'),
      fc
        .record({
          picture: fc.constantFrom(picture, other),
          side: fc.constantFrom(...figureSides),
          size: fc.constantFrom(...figureSizes),
          caption: fc.constantFrom('', 'At night', 'A "b" & <c>'),
          href: fc.constantFrom(null, 'https://x.example/a?b=1&c=2'),
        })
        .map(({ picture, ...rest }) =>
          writeHtml([{ kind: 'figure', figure: { ...rest, picture: picture.pictureId, alt: '' } }]),
        ),
    ),
    { maxLength: 6 },
  )
  .map((parts) => cleanHtml(parts.join('')));

test('a picture in the text is kept, however it is cleaned; one that is no picture of ours is not', () => {
  expect(cleanHtml(`<p>a</p>${figure('ab'.repeat(32))}<p>b</p>`)).toBe(`<p>a</p>${figure('ab'.repeat(32))}<p>b</p>`);
  expect(cleanHtml('<figure><img src="x.png" onerror="alert(1)"><figcaption>c</figcaption></figure>')).toBe('<p>c</p>');
  expect(cleanHtml(figure('../../etc'))).not.toContain('figure');
  expect(cleanHtml(figure('ab', ' data-href="javascript:alert(1)"'))).not.toContain('javascript');
});

test('shown on a channel and back: there by its file, here by its hash, with what it shows for those who cannot see it', () => {
  fc.assert(
    fc.property(html, (text) => {
      const shown = shownFigures(text, [picture, other]);
      expect(ownFigures(shown.html, [picture, other])).toBe(text);
      for (const file of shown.files) expect(figureWidth(file.name)).toBeLessThanOrEqual(1200);
      // Over the wire it is an image like any other, and comes back as it was.
      const { put, take } = articleAt('body');
      const wire = put({ kind: 'rich', html: shown.html });
      expect(String(wire.body)).not.toContain('data-picture');
      expect(take(wire)).toEqual(shown.html === '' ? null : { kind: 'rich', html: shown.html });
    }),
  );
  expect(figureFile(picture, 'whole')).toBe('abababababababab-w1000.jpg');
});

test('a picture that is not the record’s is left out, and counted', () => {
  const shown = shownFigures(`<p>a</p>${figure('ef'.repeat(32))}`, [picture]);
  expect([shown.html, shown.gone]).toEqual(['<p>a</p>', 1]);
});

test('down to paragraphs and plain text it is left out; named where a person reads it', () => {
  const blocks = readMarkup(`<p>a</p>${figure('ab'.repeat(32))}`);
  expect([writeHtml(flattenBlocks(blocks)), writePlain(blocks), writePlain(blocks, 'named')]).toEqual([
    '<p>a</p>',
    'a',
    'a\n\n[picture, half, left: At night]',
  ]);
});

test.each([
  ['blank', '<p>One. <strong>Two.</strong> Three.</p>'],
  ['paragraph', '<p>One.</p><p><strong>Two.</strong></p><p>Three.</p>'],
] as const)('a soft break becomes a %s', (become, expected) =>
  expect(writeHtml(softBreaks(readMarkup('<p>One.<br><strong>Two.</strong><br>Three.</p>'), become))).toBe(expected),
);
