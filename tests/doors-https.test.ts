import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { TOTP } from 'otpauth';
import { openHouse, type OpenHouse } from '@/house/house';
import { confirmSecondFactor, startSecondFactor } from '@/desk/people/own-account';
import { firstCode, join, letInAnew } from '@/desk/people/invitations';
import { secondFactor, signIn } from '@/desk/people/sign-in';
import { doerOf } from '@/desk/people/who';
import { keeper } from '@/core/testing/doers';

/* A house behind a proxy with https; one that is carried elsewhere with another key; and one that is bound to the world. */

const password = 'seven lanterns over a quiet quay';
const email = 'ines@yard.example';
let folder: string;
let house: OpenHouse;
let cookies: string[];
const cookieOf = (lines: readonly string[]) => lines.map((line) => line.split(';')[0]).join('; ');
const from = (lines: readonly string[] = []) => ({
  headers: new Headers({ cookie: cookieOf(lines) }),
  address: 'here',
});

const mayBind = (data: string, host: string, env: Record<string, string> = {}) => {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', 'src/desk/people/run-may-bind.ts', host],
    { env: { ...process.env, NUNTIAX_ORIGIN: '', NUNTIAX_DATA: data, ...env }, encoding: 'utf8' },
  );
  return { status, said: stdout + stderr };
};

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-https-'));
  process.env.NUNTIAX_ORIGIN = 'https://desk.yard.example';
  house = openHouse(path.join(folder, 'house'), null);
  const code = firstCode(house)?.code;
  const came = await join(house, { code, name: 'Ines', email, password }, from());
  if (!came.ok) throw new Error(JSON.stringify(came.error));
  cookies = came.value.cookies;
});
afterAll(() => {
  house.db.close();
  rmSync(folder, { recursive: true, force: true });
  delete process.env.NUNTIAX_ORIGIN;
});

test('behind https a cookie goes by https alone, and is known again', async () => {
  expect(cookies.every((line) => /; Secure/i.test(line) && /HttpOnly/i.test(line))).toBe(true);
  expect(cookieOf(cookies)).toMatch(/^__Secure-nuntiax\.session_token=/);
  expect((await doerOf(house, from(cookies).headers))?.name).toBe('Ines');
  // The link that lets somebody in leads to where the house is reached.
  const out = letInAnew(house, keeper, email);
  expect(out.ok ? out.value.link : '').toMatch(/^https:\/\/desk\.yard\.example\/join#/);
});

test('carried elsewhere with another key no session and no second factor holds; a way in anew does', async () => {
  const doer = await doerOf(house, from(cookies).headers);
  if (!doer) throw new Error('nobody');
  const started = await startSecondFactor(house, doer, { password }, from(cookies));
  if (!started.ok) throw new Error(JSON.stringify(started.error));
  const digits = () => new TOTP({ secret: started.value.secret, digits: 6, period: 30 }).generate();
  const on = await confirmSecondFactor(house, doer, { code: digits() }, from(cookies));
  expect(on.ok).toBe(true);

  mkdirSync(path.join(folder, 'elsewhere'));
  await house.db.backUp(path.join(folder, 'elsewhere', 'nuntiax.sqlite'));
  const kept = process.env.NUNTIAX_KEY_FILE;
  process.env.NUNTIAX_KEY_FILE = path.join(folder, 'another.key');
  const other = openHouse(path.join(folder, 'elsewhere'), null);
  try {
    expect(await doerOf(other, from(on.ok ? on.value.cookies : []).headers)).toBeNull();
    const entered = await signIn(other, { email, password }, from());
    expect(entered).toMatchObject({ ok: true, value: { next: 'second' } });
    const second = await secondFactor(other, { code: digits() }, from(entered.ok ? entered.value.cookies : []));
    expect(second).toMatchObject({ ok: false, error: { words: expect.stringMatching(/another key/) as string } });
    const out = letInAnew(other, keeper, email);
    const came = await join(other, { code: out.ok ? out.value.code : '', name: 'x', email, password }, from());
    expect(came).toMatchObject({ ok: true, value: { next: 'in' } });
  } finally {
    other.db.close();
    if (kept === undefined) delete process.env.NUNTIAX_KEY_FILE;
    else process.env.NUNTIAX_KEY_FILE = kept;
  }
});

test('beyond this machine it is bound only once somebody can sign in, and says where it is reached', () => {
  const data = path.join(folder, 'house');
  const empty = path.join(folder, 'empty');
  expect(mayBind(empty, '127.0.0.1').status).toBe(0);
  expect(mayBind(empty, '::1').status).toBe(0);
  expect(mayBind(empty, '0.0.0.0')).toMatchObject({
    status: 1,
    said: expect.stringMatching(/nobody can sign in yet/) as string,
  });
  expect(mayBind(data, '0.0.0.0')).toMatchObject({
    status: 1,
    said: expect.stringMatching(/NUNTIAX_ORIGIN/) as string,
  });
  const plain = mayBind(data, '192.168.1.7', { NUNTIAX_ORIGIN: 'http://desk.yard.example' });
  expect(plain).toMatchObject({ status: 0, said: expect.stringMatching(/is not https/) as string });
  const safe = mayBind(data, '0.0.0.0', { NUNTIAX_ORIGIN: 'https://desk.yard.example' });
  expect(safe).toEqual({ status: 0, said: 'Others reach this house at https://desk.yard.example.\n' });
  cpSync(data, empty, { recursive: true });
  expect(mayBind(empty, '0.0.0.0', { NUNTIAX_ORIGIN: 'https://desk.yard.example' }).status).toBe(0);
});
