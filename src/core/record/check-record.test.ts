import fc from 'fast-check';
import { findingWords } from '../findings/finding-words';
import { record } from '../testing/any-record';
import { performance, sample, venues } from '../testing/samples';
import { fieldOf } from '../findings/finding';
import { checkRecord } from './check-record';
import { newTickets } from './new-record';

const level = { ...newTickets().levels[0], id: 'l', name: 'Standing', price: 1800, quantity: null };

test.each<[string, object, string, string, string]>([
  ['no title', { title: ' ' }, 'title', 'title-empty', 'title'],
  ['a title that is a number', { title: 7 }, 'title', 'title-empty', 'title'],
  ['no day', { performances: [performance('p', '')] }, 'performances.0.date', 'date-malformed', 'YYYY-MM-DD'],
  [
    'no start',
    { performances: [performance('p', '2027-03-14', { start: '' })] },
    'performances.0.start',
    'start-empty',
    '',
  ],
  [
    'a start that is no time',
    { performances: [performance('p', '2027-03-14', { start: '7' })] },
    'performances.0.start',
    'time-malformed',
    '“7”',
  ],
  [
    'an end that is empty',
    { performances: [performance('p', '2027-03-14', { end: '' })] },
    'performances.0.end',
    'time-malformed',
    '19:30',
  ],
  [
    'a zone of the moon',
    { performances: [performance('p', '2027-03-14', { zone: 'Moon/Sea' })] },
    'performances.0.zone',
    'zone-unknown',
    'Moon/Sea',
  ],
  [
    'an announcement on no day',
    { publicity: { visibility: 'public', announce: { date: 'soon', time: '10:00', zone: 'UTC' } } },
    'publicity.announce.date',
    'date-malformed',
    '“soon”',
  ],
  [
    'a document from no time on',
    {
      documents: [
        {
          id: 'd',
          fileId: 'a'.repeat(64),
          name: 'x',
          type: 'a/b',
          bytes: 1,
          who: 'anyone',
          from: { date: '2027-01-01', time: '25:00', zone: 'UTC' },
        },
      ],
    },
    'documents.0.from.time',
    'time-malformed',
    '25:00',
  ],
  [
    'a sale that opens on no day',
    {
      tickets: newTickets({ levels: [{ ...level, opens: { kind: 'at', date: '2027-2-1', time: '10:00' } }] as never }),
    },
    'tickets.levels.0.opens.date',
    'date-malformed',
    '2027-2-1',
  ],
  [
    'a sale that opens half an hour before',
    { tickets: newTickets({ levels: [{ ...level, opens: { kind: 'before', amount: 0.5, unit: 'hours' } }] as never }) },
    'tickets.levels.0.opens.amount',
    'number-malformed',
    'number of days or hours',
  ],
  [
    'a price below nothing',
    { tickets: newTickets({ levels: [{ ...level, price: -1 }] as never }) },
    'tickets.levels.0.price',
    'price-malformed',
    'this currency',
  ],
  [
    'a coupon of 120 per cent',
    {
      tickets: newTickets({
        coupons: [
          {
            id: 'c',
            code: 'x',
            off: { kind: 'percent', percent: 120 },
            uses: null,
            from: null,
            until: null,
            levels: [],
          },
        ],
      }),
    },
    'tickets.coupons.0.off.percent',
    'number-malformed',
    'share in per cent',
  ],
  [
    'a coupon until no day',
    {
      tickets: newTickets({
        coupons: [
          {
            id: 'c',
            code: 'x',
            off: { kind: 'percent', percent: 12 },
            uses: null,
            from: null,
            until: 'May',
            levels: [],
          },
        ],
      }),
    },
    'tickets.coupons.0.until',
    'date-malformed',
    '“May”',
  ],
  [
    'money of another world',
    { tickets: newTickets({ currency: 'XXQ' as never }) },
    'tickets.currency',
    'value-refused',
    'ISO 4217',
  ],
  ['a stage that there is none of', { stage: 'sung' }, 'stage', 'value-refused', 'none of those that are known'],
  ['too long a title', { title: 'é'.repeat(900) }, 'title', 'text-too-long', '900 characters'],
  ['too many tags', { tags: Array.from({ length: 21 }, (_, n) => `t${n}`) }, 'tags', 'too-many', '21'],
  ['a video that is no address', { video: 'tape' }, 'video', 'link-malformed', '“tape”'],
  ['a room online that is no address', { online: { keep: 'x', join: null } }, 'online.keep', 'link-malformed', '“x”'],
  ['an audience of nobody we know', { audience: { who: 'ghosts' } }, 'audience.who', 'value-refused', ''],
])('%s: the schema says what is wrong', (_, part, field, code, words) => {
  const checked = checkRecord({ ...sample(), ...part }, venues);
  const found = checked.ok ? [] : checked.error.filter((finding) => fieldOf(finding) === field);
  expect(found.map((finding) => finding.code)).toContain(code);
  expect(found.map((finding) => findingWords(finding)).join(' ')).toContain(words);
});

test.each<[string, object, boolean]>([
  ['on the same day', { start: '20:00', end: '19:00' }, false],
  ['at the very start', { start: '20:00', end: '20:00' }, false],
  ['after midnight', { start: '20:00', end: '01:00', endsNextDay: true }, true],
  ['on a later day of several', { start: '20:00', end: '19:00', lastDate: '2027-03-16' }, true],
  ['on its last day, which is its first', { start: '20:00', end: '19:00', lastDate: '2027-03-14' }, false],
  ['later that evening', { start: '20:00', end: '20:01' }, true],
])('an end %s', (_, part, fits) => {
  const checked = checkRecord({ ...sample(), performances: [performance('p', '2027-03-14', part)] }, venues);
  expect(checked.ok ? [] : checked.error.map((finding) => [fieldOf(finding), finding.code])).toEqual(
    fits ? [] : [['performances.0.end', 'end-before-start']],
  );
});

test.each<[string, object, string | null]>([
  ['at no venue', { venueId: null, roomId: 'nowhere', setUpId: 'none' }, null],
  ['at a venue, in no room', { venueId: 'v1', roomId: null }, null],
  ['in its room', { venueId: 'v1', roomId: 'vat' }, null],
  ['in a room that it does not have', { venueId: 'v1', roomId: 'attic' }, 'roomId room-unknown'],
  ['at a venue that is not known', { venueId: 'v9', roomId: null }, 'venueId venue-unknown'],
  [
    'in a set-up that the room does not have',
    { venueId: 'v1', roomId: 'vat', setUpId: 'round' },
    'setUpId set-up-unknown',
  ],
])('a performance %s', (_, part, found) => {
  const checked = checkRecord({ ...sample(), performances: [performance('p', '2027-03-14', part)] }, venues);
  expect(checked.ok ? [] : checked.error.map((item) => `${fieldOf(item)} ${item.code}`)).toEqual(
    found === null ? [] : [`performances.0.${found}`],
  );
});

/** Every place of a value where a text, a number or a switch stands. */
function leavesOf(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (Array.isArray(value)) return value.flatMap((item, i) => leavesOf(item, [...path, i]));
  if (value !== null && typeof value === 'object')
    return Object.entries(value).flatMap(([key, item]) => leavesOf(item, [...path, key]));
  return value === null ? [] : [path];
}

function withAt(value: unknown, [key, ...rest]: (string | number)[], put: unknown): unknown {
  if (key === undefined) return put;
  const inside = (value as Record<string | number, unknown>)[key];
  const item = withAt(inside, rest, put);
  return Array.isArray(value)
    ? value.map((before: unknown, i) => (i === key ? item : before))
    : { ...(value as object), [key]: item };
}

test('whatever is put anywhere in a record, it is refused at its own place or nowhere, in words of ours', () => {
  const monsters = fc.constantFrom<unknown>(
    '',
    ' ',
    'x\u0000',
    '2027-02-30',
    -1,
    0.5,
    1e12,
    true,
    {},
    [],
    'y'.repeat(9e4),
  );
  fc.assert(
    fc.property(record, fc.nat(), monsters, (content, n, put) => {
      const leaves = leavesOf(content);
      const path = leaves[n % leaves.length] ?? [];
      const checked = checkRecord(withAt(content, path, put), venues);
      const shape = (checked.ok ? [] : checked.error).filter((finding) => fieldOf(finding).startsWith(path.join('.')));
      for (const finding of shape)
        expect(findingWords(finding)).not.toMatch(/invalid|expected|too (small|big)|undefined/i);
    }),
    { numRuns: 1500 },
  );
});
