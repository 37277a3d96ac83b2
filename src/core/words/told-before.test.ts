import fc from 'fast-check';
import { facts } from '../facts/facts';
import { manyOrganisers, manyVenues, told, variedRecords } from '../testing/varied';
import { words as anyWords } from '../testing/any-record';
import { performance, sample, venues } from '../testing/samples';
import { draftShorter, firstSentences } from './drafts';
import { countAs, cutAs } from './fit';
import { hashtagProposals } from './hashtags';
import { cleanHtml, flattenBlocks, markupOf, plainToHtml, softBreaks, writeHtml, writePlain } from './markup';
import { earlierFrom, findMentions } from './mentions';
import { noticeLength, noticeParts, writeNotice } from './notice';
import { cleanPaste, droppedWords } from './paste';
import { fillTokens, tokens, tokenValues } from './tokens';

const allTokens = Object.keys(tokens)
  .map((token) => `{{ ${token} }}`)
  .join(' | ');
const now = Date.parse('2027-02-02T10:20Z');
const factsOf = (content: ReturnType<typeof sample>) =>
  facts(content, { code: 'TY-1', venues: manyVenues, organisers: manyOrganisers, now, houseZone: 'Europe/Dublin' });

/** Pieces that sentences about an evening are made of. */
const piece = fc.constantFrom(
  'doors',
  'starts at',
  'from',
  'until',
  'on',
  'tickets',
  'moved from',
  'was',
  'free',
  'and',
  'in the Vat',
  'in the Wick Room',
  'Sunday',
  'on Sunday',
  'on Friday',
  'this Sunday',
  'come on Sunday',
  'every Sunday',
  'ends on Monday',
  'rescheduled from 13 March to',
  'in two weeks',
  'Sun',
  'Friday',
  'next Friday',
  '14 March',
  '14th of March',
  'March 14',
  '14/3',
  '14.03.2027',
  '2027-03-14',
  '15 March',
  '13 March',
  '14–16 March',
  'Sat 13 & Sun 14 March',
  'the fourteenth',
  '12 & 14 March',
  'in May',
  'tonight',
  '7pm',
  '7.30 pm',
  '19:30',
  '19.30h',
  'half past seven',
  'at seven',
  '20:00',
  'noon',
  'midnight',
  '7-10pm',
  '10 minutes',
  '€18',
  '€22',
  '£22',
  '22 euro',
  '€18–€22',
  '€22/18',
  '1,500 kr',
  '€22.00',
  'from €22',
  'concessions €15',
  '10 %',
  '22',
  'ages 7-10',
  'sold out',
  '12 seats',
  'call 01 234 5678',
  '{{ date }}',
  '{{ start }}',
  '(',
  ')',
  ',',
  '.',
  ';',
  '\n',
);
const sentence = fc.array(piece, { minLength: 1, maxLength: 9 }).map((list) => list.join(' '));
const sentences = fc.sample(sentence, { seed: 314, numRuns: 1600 });

test('what is found in sixteen hundred sentences is what was found', () => {
  const run = sample({
    performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-20', { start: '20:00' })],
  });
  const contexts = [
    sample(),
    run,
    sample({ performances: [performance('p1', '2027-03-14', { lastDate: '2027-03-16', turn: 'moved' })] }),
  ].map((content) => ({
    facts: facts(content, { code: 'X', venues, now }),
    now,
    earlier: earlierFrom([
      facts(sample({ performances: [performance('p1', '2027-03-13', { start: '20:00' })] }), {
        code: 'X',
        venues,
        now,
      }),
    ]),
    rooms: ['The Vat', 'Wick Room'],
  }));
  expect(told(sentences, (text) => contexts.map((context) => findMentions(text, context)))).toMatchSnapshot();
});

test('words, notices and tokens of two hundred records are what they were', () => {
  expect(
    told(variedRecords(200), (content, i) => {
      const said = factsOf(content);
      return [
        (['line', 'teaser', 'short'] as const).map((length) => draftShorter(content.words, length)),
        hashtagProposals(`${content.title}: ${content.subtitle}`, 'The Wet Sundays'),
        [60, 140, 340].map((limit) =>
          [null, 18].map((linkLength) => writeNotice(said, { limit: limit + (i % 9), linkLength, unit: 'graphemes' })),
        ),
        writeNotice(said, { limit: 200, linkLength: null, unit: 'characters', withLink: false }),
        noticeParts(said),
        noticeLength(said, true, 'words'),
        said.performances.map((performance) => tokenValues(said, performance)),
        (['plain', 'rich'] as const).map((kind) =>
          fillTokens(`${allTokens} | {{ no }} {{start}} {{ }} {{`, said, said.performances[0], kind),
        ),
      ];
    }),
  ).toMatchSnapshot();
});

const block = fc.constantFrom(
  '<p>One. Two!</p>',
  '<p>a <b>bold</b> <i>slow</i></p>',
  '<p><a href="https://a.example/?q=1">link</a> &amp; more</p>',
  '<h1>Big</h1>',
  '<h3>Small</h3>',
  '<ul><li>a<ul><li>b</li></ul></li><li>c</li></ul>',
  '<ol><li>one</li><li><p>two</p></li></ol>',
  '<p>x<br>y<br><br>z</p>',
  '<p>&nbsp; </p>',
  '<blockquote><p>q</p></blockquote>',
  '<table><tr><td>1</td><td>2</td></tr></table>',
  '<script>alert(1)</script>',
  '<p style="display:none">gone</p>',
  '<img src="x.png" alt="A">',
  '<p class="MsoListParagraph">·  item</p>',
  '<div>d<div>e</div></div>',
  'bare',
  '<a href="javascript:x">bad</a>',
  '<span style="font-weight:700">heavy</span>',
  '<p>ליל 夜 🎻</p>',
);
const html = fc.array(block, { maxLength: 6 }).map((list) => list.join(''));

test('markup that is cleaned, written and cut is what it was', () => {
  expect(
    told(fc.sample(html, { seed: 27, numRuns: 300 }), (text) => {
      const pasted = cleanPaste(text);
      const kept = pasted.ok ? pasted.value.html : '';
      const blocks = markupOf(kept);
      return [
        pasted,
        pasted.ok ? droppedWords(pasted.value) : '',
        cleanHtml(text),
        writePlain(blocks),
        writeHtml(flattenBlocks(blocks)),
        (['blank', 'paragraph'] as const).map((how) => writePlain(softBreaks(blocks, how))),
        plainToHtml(writePlain(blocks)),
        firstSentences(writePlain(blocks), 40),
      ];
    }),
  ).toMatchSnapshot();
});

test('texts that are counted and cut come out as they did', () => {
  const texts = fc.sample(
    fc
      .tuple(anyWords, sentence, fc.constantFrom('', ' https://a.example/x', ' 👩‍🚀👩‍🚀', '…'))
      .map((parts) => parts.join(' ')),
    { seed: 9, numRuns: 200 },
  );
  expect(
    told(texts, (text, i) =>
      (['graphemes', 'characters', 'words'] as const).map((unit) =>
        [null, 18].map((link) => [countAs(text, link, unit), cutAs(text, 3 + (i % 40), link, unit)]),
      ),
    ),
  ).toMatchSnapshot();
});
