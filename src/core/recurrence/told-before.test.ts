import fc from 'fast-check';
import { told, variedRecords } from '../testing/varied';
import { date, zone } from '../testing/any-record';
import { timesFrom } from './moved-times';
import { editBetween, occurrences, planEdit, ruleDates, ruleText, untilOf } from './recurrence';

const rule = fc
  .tuple(
    fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY', 'HOURLY'),
    fc.constantFrom('', 'INTERVAL=2', 'INTERVAL=3', 'INTERVAL=0'),
    fc.constantFrom('COUNT=5', 'COUNT=12', 'UNTIL=20270601', 'UNTIL=20270601T000000Z', '', 'COUNT=0'),
    fc.constantFrom(
      '',
      'BYDAY=TU',
      'BYDAY=MO,FR',
      'BYDAY=2SU',
      'BYDAY=-1FR',
      'BYMONTHDAY=31',
      'BYMONTHDAY=-1,15',
      'BYMONTH=3,9',
      'BYSETPOS=-1;BYDAY=MO,TU,WE',
      'BYWEEKNO=9',
      'BYYEARDAY=60',
      'BYDAY=XX',
    ),
    fc.constantFrom('', 'WKST=SU', 'WKST=MO'),
  )
  .map(([freq, ...parts]) => [`FREQ=${freq}`, ...parts].filter((part) => part !== '').join(';'));

test('rules give the dates that they gave', () => {
  const drawn = fc.sample(fc.tuple(rule, date, zone, fc.nat({ max: 6 })), { seed: 8, numRuns: 500 });
  expect(
    told(drawn, ([said, first, at, n]) => [
      ruleDates(said, first, at),
      ruleText(said),
      untilOf(said, at),
      occurrences({
        rule: said,
        first,
        times: n % 2 === 0 ? ['19:30'] : ['11:00', '14:00'],
        except: n === 3 ? [first] : [],
        extra: n === 4 ? ['2027-05-05'] : [],
        zone: at,
      }),
    ]),
  ).toMatchSnapshot();
});

test('what an edit of one date does to the others is what it did', () => {
  const records = variedRecords(200).filter((content) => content.performances.length > 1);
  const edits = [
    { start: '20:00' },
    { date: '2027-04-01' },
    { end: '23:00', endsNextDay: false },
    { roomId: 'wick', doors: '18:00' },
    { turn: 'cancelled' as const },
  ];
  expect(
    told(records, ({ performances }, n) => {
      const [first, second] = performances;
      return [
        first && second ? editBetween(first, second) : null,
        edits.flatMap((edit) =>
          (['this', 'later', 'all'] as const).map((scope) =>
            planEdit(performances, performances[n % performances.length]?.id ?? '', scope, edit as never),
          ),
        ),
        ['18:00', '23:30', '00:15'].map((start) =>
          timesFrom(
            { doors: first?.doors ?? '', start: first?.start ?? '', end: '01:00', endsNextDay: n % 2 === 0 },
            start,
          ),
        ),
      ];
    }),
  ).toMatchSnapshot();
});
