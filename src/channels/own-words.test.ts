import type { AboutUs } from '@/core/facts/facts';
import { mapAddress } from '@/core/facts/map-address';
import { artistSchema, type Artist } from '@/core/record/directory';
import { newEntry, newLevel, newNotice, newPicture, newTickets } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { performance, yard } from '@/core/testing/samples';
import { plainRow } from './channels';
import type { SurveyInput } from './survey-shapes';
import { noticePart } from '@/core/listing/parts';
import { bareListing, codes, listingOf, shownOn } from './testing/fixture';

/*
 * What a house, an act and a seller say in words of their own: each reaches the channels that have a place for it, and
 * is told on the others.
 */

const aboutUs = (part: Partial<AboutUs>): Partial<SurveyInput> => ({
  aboutUs: { mail: '', map: '', logo: null, ...part },
});
const levels = [newLevel('s', 'Standard', 2200, { taxBasisPoints: 750 }), newLevel('f', 'Friend', 0)];
const tickets = (part: Partial<RecordContent['tickets']>) => ({ tickets: newTickets({ levels, ...part }) });
const to = (kind: 'map' | 'venue') => ({
  links: [{ id: 'k', use: 'more' as const, label: 'Where', to: { kind }, newWindow: false }],
});

test.each<[string, Partial<RecordContent>, string, Record<string, string | undefined>, Partial<SurveyInput>?]>([
  ['a service fee', tickets({ serviceFee: 150 }), 'gatefold', { 'service-fee': 'service fee €1.50' }],
  ['none', tickets({}), 'gatefold', { 'service-fee': undefined, tax: undefined, 'seats-left': undefined }],
  [
    'the fee in the price',
    tickets({ serviceFee: 150 }),
    'hearthside',
    { price: 'free to €22, plus €1.50 service fee' },
  ],
  ['tax and seats left', tickets({ tax: 'none', showLeft: 20 }), 'gatefold', { tax: 'none', 'seats-left': '20' }],
  ['tax in a level', tickets({}), 'gatefold', { 'tax-rate@s': '7.5', 'tax-rate@f': undefined }],
  [
    'the seller’s letter',
    tickets({ letter: { words: 'Bring a lamp.', several: 'Bring two.' } }),
    'gatefold',
    { letter: 'Bring a lamp.', 'letter-several': 'Bring two.' },
  ],
  [
    'tokens in the letter and the refunds',
    tickets({ refunds: 'Until {{ weekday }}', letter: { words: '{{ title }} at {{ start }}', several: '{{ day }}' } }),
    'gatefold',
    { letter: 'Odalys Quarry at 19:30', 'letter-several': '14 March', refunds: 'Until Sunday' },
  ],
  ['who comes, unless it is asked for', {}, 'hearthside', { 'guests-shown': 'no', 'guests-write': 'no' }],
  [
    'who comes',
    { guests: { shown: true, write: false } },
    'hearthside',
    { 'guests-shown': 'yes', 'guests-write': 'no' },
  ],
  ['what is to be heard', { sound: 'https://a.example/1' }, 'lectern', { sound: 'https://a.example/1' }],
  ['the street', {}, 'lectern', { street: '9 Wicker Lane' }],
  ['the street, to a register', {}, 'gatefold', { street: '9 Wicker Lane' }],
  ['the place on a map', to('map'), 'lectern', { 'link-address@k': 'geo:53.35,-6.26' }],
  [
    'the place on the house’s own map',
    to('map'),
    'lectern',
    { 'link-address@k': 'https://map.example/53.35/-6.26' },
    aboutUs({ map: 'https://map.example/{lat}/{lon}' }),
  ],
  [
    'no point, no map',
    to('map'),
    'lectern',
    { 'link-address@k': undefined },
    { venues: new Map([[yard.id, { ...yard, point: null }]]) },
  ],
])('%s', (_, part, channel, shown, more = {}) => {
  const proof = shownOn(part, channel, more);
  expect(Object.fromEntries(Object.keys(shown).map((key) => [key, proof[key]]))).toEqual(shown);
});

test.each<[string, string, string]>([
  ['map', 'Find us: {{ map }}', 'Find us: geo:53.35,-6.26'],
  ['house_mail', 'Write to {{ house_mail }}', 'Write to desk@yard.example'],
])('the token %s is filled', (_, teaser, said) => {
  const words = { line: '', teaser, short: '', full: '', access: '', age: '', drafted: [] };
  expect(shownOn({ words }, 'lectern', aboutUs({ mail: 'desk@yard.example' })).teaser).toBe(said);
});

test('a point is written to a metre or so, and a pattern takes both of its places wherever they are', () => {
  const point = { lat: -33.123456789, lon: 151 };
  expect([
    mapAddress(point, { map: '' }),
    mapAddress(point, { map: 'https://m.example/#{lon};{lat};{lat}' }),
    mapAddress(null, { map: 'https://m.example/{lat}{lon}' }),
  ]).toEqual(['geo:-33.12346,151', 'https://m.example/#151;-33.12346;-33.12346', '']);
});

describe('acts in their own words', () => {
  const artist = (id: string, part: Partial<Artist>) => artistSchema.parse({ id, name: `Act ${id}`, ...part });
  const artists = new Map(
    [
      artist('1', { words: ' A harp. ', site: 'https://one.example/', links: ['https://more.example/'] }),
      artist('2', {}),
      artist('3', { links: ['https://three.example/'] }),
    ].map((item) => [item.id, item]),
  );
  const lineUp = ['3', '2', '1', '1', null].map((artistId, i) =>
    newEntry(`e${i}`, `Name ${i}`, 'support', { artistId }),
  );

  test('each once, in the order of the billing; who says nothing is not there', () => {
    const shown = shownOn({ lineUp }, 'lectern', { artists });
    expect(Object.fromEntries(Object.entries(shown).filter(([key]) => key.startsWith('act')))).toEqual({
      'act@3': 'Act 3',
      'act-links@3': 'https://three.example/',
      'act@1': 'Act 1',
      'act-words@1': 'A harp.',
      'act-links@1': 'https://one.example/ https://more.example/',
    });
  });
  test('a channel without a place for it says so', () => {
    const left = (channel: string) =>
      listingOf({ lineUp }, channel, { artists }).findings.flatMap((f) => (f.code === 'left-out-here' ? f.what : []));
    expect(
      [left('hearthside'), left('lectern')].map((what) => what.includes('what the acts say of themselves')),
    ).toEqual([true, false]);
  });
});

test('the logo goes where there is a row for it, whole', () => {
  const logo = newPicture({ id: 'ab'.repeat(32), width: 2000, height: 1000 }, { alt: 'The yard' });
  const of = (channel: string) => listingOf({}, channel, aboutUs({ logo })).proof.logo;
  expect(of('lectern')).toMatchObject({
    kind: 'picture',
    alt: 'The yard',
    source: { pictureId: logo.pictureId, crop: { x: 0, y: 0, w: 2000, h: 1000 }, width: 1600, height: 800 },
  });
  expect(of('hearthside')).toBeUndefined();
});

describe('hashtags behind words by hand', () => {
  const long = 'x'.repeat(1800 - ' #Harp'.length);
  const body = (words: string, hashtags: boolean, tags = ['Harp', 'Night']) => {
    const part = { hashtags: tags, notices: [newNotice('n', 'hearthside-posts', { words, hashtags })] };
    return [shownOn(part, 'hearthside-posts').body, codes(part, 'hearthside-posts').includes('notes hashtags-out')];
  };
  test.each<[string, Parameters<typeof body>, [string, boolean]]>([
    ['where that is wanted', ['Come along.', true], ['Come along. #Harp #Night', false]],
    ['where it is not', ['Come along.', false], ['Come along.', false]],
    ['one that stands there', ['Come to the #harp.', true], ['Come to the #harp. #Night', false]],
    ['one that only begins so', ['Come to the #harps.', true], ['Come to the #harps. #Harp #Night', false]],
    ['as many as fit, the rest is told', [long, true], [`${long} #Harp`, true]],
    ['one that fits behind one that does not', [long, true, ['Harbour', 'Harp']], [`${long} #Harp`, true]],
  ])('%s', (_, args, expected) => expect(body(...args)).toEqual(expected));
});

describe('a channel for some', () => {
  const there = (who: RecordContent['audience'], alone?: boolean) =>
    [
      { who: 'everyone' as const },
      { who: 'members' as const },
      { who: 'group' as const, name: ' friends OF the yard' },
    ].map((audience) => {
      const channels = [plainRow('lectern', { audience: { ...who, ...(alone === undefined ? {} : { alone }) } })];
      return listingOf({ audience }, 'lectern', { channels }).down;
    });
  test.each<[RecordContent['audience'], boolean | undefined, unknown[]]>([
    [{ who: 'everyone' }, undefined, [null, 'not for them', 'not for them']],
    [{ who: 'members' }, undefined, [null, null, 'not for them']],
    [{ who: 'members' }, true, ['no use', null, 'not for them']],
    [{ who: 'members' }, false, [null, null, 'not for them']],
    [{ who: 'group', name: 'Friends of the yard' }, true, ['no use', 'not for them', null]],
    [{ who: 'everyone' }, true, [null, 'not for them', 'not for them']],
  ])('%j, alone: %s', (who, alone, expected) => expect(there(who, alone)).toEqual(expected));
});

test('what a kind has no place for is told there, each by its own words', () => {
  const part = {
    ...tickets({
      serviceFee: 150,
      tax: 'included',
      showLeft: 10,
      letter: { words: 'Bring a lamp.', several: '' },
      outlets: [{ id: 'o', name: 'P', channel: 'pennyseat', link: null, allocation: 20, fee: null, trackAs: 'via' }],
    }),
    sound: 'https://a.example/1',
    guests: { shown: false, write: true },
    performances: [performance('p1', '2027-03-14')],
  };
  const found = listingOf(part, 'pennyseat', { channels: [plainRow('pennyseat')] }).findings.flatMap((f) =>
    f.code === 'left-out-here' ? [[f.weight, ...f.what]] : [],
  );
  expect(found).toEqual([
    [
      'notes',
      'what is to be heard',
      'whether those who come are seen and may write',
      'our service fee',
      'whether prices hold tax',
      'the tax rate of price levels',
      'how many are left',
      'our words in the letter to who bought',
      'whose the pictures are',
    ],
  ]);
});

describe('by hand, where the place has a closed list', () => {
  const hand = (channel: string, field: string, value: string) => {
    const part = { ...tickets({ tax: 'included' }), overrides: [{ channel, field, value, from: '' }] };
    const channels = [plainRow(channel)];
    const { proof, findings } = listingOf(part, channel, { channels });
    const [shown] = Object.entries(proof).flatMap(([key, item]) =>
      key === field && item.kind === 'text' ? [item.text] : [],
    );
    return [shown, findings.some((f) => f.code === 'not-on-list' && f.weight === 'stops')];
  };
  test.each<[string, Parameters<typeof hand>, [string | undefined, boolean]]>([
    ['a category that is there', ['lectern', 'category', 'stage'], ['stage', false]],
    ['two of them', ['lectern', 'category', 'stage, late'], ['stage, late', false]],
    ['one twice', ['lectern', 'category', 'late, late'], ['music', true]],
    ['two where one is taken', ['marrowby-diary', 'category', 'Music, Talks'], ['Music', true]],
    ['one that is not there', ['marrowby-diary', 'category', 'Jazz'], ['Music', true]],
    ['none', ['lectern', 'category', ''], [undefined, false]],
    ['tax in another word', ['gatefold', 'tax', 'a bit'], ['included', true]],
    ['tax in the other word', ['gatefold', 'tax', 'none'], ['none', false]],
    ['another publisher', ['hearthside', 'publisher', 'person'], ['page', true]],
    ['a field that is open', ['lectern', 'place', 'Anywhere'], ['Anywhere', false]],
  ])('%s', (_, args, expected) => expect(hand(...args)).toEqual(expected));
});

test.each([
  ['what can be taken back', 'hearthside', ['warns twice-there']],
  ['a letter, which cannot', 'postbag', ['notes twice-sent']],
])('what is there twice, of %s', (_, channel, expected) => {
  const notices = [newNotice('n', 'postbag', { words: 'Dear all', segment: 'members' })];
  const part = channel === 'postbag' ? noticePart('n') : 0;
  const twin = { id: 'other', publicUrl: 'https://there.example/2', etag: null, link: null, lapsesAt: null };
  const listings = [bareListing(channel, part, { twins: [twin] })];
  const told = codes({ notices }, channel, { channels: [plainRow(channel)], listings });
  expect(told.filter((code) => code.includes('twice'))).toEqual(expected);
});
