import { momentCell } from './csv-dates';
import { placed, type PlaceAnswer } from './import-row';

const dublin = { lat: 53.35, lon: -6.26 };
const known = (by: 'venue' | 'town' | 'country' = 'town'): PlaceAnswer => ({
  kind: 'known',
  zone: 'Europe/Dublin',
  point: dublin,
  by,
});
const several: PlaceAnswer = { kind: 'several', choices: [{ value: 'Europe/Dublin', label: 'Ireland' }] as never };
const none: PlaceAnswer = { kind: 'none' };
const place = { venue: 'Yard', town: 'Marrowby', country: 'Ireland' };

test.each<[string, string, PlaceAnswer, string | null, [string | null, boolean, string | null, string | null]]>([
  ['said, and where it lies', 'Europe/Dublin', known(), null, ['Europe/Dublin', true, null, null]],
  ['said otherwise than where it lies', 'Asia/Tokyo', known(), null, ['Asia/Tokyo', false, null, null]],
  ['said, of a place that is not known', 'Asia/Tokyo', none, null, ['Asia/Tokyo', false, null, null]],
  ['of a venue that is known', '', known('venue'), null, ['Europe/Dublin', true, null, null]],
  ['of a town that is known', '', known(), null, ['Europe/Dublin', true, 'zone-by-town', null]],
  ['of a country of one zone', '', known('country'), null, ['Europe/Dublin', true, 'zone-by-country', null]],
  ['not known, and chosen', '', none, 'Asia/Tokyo', ['Asia/Tokyo', false, 'town-unknown', null]],
  ['not known, and not chosen', '', none, null, [null, false, null, 'town-unknown']],
  ['one of several, whatever was chosen', '', several, 'Asia/Tokyo', [null, false, null, 'town-several']],
])('the zone of a place is %s', (_, said, found, chosen, [zone, point, note, ask]) => {
  const answer = placed(said, place, { zone: chosen, find: () => found }, 'zone');
  expect([answer.zone, answer.point !== null, answer.note?.code ?? null, answer.ask?.code ?? null]).toEqual([
    zone,
    point,
    note,
    ask,
  ]);
});

test.each<[string, { date: string; time: string } | null]>([
  ['2027-02-12 10:00', { date: '2027-02-12', time: '10:00' }],
  ['2027-02-12T10:00', { date: '2027-02-12', time: '10:00' }],
  ['12 February 2027, 10am', { date: '2027-02-12', time: '10:00' }],
  ['2027-02-30 10:00', null],
  ['2027-02-12', null],
  ['2027-02-12T10:00Z', null],
  ['12 February 2027, 10am and 2pm', null],
  ['soon', null],
])('a moment in a cell: %s', (text, moment) => {
  if (moment === null) expect(() => momentCell('announce', text)).toThrow();
  else expect(momentCell('announce', text)).toEqual(moment);
});
