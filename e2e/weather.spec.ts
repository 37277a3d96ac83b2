import { expect, test, type Page } from '@playwright/test';
import { acknowledge, expectStanding, leave, slip, startDemo, type Demo } from './demo';

test.describe.configure({ mode: 'serial' });

let demo: Demo;
let page: Page;
const channels = ['lectern', 'gatefold', 'hearthside'];

test.beforeAll(async ({ browser }) => {
  test.setTimeout(300_000);
  demo = await startDemo();
  page = await (await browser.newContext()).newPage();
});
test.afterAll(async ({ browser }) => {
  await leave(browser);
  await demo.stop();
});

async function openEvent(title: RegExp) {
  await page.goto(`${demo.app}/season?find=${encodeURIComponent(title.source)}`);
  await page.getByRole('link', { name: title }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
  return page.url();
}

async function sendAll() {
  await page.getByRole('button', { name: /the dispatch$/ }).click();
  await acknowledge(page);
  await page.getByRole('button', { name: /^Send \d/ }).click();
  await page.waitForURL(/dispatch\/d/);
}

async function expectOnce(title: string) {
  for (const channel of channels) {
    const list = await (await page.request.get(`${demo.outside}/${channel}/`)).text();
    expect([channel, list.split(`>${title}<`).length - 1]).toEqual([channel, 1]);
  }
}

test('the application is killed in mid-dispatch; started again, it finishes, and nothing stands twice', async () => {
  const record = await openEvent(/Brindle/);
  for (const channel of channels) await demo.slow(channel, 900);
  await sendAll();
  await expect(page.locator('[data-channel=gatefold][data-state=done]')).toBeVisible({ timeout: 30_000 });
  await expect(page.locator('[data-state=running]').first()).toBeVisible();
  demo.kill('Nuntiax');
  await demo.again();
  await page.goto(record);
  await expectStanding(page, 'instep');
  await expectOnce('Brindle &amp; the Tollkeepers');
});

test('the outside is killed in mid-dispatch; started again, the dispatch finishes', async () => {
  const record = await openEvent(/An Evening of Unfinished Business/);
  for (const channel of channels) await demo.slow(channel, 3_000);
  await sendAll();
  await expect(page.locator('[data-state=running]').first()).toBeVisible();
  demo.kill('Outside');
  await expect(page.getByText(/no answer from/).first()).toBeVisible({ timeout: 30_000 });
  await demo.outsideAgain();
  await page.goto(record);
  await expectStanding(page, 'instep');
  await expect(slip(page, 'Hearthside')).toContainText('shown cut short');
  await page.goto(`${demo.app}/dispatch`);
  await expect(page.getByText(/5 sent/).first()).toBeVisible();
});
