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
