import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Browser, type Page } from '@playwright/test';
import { TOTP } from 'otpauth';
import { freePort } from '../bench/free-port';
import { leave, startDemo, type Demo } from './demo';

/*
 * An empty house as it is started for real use: the first keeper comes in by what the start prints, lets somebody in, and
 * takes him out again. And the demo, whose person one changes at the foot of the places.
 */

const root = path.resolve(import.meta.dirname, '..');
const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-doors-'));
let started: ChildProcess | null = null;
let address = '';
let said = '';

async function startHouse(): Promise<void> {
  const port = await freePort();
  address = `http://127.0.0.1:${port}`;
  const env = { ...process.env, NUNTIAX_DATA: path.join(folder, 'house'), PORT: String(port), NUNTIAX_DEMO: 'yes' };
  started = spawn(process.execPath, ['scripts/start.mjs'], { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] });
  for (const stream of [started.stdout, started.stderr])
    stream?.on('data', (part: Buffer) => (said += part.toString()));
  await expect(() => expect(said).toMatch(/Data {6}/)).toPass({ timeout: 240_000 });
}

test.afterAll(async () => {
  const child = started;
  if (child?.exitCode === null) {
    child.kill('SIGTERM');
    await new Promise((done) => child.once('exit', done));
  }
  rmSync(folder, { recursive: true, force: true });
});

const password = 'seven lanterns over a quiet quay';

/** The rules of accessibility that hold on every screen. */
async function accessible(page: Page, but: string[] = []) {
  const { violations } = await new AxeBuilder({ page }).disableRules(but).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 90)).join(' ')}`)).toEqual(
    [],
  );
}

/** Changes to another person of the demo; that leads to the season, with everything fetched anew. */
async function changeTo(page: Page, label: string) {
  const arrived = page.waitForEvent('load');
  await page.getByLabel('Change to another person of the demo').selectOption({ label });
  await arrived;
}

/** Somebody at another machine. */
const another = async (browser: Browser) => (await browser.newContext()).newPage();

test('an empty house lets its first keeper in, who lets others in and takes them out', async ({ page, browser }) => {
  await startHouse();
  // Whoever is not in is led to the sign-in, also where the environment speaks of a demo.
  await page.goto(`${address}/season`);
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await accessible(page);

  const link = /http:\/\/\S+\/join#\S+/.exec(said)?.[0] ?? '';
  await page.goto(link);
  await expect(page.getByRole('heading', { name: 'You are the first: you keep this house' })).toBeVisible();
  await accessible(page);
  await page.getByLabel('Your name').fill('Ines Orrel');
  await page.getByLabel('Your address').fill('ines@yard.example');
  await page.getByLabel(/^A password/).fill('password1234');
  await page.getByRole('button', { name: 'Come in' }).click();
  await expect(page.getByText(/common password/)).toBeVisible();
  // What was typed stays.
  await expect(page.getByLabel('Your name')).toHaveValue('Ines Orrel');
  await page.getByLabel(/^A password/).fill(password);
  await page.getByRole('button', { name: 'Come in' }).click();

  // Without a second factor the keeper keeps nothing yet.
  await expect(page.getByText('until it is on, channels and people cannot be changed')).toBeVisible();
  await accessible(page);
  await page.getByLabel('Your password, once more').fill(password);
  await page.getByRole('button', { name: 'Set one up' }).click();
  const secret = (await page.locator('code').first().textContent()) ?? '';
  const digits = () => new TOTP({ secret, digits: 6, period: 30 }).generate();
  await expect(page.getByRole('list', { name: 'Recovery codes' }).getByRole('listitem')).toHaveCount(10);
  await page.getByLabel('The six digits that it shows now').fill(digits());
  await page.getByRole('button', { name: 'Turn it on' }).click();
  await expect(page.getByText('It is on: your authenticator is asked for')).toBeVisible();

  await page.getByRole('link', { name: 'People' }).click();
  await page.getByLabel('Name').fill('Wes');
  await page.getByLabel('Address').fill('wes@yard.example');
  await page.getByRole('button', { name: 'Invite' }).click();
  const handed = page.getByText(/\/join#/);
  await expect(handed).toBeVisible();
  await accessible(page);

  // The writer writes, and sends nothing.
  const wes = await another(browser);
  await wes.goto((await handed.textContent()) ?? '');
  await expect(wes.getByRole('heading', { name: 'Ines Orrel lets you in as writer' })).toBeVisible();
  await wes.getByLabel(/^A password/).fill('no ferry sails before the thaw');
  await wes.getByRole('button', { name: 'Come in' }).click();
  await expect(wes.getByRole('heading', { name: 'Wes' })).toBeVisible();
  await expect(wes.getByRole('link', { name: 'People' })).toHaveCount(0);
  await wes.goto(`${address}/records/new`);
  await wes.getByLabel('Title', { exact: true }).fill('An evening by Wes');
  await wes.getByRole('button', { name: /^Save Ctrl/ }).click();
  await expect(wes).toHaveURL(/\/records\/r/);
  await wes.goto(`${address}/dispatch`);
  await expect(wes.getByRole('heading', { name: 'Dispatch' })).toBeVisible();
  await expect(wes.getByRole('button', { name: /^Send \d/ })).toHaveCount(0);
  await wes.goto(`${address}/people`);
  await expect(wes.getByRole('heading', { name: 'Not for you' })).toBeVisible();

  // Taken out, with a page still open: at once nothing of his works.
  await wes.goto(`${address}/season`);
  await page.reload();
  await page.getByRole('region', { name: 'Wes' }).getByRole('button', { name: 'Take out' }).click();
  await page.getByRole('button', { name: 'Take Wes out' }).click();
  await expect(page.getByRole('region', { name: 'Wes' })).toHaveCount(0);
  await expect(wes.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await wes.getByLabel('Your address').fill('wes@yard.example');
  await wes.locator('input[name=password]').fill('no ferry sails before the thaw');
  await wes.getByRole('button', { name: 'Sign in' }).click();
  await expect(wes.getByText('No one signs in with this address and password.')).toBeVisible();

  // Signed out and in again, by keyboard alone, with the second factor.
  await page.getByRole('link', { name: 'Ines Orrel' }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByLabel('Your address')).toBeFocused();
  await page.keyboard.type('ines@yard.example');
  await page.keyboard.press('Tab');
  await page.keyboard.type(password);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Second factor' })).toBeVisible();
  await page.keyboard.type(digits());
  await page.keyboard.press('Enter');
  await expect(page.getByText('An evening by Wes')).toBeVisible();
});

test.describe('the demo', () => {
  let demo: Demo;
  test.afterAll(async ({ browser }) => {
    await leave(browser);
    await demo.stop();
  });

  test('says as whom it signed one in, and changes the person; each is offered what the role may', async ({ page }) => {
    demo = await startDemo();
    await page.goto(`${demo.app}/season`);
    const change = page.getByLabel('Change to another person of the demo');
    await expect(change).toContainText('Maren, keeper');
    await page.locator('a[data-row]').first().click();
    await expect(page.getByRole('button', { name: /^Save Ctrl/ })).toBeVisible();

    await changeTo(page, 'Idris, reader');
    await expect(page.getByRole('link', { name: 'New record' })).toHaveCount(0);
    await page.locator('a[data-row]').first().click();
    await expect(page.getByText(/You only look/)).toBeVisible();
    await expect(page.getByRole('button', { name: /^Save Ctrl/ })).toHaveCount(0);
    await expect(page.getByLabel('Title', { exact: true })).toBeDisabled();
    await expect(page.getByRole('link', { name: 'People', exact: true })).toHaveCount(0);
    // What is moved sideways within fields that are closed takes the focus all the same; the rule does not know that.
    await accessible(page, ['scrollable-region-focusable']);

    await changeTo(page, 'Tamsin, writer');
    await page.goto(`${demo.app}/dispatch`);
    await expect(page.getByText(/Senders and keepers send this/)).toBeVisible();
    await expect(page.getByRole('button', { name: /^Send \d/ })).toHaveCount(0);

    await changeTo(page, 'Bram, box office');
    await page
      .getByRole('link', { name: /Candlemas Ceilidh/ })
      .first()
      .click();
    await expect(page.getByLabel('Title', { exact: true })).toBeDisabled();
    const outlet = page.getByRole('group', { name: 'Outlet 1' });
    await expect(outlet.getByLabel('Seats')).toBeEnabled();
    await expect(outlet.getByLabel('1. outlet')).toBeDisabled();
    await changeTo(page, 'Maren, keeper');
    await expect(page.getByRole('link', { name: 'People', exact: true })).toBeVisible();
  });

  test('lets a promoter in for a date of his alone: he corrects it, and is offered nothing else', async ({ page }) => {
    await page.goto(`${demo.app}/people`);
    const tamsin = page.getByRole('region', { name: 'Tamsin' });
    await tamsin.getByRole('button', { name: 'Change role' }).click();
    await tamsin.getByLabel('Where').click();
    await page.getByRole('option', { name: 'for some events alone' }).click();
    await tamsin.getByLabel('Tours').click();
    await page.getByRole('option', { name: /Salt/ }).click();
    await page.keyboard.press('Escape');
    await tamsin.getByRole('button', { name: 'Keep it' }).click();
    await expect(tamsin.getByText(/^writer, for .* alone/)).toBeVisible();

    await changeTo(page, 'Tamsin, writer');
    await page.locator('a[data-row]').first().click();
    const subtitle = page.getByLabel('Subtitle', { exact: true });
    await expect(subtitle).toBeEnabled();
    // Whose the event is, how far it is told and what single channels say is for the house; so are directory and shelf.
    await expect(page.getByRole('combobox', { name: 'Tour', exact: true })).toBeDisabled();
    await expect(page.getByRole('radio', { name: 'private' })).toBeDisabled();
    for (const [role, name] of [
      ['button', /Add a radius clause|Make a venue or room here|Copy|^Send|Put away|Word it here|Keep as a set/],
      ['link', /^(Dispatch|Read-back|Clashes|Tours|Directory|Channels|People|New record)/],
    ] as const)
      await expect(page.getByRole(role, { name })).toHaveCount(0);
    await expect(page.locator('main a[href^="/tours"]')).toHaveCount(0);
    await accessible(page, ['scrollable-region-focusable']);

    await subtitle.fill('Doors by the old weighbridge');
    await page.getByRole('button', { name: /^Save Ctrl/ }).click();
    await expect(page.getByText(/^Revision \d+ by Tamsin/)).toBeVisible();
    await page.reload();
    await expect(subtitle).toHaveValue('Doors by the old weighbridge');
    // What of another event is asked for by its address is not his.
    await page.goto(`${demo.app}/tours`);
    await expect(page.getByText('Not for you')).toBeVisible();
  });
});
