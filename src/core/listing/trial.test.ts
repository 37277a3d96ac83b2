import { facts } from '../facts/facts';
import { newLevel, newOutlet, newTickets } from '../record/new-record';
import { performance, sample, venues } from '../testing/samples';
import { trialChecks, trialLine, trialWish } from './trial';

const now = Date.parse('2027-02-02T10:20Z');
const fee = { mode: 'added' as const, basisPoints: 450, fixed: 60, cap: null };
const made = facts(
  sample({
    performances: [performance('p0', '2027-01-14'), performance('p1', '2027-03-14'), performance('p2', '2027-03-20')],
    tickets: newTickets({
      levels: [
        newLevel('m', 'Members', 900, { buyers: 'members', code: 'OURS' }),
        newLevel('w', 'Both nights', 3000, { covers: { kind: 'all' } }),
        newLevel('s', 'Standard', 2200),
      ],
      outlets: [newOutlet('o', 'Gatefold', { channel: 'gatefold', fee })],
      serviceFee: 150,
    }),
  }),
  { code: 'X', venues, now },
);
const wish = trialWish(made, 'gatefold');
const right: Parameters<typeof trialChecks>[2] = {
  pays: { minor: 2509, currency: 'EUR' },
  starts: Date.parse('2027-03-14T19:30:00Z'),
  zone: 'Europe/Dublin',
  letter: 'Your ticket for Odalys Quarry',
};

test('what is tried is the first level that anybody may buy for one night, on the next that is to come', () => {
  expect(wish).toMatchObject({ performance: 'p1', level: 's', currency: 'EUR', zone: 'Europe/Dublin' });
  expect([trialLine('gatefold'), trialLine('a-channel-with-a-long-name')]).toEqual([
    'try gatefold',
    'try a-channel-with-a',
  ]);
  expect(trialWish({ ...made, performances: [] }, 'gatefold')).toBeNull();
  expect(trialWish({ ...made, levels: [] }, 'gatefold')).toBeNull();
  // Elsewhere no fee of Gatefold's is paid.
  expect([wish?.pays, trialWish(made, 'pennyseat')?.pays]).toEqual([2200 + 150 + 60 + 99, 2350]);
});

test.each<[string, Partial<typeof right>, string[]]>([
  ['as it must be', {}, []],
  ['a cent more', { pays: { minor: 2510, currency: 'EUR' } }, ['the buyer pays']],
  ['as much of another money', { pays: { minor: 2509, currency: 'GBP' } }, ['the buyer pays']],
  ['a minute later', { starts: right.starts + 60_000 }, ['it starts']],
  ['the same moment by another clock', { zone: 'America/Vancouver' }, ['it starts']],
  ['the same clock by another name', { zone: 'Eire' }, []],
  ['a letter about something else', { letter: 'Your ticket' }, ['the letter names it']],
  [
    'all of it wrong',
    { pays: { minor: 0, currency: 'EUR' }, starts: 0, letter: '' },
    ['the buyer pays', 'it starts', 'the letter names it'],
  ],
])('%s', (_, part, wrong) => {
  if (!wish) throw new Error('nothing to try');
  const checks = trialChecks(wish, made.title, { ...right, ...part });
  expect(checks.filter((check) => !check.right).map((check) => check.what)).toEqual(wrong);
});

test('of a long title its beginning is enough', () => {
  if (!wish) throw new Error('nothing to try');
  const long = 'Odalys Quarry '.repeat(9);
  const named = (letter: string) => trialChecks(wish, long, { ...right, letter })[2]?.right;
  expect([named(long.slice(0, 50)), named(long.slice(0, 49))]).toEqual([true, false]);
});
