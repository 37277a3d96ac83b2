import fc from 'fast-check';
import { facts as makeFacts } from '../facts/facts';
import { newLevel, newOutlet, newTickets, newWords } from '../record/new-record';
import { performance, sample, yard } from '../testing/samples';
import { tokens, fillTokens, tokenBeingTyped, type Token } from './tokens';
import { draftShorter } from './drafts';
import { countAs, countIn, cutAs, fit, fitWords, type CountIn, type FitPart } from './fit';
import { noEarlier } from './mention';
import { earlierFrom, findMentions } from './mentions';
import { cleanPaste, droppedWords, readPaste } from './paste';

const venues = new Map([
  [
    yard.id,
    {
      ...yard,
      rooms: [...yard.rooms, { id: 'court', name: 'The Dripping Court', capacity: 300, setUps: [], changeover: 0 }],
    },
  ],
]);
const now = Date.parse('2027-03-08T12:00Z');
const factsOf = (part: Parameters<typeof sample>[0] = {}) =>
  makeFacts(sample({ performances: [performance('p0', '2027-03-13'), performance('p1', '2027-03-14')], ...part }), {
    code: 'X',
    venues,
    now,
  });
const rooms = ['The Vat', 'Wick Room', 'The Dripping Court'];

describe('words against facts: Sunday 14 March 2027 (and Saturday 13), doors 19:00, start 19:30, The Vat, €22', () => {
  const earlier = earlierFrom([
    factsOf({
      performances: [performance('p1', '2027-02-26', { start: '20:00' })],
      tickets: newTickets({ levels: [newLevel('s', 's', 1800)] }),
      lineUp: [{ id: 'z', name: 'Hatpin', role: 'support', artistId: null, setTime: null }],
    }),
  ]);
  const tickets = newTickets({
    levels: [newLevel('s', 'Standard', 2200)],
    outlets: [newOutlet('o', 'Box office', { link: 'https://tickets.example/e/99' })],
  });
  const found = (text: string) =>
    findMentions(text, { facts: factsOf({ tickets }), now, earlier: noEarlier, rooms }).map(
      (mention) => `${mention.verdict}: ${mention.text}`,
    );
  test.each([
    ['Friday 14 March', ['contradicts: Friday 14 March']],
    ['Come this Sunday at half past seven.', ['typed: this Sunday', 'typed: half past seven']],
    ['doors at 7', ['typed: 7']],
    ['starts 8pm', ['contradicts: 8pm']],
    ['It ends at 22:00.', ['typed: 22:00']],
    ['Doors 19.30', ['contradicts: 19.30']],
    ['tickets from €18', ['contradicts: from €18']],
    ['tickets from €22, or 22 euros at the door', ['typed: from €22', 'typed: 22 euros']],
    ['in the Wick Room', ['contradicts: Wick Room']],
    ['in The Vat at Tallow Yard', ['typed: The Vat', 'typed: Tallow Yard']],
    ['founded in 1987', []],
    ['their 2019 album', []],
    ['since 3 May 2025', []],
    ['first played on 3 May 2025', []],
    ['It raised €5,000 for the roof, worth €200', []],
    ['14/3', ['typed: 14/3']],
    ['14.03.2027', ['typed: 14.03.2027']],
    ['March 14th', ['typed: March 14th']],
    ['Saturday 13 March, 19:30', ['typed: Saturday 13 March', 'typed: 19:30']],
    ['Saturday 13 March, 21:00', ['typed: Saturday 13 March', 'contradicts: 21:00']],
    ['on 21 March', ['contradicts: 21 March']],
    ['{{ date }} at {{ start }}', []],
    ['Book at https://tickets.example/e/99.', ['typed: https://tickets.example/e/99']],
    ['Book at https://tickets.example/e/12?via=us', ['contradicts: https://tickets.example/e/12?via=us']],
    ['More at https://elsewhere.example/', []],
    ['Odalys Quarry plays the harp.', []],
    ['It lasts one hour; tonight the room decides how long a second is.', []],
    ['a film on the first Sunday of the month', []],
  ])('%s', (text, expected) => expect(found(text)).toEqual(expected));

  test.each([
    ['Friday 26 February', 'stale: Friday 26 February'],
    ['starts 8pm', 'stale: 8pm'],
    ['from €18', 'stale: from €18'],
    ['with Hatpin', 'stale: Hatpin'],
  ])('what was right once: %s', (text, expected) => {
    expect(
      findMentions(text, { facts: factsOf({ tickets }), now, earlier, rooms }).map(
        (mention) => `${mention.verdict}: ${mention.text}`,
      ),
    ).toEqual([expected]);
  });

  test('the dearer of two old prices was never the lowest', () => {
    const levels = [newLevel('s', 'Standard', 2200), newLevel('c', 'Concession', 1600, { buyers: 'concession' })];
    const both = factsOf({ tickets: newTickets({ levels }) });
    expect(
      findMentions('from €22', { facts: both, now, earlier: earlierFrom([both]), rooms }).map(
        (mention) => mention.verdict,
      ),
    ).toEqual(['contradicts']);
  });

  test('any text is answered, with places that lie in it', () => {
    const piece = fc.constantFrom(
      'Sunday',
      '14 March',
      'at 7',
      '€18',
      'half past',
      'https://tickets.example',
      '{{',
      '🎻',
      '\u0000',
      'noon',
      '31/2',
      '99:99',
      'The Vat',
      '2027',
      'from',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string({ maxLength: 8 })), { maxLength: 14 }), (pieces) => {
        const text = pieces.join(' ');
        let last = 0;
        for (const mention of findMentions(text, { facts: factsOf({ tickets }), now, earlier, rooms })) {
          expect([text.slice(mention.from, mention.to), mention.from >= last, mention.to > mention.from]).toEqual([
            mention.text,
            true,
            true,
          ]);
          last = mention.to;
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is counted, and cut to it', () => {
  const many = '👩‍🚀'.repeat(30);
  test.each<[string, number, CountIn, number, string]>([
    [many, 20, 'graphemes', 30, `${'👩‍🚀'.repeat(19)}…`],
    // Each is five units; the sign that something follows is one.
    [many, 20, 'characters', 150, `${'👩‍🚀'.repeat(3)}…`],
    [many, 150, 'characters', 150, many],
    [many, 4, 'characters', 150, '…'],
    ['one two three four', 3, 'words', 4, 'one two three…'],
    ['one two three', 3, 'words', 3, 'one two three'],
    ['  ', 3, 'words', 0, '  '],
  ])('%s to %i %s', (text, limit, unit, length, cut) => {
    expect([countIn(text, unit), cutAs(text, limit, null, unit)]).toEqual([length, cut]);
  });
  test('of a text without a gap just as much is kept as fits', () => {
    for (let limit = 1; limit < 60; limit += 1)
      for (const unit of ['graphemes', 'characters'] as const)
        expect(countIn(cutAs('x'.repeat(60), limit, null, unit), unit)).toBe(limit);
  });
  test('no cut is longer than its limit, and none is shorter than it need be by more than a word', () =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('word', '👩‍🚀', 'é', 'https://a.example/way', 'e\u0301'), {
          minLength: 1,
          maxLength: 60,
        }),
        fc.integer({ min: 1, max: 60 }),
        fc.constantFrom<CountIn>('graphemes', 'characters', 'words'),
        fc.constantFrom(null, 18),
        (parts, limit, unit, linkLength) => {
          const text = parts.join(' ');
          const cut = cutAs(text, limit, linkLength, unit);
          expect(countAs(cut, linkLength, unit)).toBeLessThanOrEqual(limit);
          if (countAs(text, linkLength, unit) <= limit) expect(cut).toBe(text);
        },
      ),
    ));
});

describe('fit', () => {
  const part = (id: string, required: boolean, ...variants: [string, number][]): FitPart => ({
    id,
    label: id,
    required,
    variants: variants.map(([text, worth]) => ({ text, worth })),
  });
  const rules = { limit: 40, linkLength: 18, unit: 'graphemes' as const, joint: ' ' };
  test('the worth decides, not the length; what was dropped is said with what it needs', () => {
    const fitted = fit(
      [
        part('title', true, ['Odalys Quarry', 10]),
        part('support', false, ['with Tin Meridian and the Harbour Nine', 3]),
        part('date', true, ['Sunday 14 March', 5], ['Sun 14/3', 4]),
        part('price', false, ['€22', 2]),
      ],
      rules,
    );
    expect(fitted).toMatchObject({
      ok: true,
      text: 'Odalys Quarry Sunday 14 March €22',
      dropped: [{ id: 'support', needs: 39 }],
      shortened: [],
    });
    expect(fitWords(fitted)).toBe('dropped: support (39 would not fit)');
  });
  test('of equal sets the later part is dropped; graphemes and links are counted as the channel does', () => {
    expect(fit([part('a', false, ['x'.repeat(20), 5]), part('b', false, ['y'.repeat(20), 5])], rules)).toMatchObject({
      text: 'x'.repeat(20),
    });
    expect(countAs('👩‍👩‍👧 é https://a.example/a/very/long/way/indeed', 18, 'graphemes')).toBe(22);
    expect(fit([part('t', true, ['word '.repeat(12), 1])], rules)).toMatchObject({ ok: false, needs: 60 });
  });
  test('it is the best there is, against every combination', () => {
    const anyPart = fc.record({
      required: fc.boolean(),
      variants: fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 0, max: 9 })), {
        minLength: 1,
        maxLength: 3,
      }),
    });
    fc.assert(
      fc.property(
        fc.array(anyPart, { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 1, max: 24 }),
        (shape, limit) => {
          const parts = shape.map(({ required, variants }, i) =>
            part(
              `p${i}`,
              required,
              ...variants.map(([length, worth]): [string, number] => ['x'.repeat(length), worth]),
            ),
          );
          let best = -1;
          const walk = (i: number, texts: string[], worth: number): void => {
            const part = parts[i];
            if (!part) {
              if (texts.join(' ').length <= limit) best = Math.max(best, worth);
              return;
            }
            for (const variant of part.variants) walk(i + 1, [...texts, variant.text], worth + variant.worth);
            if (!part.required) walk(i + 1, texts, worth);
          };
          walk(0, [], 0);
          const fitted = fit(parts, { limit, linkLength: null, unit: 'graphemes', joint: ' ' });
          expect(fitted.ok ? fitted.worth : -1).toBe(best);
          if (fitted.ok) expect(fitted.text.length).toBeLessThanOrEqual(limit);
        },
      ),
    );
  });
});

describe('tokens', () => {
  const facts = factsOf({ title: 'Q & A' });
  const fill = (text: string, kind: 'plain' | 'rich' = 'plain') => fillTokens(text, facts, facts.performances[1], kind);
  test('are filled from one performance; rich words are escaped', () => {
    expect(fill('{{ weekday }} {{day}}, doors {{ doors }}, {{ room }}, {{ price }}').text).toBe(
      'Sunday 14 March, doors 19:00, The Vat, €22',
    );
    expect(fill('<p>{{ title }}</p>', 'rich').text).toBe('<p>Q &amp; A</p>');
  });
  test.each([
    ['{{ dat }}', { unknown: ['dat'] }],
    ['{{ link }}', { empty: ['link'], text: '' }],
    ['Hello {{ date', { broken: expect.stringContaining('{{ date'), text: 'Hello {{ date' }],
    ['{% for i in (1..9) %}x{% endfor %}', { broken: null, text: '{% for i in (1..9) %}x{% endfor %}' }],
    ['{{ (1..500000) | find: "x" }}', { broken: expect.stringContaining('500000') }],
    [
      '{{ constructor }} {{ __proto__ }} {{ toString }}',
      { unknown: ['constructor', '__proto__', 'toString'], text: '  ' },
    ],
    ['{{ title.constructor }}', { broken: expect.stringContaining('title.constructor') }],
    [
      `{{ title | append: "${'x'.repeat(50)}" }} {{ day }}`,
      { broken: expect.stringContaining('append'), text: expect.stringContaining('14 March') },
    ],
    ['{{'.repeat(30_000), { broken: expect.stringContaining('{{') }],
  ])('%s', (text, expected) => expect(fill(text)).toMatchObject(expected));
  test.each([
    [60, []],
    [61, 'broken'],
  ])('a token of %d characters between its braces', (inside, read) => {
    const filled = fill(`{{${'day'.padStart(inside)}}} after`);
    expect(filled.broken === null ? filled.unknown : 'broken').toEqual(read);
  });
  test('are offered while one types', () => {
    expect(tokenBeingTyped('Doors {{ do')).toEqual({ typed: '{{ do', matches: ['doors'] });
    expect(tokenBeingTyped('{')?.matches).toHaveLength(Object.keys(tokens).length);
    expect(tokenBeingTyped('{{ date }} and')).toBeNull();
    for (const token of Object.keys(tokens) as Token[])
      expect(fill(`{{ ${token} }}`)).toMatchObject({ unknown: [], broken: null });
  });
});

test('a shorter length is drafted from the next longer one, in whole sentences', () => {
  const long =
    'One evening of harp. Two tape machines answer. The third sentence is much too long to stand in any line that is worth the name.';
  expect(draftShorter(newWords({ full: `<h3>Head</h3><p>${long}</p>` }), 'line')).toEqual({
    text: 'One evening of harp. Two tape machines answer.',
    from: 'full',
  });
  expect(draftShorter(newWords({ short: 'Short one.', full: '<p>x</p>' }), 'teaser')).toEqual({
    text: 'Short one.',
    from: 'short',
  });
  expect(draftShorter(newWords(), 'short')).toBeNull();
});

describe('a paste is cleaned, and what was left out is said', () => {
  test.each([
    [
      'a page',
      '<div style="color:red"><h1>Head</h1><p onclick="x()">Text <b>bold</b> <a href="/tour">tour</a></p><table><tr><td>cell</td></tr></table><img src="https://x.example/a.png"></div>',
      '<h3>Head</h3><p>Text <strong>bold</strong> tour</p><p>cell</p>',
      /table.*picture|picture.*table/,
      ['a link without its site'],
    ],
    [
      'a word processor',
      '<html><head><style>p{}</style></head><body><!--StartFragment--><p class="MsoNormal"><span style="font-family:X">One</span></p><p>Two<img src="file:///C:/a.png"></p><!--EndFragment--></body></html>',
      '<p>One</p><p>Two</p>',
      /typeface/,
      ['a picture that lies on another computer'],
    ],
    [
      'a drawing with a script',
      '<svg><script>alert(1)</script></svg><p>ok<script>alert(2)</script></p><a href="javascript:alert(3)">run</a>',
      '<p>ok</p><p>run</p>',
      /script/,
      ['a link that runs a script'],
    ],
    [
      'a bold around all that is none',
      '<b style="font-weight:normal"><p><span style="font-weight:700">One</span><span style="font-weight:400;font-style:italic"> two</span> three</p></b><h2 style="font-weight:bold"><i style="font-style:normal">Four</i></h2>',
      '<p><strong>One</strong><em> two</em> three</p><h3><strong>Four</strong></h3>',
      /typeface/,
      [],
    ],
    [
      'a weight of six hundred, and one below it',
      '<p><span style="font-weight:600">One</span><span style="font-weight:599"> two</span></p>',
      '<p><strong>One</strong> two</p>',
      /typeface/,
      [],
    ],
    [
      'lists that are paragraphs with bullets',
      `<p class=MsoListParagraphCxSpFirst style='mso-list:l0 level1'><![if !supportLists]><span style='mso-list:Ignore'>·<span>&nbsp; </span></span><![endif]>One</p>\n<p style='mso-list:l0 level1'><span style='mso-list:Ignore'>·</span>Two</p><p style='mso-list:l1 level1'><span style='mso-list:Ignore'>1.</span>Three</p><p>Four</p>`,
      '<ul><li>One</li><li>Two</li></ul><ol><li>Three</li></ol><p>Four</p>',
      /^$/,
      [],
    ],
    [
      'words that are not seen',
      '<p>One<span style="display: none"> hidden</span> two</p><div hidden>three</div>',
      '<p>One two</p>',
      /^hidden text$/,
      [],
    ],
    [
      'a telephone link, and one without its scheme',
      '<p><a href="tel:01">ring</a> <a href="www.x.example">see</a></p>',
      '<p>ring see</p>',
      /^$/,
      ['a link that leads to no page', 'a link without its site'],
    ],
    [
      'deeper than any page, and whole all the same',
      `${'<div>'.repeat(200)}deep <b>words</b>${'</div>'.repeat(200)}`,
      '<p>deep words</p>',
      /^$/,
      [],
    ],
    [
      'what was left out, by number',
      '<iframe src="https://a.example"></iframe><p>One</p><video></video><video></video>',
      '<p>One</p>',
      /^an embedded page, 2 films$/,
      [],
    ],
    ['right to left, and emoji', '<p>ערב טוב 🎻 مساء الخير</p>', '<p>ערב טוב 🎻 مساء الخير</p>', /^$/, []],
  ])('%s', (_, html, expected, dropped, broken) => {
    const pasted = cleanPaste(html);
    if (!pasted.ok) throw new Error(pasted.error);
    expect(pasted.value.html).toBe(expected);
    expect(droppedWords(pasted.value)).toMatch(dropped);
    expect(pasted.value.broken.map((item) => item.what)).toEqual(broken);
  });
  test('five megabytes, and a nest of fifty thousand, are answered with a word', () => {
    expect(cleanPaste('<p>x</p>'.repeat(640_000))).toMatchObject({
      ok: false,
      error: expect.stringContaining('million characters'),
    });
    expect(cleanPaste('<div>'.repeat(300_000) + 'deep')).toMatchObject({
      ok: false,
      error: expect.stringContaining('nested'),
    });
    expect(cleanPaste('<div>'.repeat(200) + 'deep')).toMatchObject({ ok: true });
    expect(cleanPaste(`<p>${'word '.repeat(20_000)}</p>`)).toMatchObject({
      ok: false,
      error: expect.stringContaining('60,000'),
    });
    expect(readPaste({ html: '', plain: 'word '.repeat(20_000) })).toMatchObject({
      ok: false,
      error: expect.stringContaining('60,000'),
    });
    expect([readPaste({ html: '', plain: 'word' }), readPaste({ html: '<p>x</p>', plain: 'y' })]).toMatchObject([
      null,
      { ok: true, value: { html: '<p>x</p>' } },
    ]);
  });
});
