import { facts } from '../facts/facts';
import { registrationSchema } from '../record/ticket-schema';
import { performance, sample } from '../testing/samples';
import { contentFindings } from './content-findings';

const now = Date.parse('2027-02-02T10:20Z');
const codes = (closes: string | null, date: object = {}) => {
  const content = sample({
    performances: [performance('p1', '2027-03-14', date)],
    tickets: {
      ...sample().tickets,
      mode: 'registration',
      levels: [],
      registration: registrationSchema.parse({ contact: 'call 555 0142', closes }),
    },
  });
  return contentFindings(facts(content, { code: 'X', venues: new Map(), now }), now).map(({ code }) => code);
};

test('where no date can be reckoned, nothing is past', () => {
  const content = sample({ performances: [performance('p1', '2027-03-14')] });
  const said = facts(content, { code: 'X', venues: new Map(), now });
  const found = (performances: typeof said.performances, at: number) =>
    contentFindings({ ...said, performances }, at)
      .map(({ code }) => code)
      .includes('all-past');
  const over = said.performances[0]?.over ?? 0;
  expect([found([], over + 1), found(said.performances, over), found(said.performances, over + 1)]).toEqual([
    false,
    false,
    true,
  ]);
});

test.each<[string, string | null, object, boolean]>([
  ['until it begins', null, {}, false],
  ['on the day itself', '2027-03-14', {}, false],
  ['after it', '2027-03-15', {}, true],
  ['within its days', '2027-03-15', { lastDate: '2027-03-16' }, false],
  ['over by now', '2027-02-01', {}, true],
  ['the last day is today', '2027-02-02', {}, false],
  ['its date is open', '2027-03-15', { precision: 'open' }, false],
])('one registers %s', (_, closes, date, over) => {
  expect(codes(closes, date).includes('registration-over')).toBe(over);
});
