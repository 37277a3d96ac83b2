import { expect, test, type Page } from '@playwright/test';
import { acknowledge, expectStanding, leave, slip, startDemo, type Demo } from './demo';

test.describe.configure({ mode: 'serial' });

let demo: Demo;
let page: Page;
const channels = ['lectern', 'gatefold', 'hearthside'];

test.beforeAll(async ({ browser }) => {
  test.setTimeout(600_000);
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
  await expect(page.locator('[data-channel=gatefold][data-state=done]')).toBeVisible({ timeout: 120_000 });
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
  await expect(page.getByText(/no answer from/).first()).toBeVisible({ timeout: 120_000 });
  // The house's trouble is on every screen.
  await page.goto(`${demo.app}/directory`);
  await expect(page.getByRole('status', { name: 'Trouble' })).toContainText(/does not answer, since/, {
    timeout: 120_000,
  });
  await demo.outsideAgain();
  await page.goto(record);
  await expectStanding(page, 'instep');
  await expect(slip(page, 'Hearthside')).toContainText('shown cut short');
  await page.goto(`${demo.app}/dispatch`);
  await expect(page.getByText(/5 sent/).first()).toBeVisible();
});

test('an event with tickets sold is cancelled: nothing of it goes until somebody says what is to become of the sale', async () => {
  await openEvent(/Odalys Quarry/);
  await page.getByText('open dates, status').click();
  await page.getByRole('combobox', { name: 'Status' }).first().click();
  await page.getByRole('option', { name: 'cancelled', exact: true }).click();
  await page.getByRole('button', { name: 'See what it does' }).click();
  const lock = page.getByRole('region', { name: 'Locked there' });
  await expect(lock).toContainText('Nothing of this event goes before you pick one');
  const send = page.getByRole('button', { name: 'Save and send in this order' });
  await expect(send).toBeDisabled();
  // To leave it there needs a reason; to cancel it there, the event's code.
  await lock.getByRole('radio', { name: /^Leave it/ }).click();
  await lock.getByLabel('Why it stays as it is there').fill('');
  await expect(send).toBeDisabled();
  await lock.getByLabel('Why it stays as it is there').fill('Their desk refunds by hand');
  await expect(send).toBeEnabled();
  await lock.getByRole('radio', { name: /^Cancel/ }).click();
  await lock.getByLabel('Why, in public words').fill('The harp is broken');
  await expect(send).toBeDisabled();
  await lock.getByLabel(/^Type OQ-0001/).fill('OQ-0001');
  await expect(page.getByRole('region', { name: 'Save and send' })).toContainText('buyers are written to');
  await send.click();
  await page.waitForURL(/dispatch\/d/);
  await expect(page.locator('[data-channel=gatefold][data-state=done]')).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('5 of 5 sent')).toBeVisible({ timeout: 120_000 });
  const sale = await page
    .locator('[data-channel=gatefold]')
    .getByRole('link', { name: 'public page' })
    .getAttribute('href');
  expect(await (await page.request.get(sale ?? '')).text()).toContain('EventCancelled');
});
