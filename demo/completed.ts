import { newEntry, newLevel } from '@/core/record/new-record';
import type { RecordContent, RecordDocument } from '@/core/record/record';
import type { Question } from '@/core/record/ticket-schema';

/** A change to the record that came from a row of the demo files: its origin, why, and what changes. */
export type Completion = [origin: string, reason: string, edit: (content: RecordContent) => RecordContent];

const withTickets = (content: RecordContent, part: Partial<RecordContent['tickets']>): RecordContent => ({
  ...content,
  tickets: { ...content.tickets, ...part },
});

/** What the house asks at its workshops and lectures. */
export const workshopQuestions: Question[] = [
  {
    id: 'q-need',
    ask: 'Is there anything we should prepare for you?',
    answer: 'long',
    choices: [],
    needed: false,
    of: 'both',
    consent: '',
  },
  {
    id: 'q-phone',
    ask: 'A number for the day itself',
    answer: 'telephone',
    choices: [],
    needed: true,
    of: 'buyer',
    consent: '',
  },
  {
    id: 'q-photo',
    ask: 'Photographs',
    answer: 'consent',
    choices: [],
    needed: false,
    of: 'companion',
    consent: 'I may be seen in pictures that Tallow Yard takes of the day.',
  },
];

/** A page of plain words as a PDF (ISO 32000-1), small enough to be written by hand. */
export function smallPdf(words: string): Buffer {
  const text = `BT /F1 18 Tf 60 740 Td (${words.replace(/[()\\]/g, ' ')}) Tj ET`;
  const parts = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${text.length} >>\nstream\n${text}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let body = '%PDF-1.4\n';
  const starts = parts.map((part, i) => {
    const at = body.length;
    body += `${i + 1} 0 obj\n${part}\nendobj\n`;
    return at;
  });
  const table = body.length;
  const rows = starts.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  body += `xref\n0 ${parts.length + 1}\n0000000000 65535 f \n${rows}trailer << /Size ${parts.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
  return Buffer.from(body, 'latin1');
}

/** What the demo's records say beyond dates and prices: each thing at least once. */
export function completions(readingList: Omit<RecordDocument, 'id' | 'title' | 'who' | 'from'>): Completion[] {
  return [
    [
      'json:YS-04',
      'the evening is complete',
      (content) => ({
        ...withTickets(content, {
          levels: content.tickets.levels.map((level, i) =>
            i === 0 ? { ...level, words: 'unreserved, with a cup of tea' } : level,
          ),
          closes: { kind: 'before', amount: 1, unit: 'days' },
          closesWhy: 'the supper is ordered the day before',
          mostPerOrder: 6,
          extras: [
            { id: 'supper', name: 'Supper', price: 1400, quantity: 40, words: 'chowder, or beans, at the long table' },
          ],
          questions: workshopQuestions.map((question) => ({ ...question, id: `${question.id}-lamp` })),
        }),
        hashtags: ['LampLecture', 'WhatTheTideKeeps'],
        lineUp: [
          ...content.lineUp.map((act) => ({ ...act, role: 'speaker' })),
          newEntry('host', 'Bettany Moss', 'moderator'),
        ],
        programme: [
          {
            id: 'g1',
            start: '19:00',
            end: '19:45',
            title: 'What the tide keeps',
            names: content.lineUp[0]?.name ?? '',
            role: 'speaker',
            room: '',
            performanceId: null,
          },
          {
            id: 'g2',
            start: '20:15',
            end: '21:00',
            title: 'Questions, and things brought along',
            names: 'Bettany Moss',
            role: 'moderator',
            room: 'foyer',
            performanceId: null,
          },
        ],
        documents: [{ id: 'd1', ...readingList, title: 'Reading list', who: 'anyone', from: null }],
        links: [
          {
            id: 'k1',
            use: 'more',
            label: 'The tide tables',
            to: { kind: 'address', href: 'https://tides.example/marrowby' },
            newWindow: true,
          },
          { id: 'k2', use: 'more', label: 'Where we are', to: { kind: 'map' }, newWindow: false },
        ],
        linkChoices: [
          {
            id: 'w1',
            channel: 'hearthside',
            noticeId: null,
            to: { kind: 'page', channel: 'lectern' },
            reason: 'the programme stands on our own page',
          },
        ],
        words: {
          ...content.words,
          full: withFigure(content.words.full, content.pictures[0]?.pictureId, 'The slipway at low water'),
        },
      }),
    ],
    [
      'json:YS-20',
      'all three nights at one price',
      (content) =>
        withTickets(content, {
          levels: [...content.tickets.levels, newLevel('all', 'All three nights', 3900, { covers: { kind: 'all' } })],
        }),
    ],
    [
      'json:YS-28',
      'four mornings at one price',
      (content) =>
        withTickets(content, {
          levels: [
            ...content.tickets.levels,
            newLevel('four', 'Four mornings', 2000, {
              covers: { kind: 'any', n: 4 },
              words: 'a child, and whoever brings it',
            }),
          ],
        }),
    ],
    [
      'json:YS-25',
      'catering, and a word for the neighbours',
      (content) =>
        withTickets(content, {
          total: 300,
          serviceFee: 100,
          letter: {
            words: 'The court is open to the sky: bring something for the rain.',
            several: 'The court is open to the sky: one blanket is lent for every two of you.',
          },
          tax: 'included',
          showLeft: 20,
          closes: { kind: 'before', amount: 3, unit: 'days' },
          closesWhy: 'for the catering',
          extras: [{ id: 'shirt', name: 'Shirt', price: 2200, quantity: 120, words: 'screen-printed in the court' }],
          coupons: [
            {
              id: 'near',
              code: 'WICKERLANE',
              off: { kind: 'percent', percent: 20 },
              uses: 50,
              from: null,
              until: '2027-05-31',
              levels: [],
            },
          ],
        }),
    ],
    [
      'json:YS-17',
      'for members',
      (content) => ({
        ...content,
        eventType: 'talk',
        publicity: { ...content.publicity, visibility: 'public' },
        audience: { who: 'members' },
        toFollow: { lineUp: 'with whoever has the lamp' },
      }),
    ],
    [
      'json:YS-22',
      'how members show it',
      (content) => withTickets(content, { membersProof: 'with the card at the door' }),
    ],
    [
      'json:YS-24',
      'for the friends of the yard',
      (content) => ({ ...content, audience: { who: 'group', name: 'Friends of the yard' } }),
    ],
    ['json:YS-21', 'a quiet sale', (content) => ({ ...content, unlistedOn: ['gatefold'] })],
    [
      'json:YS-15',
      'the ball has a page of its own',
      (content) => ({
        ...content,
        links: [
          { id: 'k1', use: 'buy', label: 'Tickets from the ferrymen', to: { kind: 'tickets' }, newWindow: false },
        ],
        leadsAway: 'k1',
      }),
    ],
    [
      'ics:ink-by-the-inch-2027@tallowyard.example',
      'entry is free',
      (content) => withTickets(content, { mode: 'free entry' }),
    ],
    ['ics:repair-bench-2027@tallowyard.example', 'one line', (content) => ({ ...content, oneLineOn: ['lectern'] })],
    [
      'csv:TY-090',
      'after the evening',
      (content) => ({
        ...content,
        after: {
          recording: { href: 'https://watch.example/stock-taking', shown: false },
          pictures: { ids: [], shown: false },
          setList: { text: 'Forty questions, and the soup.', shown: true },
        },
      }),
    ],
    [
      'csv:TY-101',
      'hashtags, and something to hear',
      (content) => ({
        ...content,
        hashtags: ['HarpAndTape', 'TallowYard'],
        sound: 'https://listen.example/quarry-one',
        guests: { shown: true, write: false },
      }),
    ],
  ];
}

function withFigure(full: string, pictureId: string | undefined, caption: string): string {
  return pictureId === undefined
    ? full
    : `${full}<figure data-picture="${pictureId}" data-side="right" data-size="half"><figcaption>${caption}</figcaption></figure>`;
}
