import type { ListedEvent } from '@/views/season';
import { groupRows } from './group-rows';

const row = (id: string, date: string): ListedEvent => ({
  id,
  code: id,
  date,
  time: '',
  past: false,
  title: id,
  under: '',
  room: '',
  town: '',
  stage: '',
  price: '',
  left: '',
  cue: '',
  also: '',
  standings: [],
});
const shape = (dates: string[], today: string, past = false) =>
  groupRows(
    dates.map((date, i) => row(`r${i}`, date)),
    today,
    past,
  ).map((line) => (line.kind === 'heading' ? `${line.title} (${line.count})` : line.row.date));

test('weeks begin on Monday; then the rest of the month; then months, with the year where it is another', () => {
  expect(
    shape(
      ['2027-02-02', '2027-02-07', '2027-02-08', '2027-02-14', '2027-02-15', '2027-03-01', '2028-03-01', ''],
      '2027-02-02',
    ),
  ).toEqual([
    'This week (2)',
    '2027-02-02',
    '2027-02-07',
    'Next week (2)',
    '2027-02-08',
    '2027-02-14',
    'Later in February (1)',
    '2027-02-15',
    'March (1)',
    '2027-03-01',
    'March 2028 (1)',
    '2028-03-01',
    'Date open (1)',
    '',
  ]);
  expect(shape(['2027-02-03', '2027-02', '2027-05'], '2027-02-02')).toEqual([
    'This week (1)',
    '2027-02-03',
    'Later in February (1)',
    '2027-02',
    'May (1)',
    '2027-05',
  ]);
  expect(shape(['2027-02-07'], '2027-02-07')).toEqual(['This week (1)', '2027-02-07']);
});

test('past events come newest first, by month', () => {
  expect(shape(['2026-12-31', '2027-01-22', '2027-02-01'], '2027-02-02', true)).toEqual([
    'February (1)',
    '2027-02-01',
    'January (1)',
    '2027-01-22',
    'December 2026 (1)',
    '2026-12-31',
  ]);
  expect(shape([], '2027-02-02')).toEqual([]);
});
