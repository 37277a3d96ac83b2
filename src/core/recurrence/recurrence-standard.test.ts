import { occurrences } from './recurrence';

/** Dates in short: `1997-09: 2 9` stands for 2 and 9 September 1997. */
function spelled(short: string): string[] {
  return short.split(';').flatMap((month) => {
    const [head = '', days = ''] = month.trim().split(': ');
    return days.split(' ').flatMap((day) => {
      const [from = 0, to = from] = day.split('-').map(Number);
      return Array.from({ length: to - from + 1 }, (_, i) => `${head}-${String(from + i).padStart(2, '0')}`);
    });
  });
}

/*
 * The examples of the standard itself (RFC 5545, section 3.8.5.3), at 09:00 in New York, with the dates that it gives
 * for them. Where it goes on for ever, the dates that it names are asked for.
 */
test.each<[string, string, string, string]>([
  ['daily for ten occurrences', '1997-09-02', 'FREQ=DAILY;COUNT=10', '1997-09: 2-11'],
  [
    'daily until 24 December',
    '1997-09-02',
    'FREQ=DAILY;UNTIL=19971224T000000Z',
    '1997-09: 2-30; 1997-10: 1-31; 1997-11: 1-30; 1997-12: 1-23',
  ],
  ['every ten days, five times', '1997-09-02', 'FREQ=DAILY;INTERVAL=10;COUNT=5', '1997-09: 2 12 22; 1997-10: 2 12'],
  [
    'every day in January, for three years',
    '1998-01-01',
    'FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA',
    '1998-01: 1-31; 1999-01: 1-31; 2000-01: 1-31',
  ],
  [
    '… said the other way',
    '1998-01-01',
    'FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1',
    '1998-01: 1-31; 1999-01: 1-31; 2000-01: 1-31',
  ],
  [
    'weekly for ten occurrences',
    '1997-09-02',
    'FREQ=WEEKLY;COUNT=10',
    '1997-09: 2 9 16 23 30; 1997-10: 7 14 21 28; 1997-11: 4',
  ],
  [
    'weekly until 24 December',
    '1997-09-02',
    'FREQ=WEEKLY;UNTIL=19971224T000000Z',
    '1997-09: 2 9 16 23 30; 1997-10: 7 14 21 28; 1997-11: 4 11 18 25; 1997-12: 2 9 16 23',
  ],
  [
    'on Tuesday and Thursday for five weeks',
    '1997-09-02',
    'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
    '1997-09: 2 4 9 11 16 18 23 25 30; 1997-10: 2',
  ],
  [
    'every other week on three days',
    '1997-09-01',
    'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR',
    '1997-09: 1 3 5 15 17 19 29; 1997-10: 1 3 13 15 17 27 29 31; 1997-11: 10 12 14 24 26 28; 1997-12: 8 10 12 22',
  ],
  [
    'every other week on two days, eight times',
    '1997-09-02',
    'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
    '1997-09: 2 4 16 18 30; 1997-10: 2 14 16',
  ],
  [
    'the first Friday of ten months',
    '1997-09-05',
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '1997-09: 5; 1997-10: 3; 1997-11: 7; 1997-12: 5; 1998-01: 2; 1998-02: 6; 1998-03: 6; 1998-04: 3; 1998-05: 1; 1998-06: 5',
  ],
  [
    'the first Friday until 24 December',
    '1997-09-05',
    'FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR',
    '1997-09: 5; 1997-10: 3; 1997-11: 7; 1997-12: 5',
  ],
  [
    'the first and last Sunday of every other month',
    '1997-09-07',
    'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
    '1997-09: 7 28; 1997-11: 2 30; 1998-01: 4 25; 1998-03: 1 29; 1998-05: 3 31',
  ],
  [
    'the last Monday but one, for six months',
    '1997-09-22',
    'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
    '1997-09: 22; 1997-10: 20; 1997-11: 17; 1997-12: 22; 1998-01: 19; 1998-02: 16',
  ],
  [
    'the last day but two',
    '1997-09-28',
    'FREQ=MONTHLY;BYMONTHDAY=-3;COUNT=6',
    '1997-09: 28; 1997-10: 29; 1997-11: 28; 1997-12: 29; 1998-01: 29; 1998-02: 26',
  ],
  [
    'the 2nd and the 15th',
    '1997-09-02',
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15',
    '1997-09: 2 15; 1997-10: 2 15; 1997-11: 2 15; 1997-12: 2 15; 1998-01: 2 15',
  ],
  [
    'the first and the last day',
    '1997-09-30',
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
    '1997-09: 30; 1997-10: 1 31; 1997-11: 1 30; 1997-12: 1 31; 1998-01: 1 31; 1998-02: 1',
  ],
  [
    'every 18 months, on the 10th to the 15th',
    '1997-09-10',
    'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
    '1997-09: 10-15; 1999-03: 10-13',
  ],
  [
    'every Tuesday of every other month',
    '1997-09-02',
    'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU;COUNT=18',
    '1997-09: 2 9 16 23 30; 1997-11: 4 11 18 25; 1998-01: 6 13 20 27; 1998-03: 3 10 17 24 31',
  ],
  [
    'in June and July',
    '1997-06-10',
    'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
    ['1997', '1998', '1999', '2000', '2001'].flatMap((year) => [`${year}-06: 10`, `${year}-07: 10`]).join('; '),
  ],
  [
    'in three months of every other year',
    '1997-03-10',
    'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
    `1997-03: 10; ${['1999', '2001', '2003'].flatMap((year) => ['01', '02', '03'].map((month) => `${year}-${month}: 10`)).join('; ')}`,
  ],
  [
    'the 1st, 100th and 200th day of every third year',
    '1997-01-01',
    'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
    '1997-01: 1; 1997-04: 10; 1997-07: 19; 2000-01: 1; 2000-04: 9; 2000-07: 18; 2003-01: 1; 2003-04: 10; 2003-07: 19; 2006-01: 1',
  ],
  [
    'the 20th Monday of the year',
    '1997-05-19',
    'FREQ=YEARLY;BYDAY=20MO;COUNT=3',
    '1997-05: 19; 1998-05: 18; 1999-05: 17',
  ],
  [
    'Monday of week 20',
    '1997-05-12',
    'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO;COUNT=3',
    '1997-05: 12; 1998-05: 11; 1999-05: 17',
  ],
  [
    'every Thursday in March',
    '1997-03-13',
    'FREQ=YEARLY;BYMONTH=3;BYDAY=TH;COUNT=11',
    '1997-03: 13 20 27; 1998-03: 5 12 19 26; 1999-03: 4 11 18 25',
  ],
  [
    'every Thursday of the summer',
    '1997-06-05',
    'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8;COUNT=13',
    '1997-06: 5 12 19 26; 1997-07: 3 10 17 24 31; 1997-08: 7 14 21 28',
  ],
  [
    'every Friday the 13th',
    '1998-02-13',
    'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;COUNT=5',
    '1998-02: 13; 1998-03: 13; 1998-11: 13; 1999-08: 13; 2000-10: 13',
  ],
  [
    'the Saturday after the first Sunday',
    '1997-09-13',
    'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13;COUNT=10',
    '1997-09: 13; 1997-10: 11; 1997-11: 8; 1997-12: 13; 1998-01: 10; 1998-02: 7; 1998-03: 7; 1998-04: 11; 1998-05: 9; 1998-06: 13',
  ],
  [
    'the Tuesday after a Monday in November, every four years',
    '1996-11-05',
    'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8;COUNT=3',
    '1996-11: 5; 2000-11: 7; 2004-11: 2',
  ],
  [
    'the third of Tuesday, Wednesday, Thursday',
    '1997-09-04',
    'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3',
    '1997-09: 4; 1997-10: 7; 1997-11: 6',
  ],
  [
    'the last weekday but one',
    '1997-09-29',
    'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=7',
    '1997-09: 29; 1997-10: 30; 1997-11: 27; 1997-12: 30; 1998-01: 29; 1998-02: 26; 1998-03: 30',
  ],
  [
    'a day that not every month has',
    '2007-01-15',
    'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5',
    '2007-01: 15 30; 2007-02: 15; 2007-03: 15 30',
  ],
])('%s', (_, first, rule, dates) => {
  const made = occurrences({ rule, first, times: ['09:00'], except: [], extra: [], zone: 'America/New_York' });
  expect(made.ok ? made.value.map((occurrence) => occurrence.date) : made.error).toEqual(spelled(dates));
});

/*
 * Yearly rules that name their days in several ways at once, each day having to meet them all (section 3.3.10, notes 1
 * and 2 and the table above them); the dates are those of another implementation of the standard.
 */
test.each<[string, string, string]>([
  [
    'FREQ=YEARLY;BYDAY=WE,FR,SU,TH;BYYEARDAY=-357,50,171;COUNT=14',
    '2027-02-19',
    '2027-02: 19; 2027-06: 20; 2029-06: 20; 2030-01: 9; 2030-06: 20; 2031-01: 9; 2031-02: 19; 2031-06: 20; 2032-02: 19; 2033-01: 9; 2034-02: 19; 2035-06: 20; 2036-01: 10; 2036-06: 19',
  ],
  [
    'FREQ=YEARLY;BYDAY=WE,FR;BYMONTHDAY=-15,4,20,22;BYWEEKNO=-28,9,38;COUNT=15',
    '2026-09-16',
    '2026-09: 16; 2027-09: 22; 2028-09: 20 22; 2029-06: 20 22; 2030-09: 20; 2031-06: 20; 2033-03: 4; 2033-06: 22; 2034-09: 20 22; 2035-06: 20 22; 2036-06: 20',
  ],
  [
    'FREQ=YEARLY;BYMONTH=1,4,7;BYDAY=WE,MO,SU;BYMONTHDAY=26;BYWEEKNO=-36,48;COUNT=3',
    '2027-04-26',
    '2027-04: 26; 2028-04: 26; 2032-04: 26',
  ],
  ['FREQ=YEARLY;BYDAY=-1SU;BYYEARDAY=-6,77,241,257;COUNT=2', '2027-12-26', '2027-12: 26; 2032-12: 26'],
  [
    'FREQ=YEARLY;BYDAY=4SU,5TH;BYMONTHDAY=-31,-28,-24,-15,-3,-2,4,7,14,30,31;COUNT=6',
    '2027-02-04',
    '2027-02: 4; 2029-02: 1; 2030-01: 31; 2031-01: 30; 2032-01: 29; 2035-02: 1',
  ],
  [
    'FREQ=YEARLY;BYDAY=MO;BYYEARDAY=1,100,200,300;BYSETPOS=-1;COUNT=5',
    '2027-07-19',
    '2027-07: 19; 2029-01: 1; 2031-10: 27; 2034-04: 10; 2035-01: 1',
  ],
])('%s', (rule, first, dates) => {
  const made = occurrences({ rule, first, times: ['20:00'], except: [], extra: [], zone: 'Europe/Berlin' });
  expect(made.ok ? made.value.map((occurrence) => occurrence.date) : made.error).toEqual(spelled(dates));
});
