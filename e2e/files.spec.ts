import { readFileSync } from 'node:fs';
import { expect, test, type Download, type Page } from '@playwright/test';
import { leave, startDemo, type Demo } from './demo';

test.describe.configure({ mode: 'serial' });

let demo: Demo;
let page: Page;

test.beforeAll(async ({ browser }) => {
  test.setTimeout(300_000);
  demo = await startDemo();
  page = await (await browser.newContext()).newPage();
});
test.afterAll(async ({ browser }) => {
  await leave(browser);
  await demo.stop();
});

async function saved(link: string, within = page.locator('main')): Promise<{ name: string; text: string }> {
  const coming: Promise<Download> = page.waitForEvent('download');
  await within.getByRole('link', { name: link, exact: true }).click();
  const download = await coming;
  return { name: download.suggestedFilename(), text: readFileSync(await download.path(), 'utf8') };
}

test('what the season shows is saved as a file, and read again it makes nothing twice', async () => {
  await page.goto(`${demo.app}/season?find=ropewalk`);
  await expect(page.getByText('narrowed to “ropewalk”')).toBeVisible();
  await expect(page.locator('a[data-row]').first()).toBeVisible();
  const shown = await page.locator('a[data-row]').count();
  const csv = await saved('CSV');
  expect(csv.name).toBe('season-2-february-2027.csv');
  expect(new Set(csv.text.trim().split('\r\n').slice(1).map((row) => /^([A-Z]{2}-\d+)/.exec(row)?.[1])).size).toBe(shown);
  const ics = await saved('iCalendar');
  expect(ics.text).toContain('BEGIN:VTIMEZONE\r\nTZID:Europe/Dublin');
  await page.getByRole('tab', { name: /^Past/ }).click();
  await page.goto(`${demo.app}/season`);
  const json = await saved('JSON');
  await page.goto(`${demo.app}/import`);
  await page.getByLabel('File of events').setInputFiles({ name: json.name, mimeType: 'application/json', buffer: Buffer.from(json.text) });
  await expect(page.getByRole('heading', { name: /season-2-february-2027\.json: 0 made, \d+ already here, 0 broken/ })).toBeVisible({ timeout: 60_000 });
});

test('one record is saved as a calendar with every night of its run', async () => {
  await page.goto(`${demo.app}/season?find=Moon`);
  await page.getByRole('link', { name: /The Moon in a Drawer/ }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Moon in a Drawer/);
  const { name, text } = await saved('iCalendar', page.getByRole('navigation', { name: 'Sections' }));
  expect([name, text.match(/^BEGIN:VEVENT/gm)?.length]).toEqual(['pocket-observatory-the-moon-in-a-drawer-2-february-2027.ics', 12]);
  expect(text).toContain('DTSTART;TZID=Europe/Dublin:20270218T110000');
});

test('seats and counts are shown for each night of a run; what is sold at the door is noted by level', async () => {
  await page.getByRole('region', { name: 'Tickets' }).scrollIntoViewIfNeeded();
  const sums = page.getByLabel('Sums of the house');
  await expect(sums.getByText('150').first()).toBeVisible();
  await page.getByRole('combobox', { name: 'Sums for' }).click();
  await page.getByRole('option', { name: 'Wed 17 Feb 13:30' }).click();
  const door = page.getByRole('group', { name: 'Outlet 2' });
  await door.getByRole('combobox', { name: 'Which level, Door' }).click();
  await page.getByRole('option', { name: 'Family of four' }).click();
  await door.getByLabel('Sold by Door').fill('3');
  await door.getByRole('button', { name: 'Note Family of four sold so far' }).click();
  await expect(door.getByText(/^12 sold, 18 left/)).toBeVisible();
  await expect(sums.getByText('138')).toBeVisible();
  await page.getByRole('combobox', { name: 'Sums for' }).click();
  await page.getByRole('option', { name: 'Tue 16 Feb 11:00' }).click();
  await expect(door.getByText(/^0 sold, 30 left/)).toBeVisible();
});
