import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { channelIdSchema } from '@/core/base/ids';
import { channelRowSchema } from '@/core/listing/channel-row';
import { connectionOf, putChannel } from './channels';
import { openDatabase, transaction } from './database';
import { isSealed, keyFile, openKey, seal, unseal } from './sealed';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-sealed-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => path.join(folder, name);
const modeOf = (file: string) => (statSync(file).mode & 0o777).toString(8);

test('what is sealed opens with its key for its owner alone, and never twice the same', () => {
  const [key, other] = [openKey(at('one.key')), openKey(at('two.key'))];
  const sealed = seal(key, 'gatefold', 'päss · word');
  expect([isSealed(sealed), isSealed('{"token":"x"}'), sealed.includes('word')]).toEqual([true, false, false]);
  expect(unseal(key, 'gatefold', sealed)).toBe('päss · word');
  expect(seal(key, 'gatefold', 'päss · word')).not.toBe(sealed);
  // With one character otherwise in each place, too.
  const [head = '', id = '', body = ''] = sealed.split('.');
  const changed = [0, 5, 20, body.length - 2].map((i) =>
    [head, id, `${body.slice(0, i)}${body[i] === 'A' ? 'B' : 'A'}${body.slice(i + 1)}`].join('.'),
  );
  expect([
    unseal(key, 'lectern', sealed),
    unseal(other, 'gatefold', sealed),
    unseal(key, 'gatefold', `v1.${id}.AAAA`),
    unseal(key, 'gatefold', 'nothing of the sort'),
    ...changed.map((text) => unseal(key, 'gatefold', text)),
  ]).toEqual(Array(8).fill(null));
});

test('a key is made once, for its owner alone; one that others read, or that is none, is refused', () => {
  const made = openKey(at('deep/house.key'));
  expect([openKey(at('deep/house.key')).id, modeOf(at('deep/house.key')), readdirSync(at('deep'))]).toEqual([
    made.id,
    '600',
    ['house.key'],
  ]);
  chmodSync(at('deep/house.key'), 0o640);
  expect(() => openKey(at('deep/house.key'))).toThrow(/chmod 600/);
  writeFileSync(at('short.key'), 'c2hvcnQ=', { mode: 0o600 });
  expect(() => openKey(at('short.key'))).toThrow(/is no key/);
});

test.each([
  [{}, '/srv/house', '/srv/house.key'],
  [{}, '/srv/house/', '/srv/house.key'],
  [{ NUNTIAX_KEY_FILE: '' }, '/srv/house', '/srv/house.key'],
  [{ NUNTIAX_KEY_FILE: '/keys/a' }, '/srv/house', '/keys/a'],
])('with %j the key of %s is %s', (env, data, file) => {
  expect(keyFile(data, env)).toBe(file);
});

const secret = 'a-secret-that-nobody-reads';
const lectern = channelIdSchema.parse('lectern');
const connect = (db: ReturnType<typeof openDatabase>) =>
  transaction(db, (tx) =>
    putChannel(
      tx,
      channelRowSchema.parse({
        id: 'lectern',
        kind: 'lectern',
        name: 'Lectern',
        shortName: 'Lectern',
        settings: {},
        through: null,
        connected: true,
        audience: { who: 'everyone' },
      }),
      { address: 'https://l.example', credentials: { token: secret }, knownAs: 'us', at: 1 },
      'Maren',
    ),
  );
/** Files of the folder in which the secret stands as it is. */
const showing = () =>
  readdirSync(folder).filter((name) => statSync(at(name)).isFile() && readFileSync(at(name)).includes(secret));

test('no file of the house shows a credential; its folder and database are for its owner', () => {
  const db = openDatabase(folder);
  connect(db);
  expect([connectionOf(db, lectern)?.credentials, showing()]).toEqual([{ token: secret }, []]);
  expect([modeOf(folder), modeOf(at('nuntiax.sqlite')), modeOf(at('nuntiax.sqlite-wal'))]).toEqual([
    '700',
    '600',
    '600',
  ]);
  db.close();
});

test('what an earlier program kept open is sealed when it is opened, and stands nowhere any more', () => {
  const told = jest.spyOn(console, 'log').mockImplementation(() => undefined);
  const before = openDatabase(folder);
  connect(before);
  before.run(`UPDATE channels SET credentials = '${JSON.stringify({ token: secret })}'`);
  before.close();
  chmodSync(folder, 0o755);
  expect(showing()).not.toEqual([]);
  const db = openDatabase(folder);
  expect([connectionOf(db, lectern)?.credentials, showing(), modeOf(folder)]).toEqual([{ token: secret }, [], '700']);
  expect(readdirSync(folder).filter((name) => name.includes('trial'))).toEqual([]);
  db.close();
  expect(told.mock.calls.flat().join(' ')).toMatch(/sealed now/);
  told.mockRestore();
});

test('with another key nothing is lost: the place is asked to sign in again, and opens once its key is back', () => {
  const told = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const first = openDatabase(folder);
  connect(first);
  first.close();
  const own = process.env.NUNTIAX_KEY_FILE;
  process.env.NUNTIAX_KEY_FILE = at('other.key');
  const other = openDatabase(folder);
  expect([connectionOf(other, lectern)?.credentials, connectionOf(other, lectern)?.knownAs]).toEqual([{}, 'us']);
  other.close();
  expect(told.mock.calls.flat().join(' ')).toMatch(/lectern do not open/);
  if (own === undefined) delete process.env.NUNTIAX_KEY_FILE;
  else process.env.NUNTIAX_KEY_FILE = own;
  const again = openDatabase(folder);
  expect([connectionOf(again, lectern)?.credentials, existsSync(at('nuntiax.sqlite'))]).toEqual([
    { token: secret },
    true,
  ]);
  again.close();
  told.mockRestore();
});
