import { expect, test, type Page } from '@playwright/test';
import { acknowledge, expectStanding, leave, slip, startDemo, type Demo, outsideKey } from './demo';

test.describe.configure({ mode: 'serial' });

let demo: Demo;
let page: Page;

test.beforeAll(async ({ browser }) => {
  test.setTimeout(600_000);
  demo = await startDemo();
  page = await (await browser.newContext()).newPage();
});
test.afterAll(async ({ browser }) => {
  await leave(browser);
  await demo.stop();
});

const notice = () => page.getByRole('group', { name: 'Post for Hearthside posts' });

async function open(title: string) {
  await page.goto(`${demo.app}/season?find=${encodeURIComponent(title)}`);
  await page
    .getByRole('link', { name: new RegExp(title) })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(new RegExp(title));
}

async function send() {
  await acknowledge(page);
  await page.getByRole('button', { name: /^Send \d+ errands?$/ }).click();
  await expect(page.getByText(/(\d+) of \1 sent/)).toBeVisible({ timeout: 120_000 });
}

test('a pin about to lapse is to send; sending it renews it, and the public page says so', async () => {
  await open('Cloth and Thunder');
  await expect(notice().getByText(/to send · pin lapses Tue 2 Feb 2027, 20:\d\d/)).toBeVisible();
  await expect(slip(page, 'Hearthside posts').getByText(/The pin lapses Tue 2 Feb 2027, 20:\d\d/)).toBeVisible();
  await page.getByRole('button', { name: 'See the dispatch' }).click();
  const errand = page.locator('[data-channel="hearthside-posts"]');
  await expect(errand.getByText('renew', { exact: true })).toBeVisible();
  await send();
  await open('Cloth and Thunder');
  await expect(notice().getByText('in step · pin lapses Fri 12 Feb 2027, 10:', { exact: false })).toBeVisible({
    timeout: 120_000,
  });
  await page.goto(`${demo.outside}/hearthside/`);
  await expect(page.getByText('pinned until Friday 12 February 2027')).toBeVisible();
});

test('a notice is written from the facts, held against them as one types, and follows them when they change', async () => {
  await open('Open Loom');
  await page.getByRole('button', { name: 'Write a post for Hearthside posts' }).click();
  await expect(notice().getByText(/^Open Loom\. Sat(urday)? 6 Feb/)).toBeVisible();
  const words = notice().getByLabel('Words', { exact: true });
  await words.fill('Open Loom again on Friday 6 February, from {{ start');
  await page
    .getByRole('list', { name: 'Tokens' })
    .getByRole('button', { name: /^start/ })
    .click();
  await expect(words).toHaveValue('Open Loom again on Friday 6 February, from {{ start }}');
  await expect(
    notice()
      .getByText(/Saturday/)
      .first(),
  ).toBeVisible();
  await words.fill('Open Loom again on {{ date }}, from {{ start }}.');
  await expect(
    slip(page, 'Hearthside posts').getByText('Open Loom again on Saturday 6 February 2027, from 10:30.'),
  ).toBeVisible();
  await page.getByRole('button', { name: /^Save Ctrl/ }).click();
  await page.getByRole('button', { name: 'See the dispatch' }).click();
  // What tells everybody is never ticked beforehand.
  const post = page.locator('[data-channel="hearthside-posts"]').getByRole('checkbox').first();
  await expect(post).not.toBeChecked();
  await post.check();
  await send();
  await open('Open Loom');
  await expectStanding(page, 'instep', ['Hearthside posts']);

  await page.getByRole('button', { name: /^Sat 6 Feb 2027 10:30/ }).click();
  await page
    .getByRole('group', { name: /^Performance \d+/ })
    .getByLabel('Start', { exact: true })
    .fill('10:45');
  await expectStanding(page, 'due', ['Hearthside posts']);
  await expect(slip(page, 'Hearthside posts').locator('ins')).toContainText('from 10:45.');
});

test('a post edited on the page is read back, and becomes the notice’s own words', async () => {
  await page.goto(`${demo.outside}/hearthside/owner?key=${outsideKey}`);
  await page.getByRole('link', { name: /^A storm made of bedsheets/ }).click();
  await page.getByLabel('Text').fill('A storm of bedsheets, and one pillow.');
  await page.getByRole('button', { name: 'Save' }).click();
  await page.goto(`${demo.app}/read-back`);
  await page.getByRole('button', { name: 'Read everything back now' }).click();
  const asked = page.getByRole('region', { name: 'Cloth and Thunder on Hearthside posts' });
  await expect(asked.getByText('A storm of bedsheets, and one pillow.')).toBeVisible({ timeout: 120_000 });
  await asked.getByRole('button', { name: 'Take theirs into the record' }).first().click();
  await expect(page.getByText(/^Taken: revision \d+/)).toBeVisible();
  await open('Cloth and Thunder');
  await expect(notice().getByLabel('Words', { exact: true })).toHaveValue('A storm of bedsheets, and one pillow.');
  await notice().getByRole('button', { name: 'Take it down' }).click();
  await page.getByRole('button', { name: /^Save Ctrl/ }).click();
  await page.getByRole('button', { name: 'See the dispatch' }).click();
  await expect(page.locator('[data-channel="hearthside-posts"]').getByText('take down')).toBeVisible();
  await send();
  await page.goto(`${demo.outside}/hearthside/`);
  await expect(page.getByText(/bedsheets/)).toHaveCount(0);
});
