import { orRefused } from '@/desk/house/refusal';

const failing = (error: unknown) => () => {
  throw error as Error;
};
const saidOf = (error: unknown) => orRefused(failing(error), (words) => words);

beforeAll(() => void jest.spyOn(console, 'error').mockImplementation(() => undefined));
afterAll(() => jest.restoreAllMocks());

test.each<[string, RegExp]>([
  ['SQLITE_FULL', /disk of the data folder is full/],
  ['SQLITE_IOERR', /disk of the data folder is full/],
  ['SQLITE_IOERR_WRITE', /disk of the data folder is full/],
  ['SQLITE_BUSY', /Another program holds the data/],
  ['SQLITE_BUSY_SNAPSHOT', /Another program holds the data/],
  ['SQLITE_LOCKED', /Another program holds the data/],
  ['SQLITE_READONLY_DBMOVED', /may not be written to/],
  ['SQLITE_CORRUPT', /did not take it \(SQLITE_CORRUPT\)/],
])('%s is said in words, whoever wrapped it', (code, words) => {
  expect(saidOf({ code })).toMatch(words);
  expect(saidOf(new Error('a query failed', { cause: Object.assign(new Error(code), { code }) }))).toMatch(words);
});

test.each([[new Error('a fault of ours')], [{ code: 'ECONNRESET' }], ['text'], [null]])(
  'what is no matter of the data folder is thrown on: %p',
  (error) => expect(() => saidOf(error)).toThrow(),
);

test('what is done is given back', () =>
  expect(
    orRefused(
      () => 7,
      () => 0,
    ),
  ).toBe(7));
