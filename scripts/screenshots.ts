// Makes the pictures in docs/screenshots from a running, fresh demo. Usage: npm run screenshots
import { chromium, type Page } from '@playwright/test';

const app = `http://127.0.0.1:${process.env.PORT ?? 4310}`;
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
const shot = async (name: string, on: Page = page) => {
  await on.waitForTimeout(900);
  await on.screenshot({ path: `docs/screenshots/${name}.png` });
};
const open = async (find: string, title: RegExp, section?: string) => {
  await page.goto(`${app}/season?find=${encodeURIComponent(find)}`);
  await page.getByRole('link', { name: title }).first().click();
  await page.waitForURL(/records/);
  await page.getByRole('heading', { level: 1 }).waitFor();
  if (section)
    await page
      .locator(`#${section}`)
      .evaluate((element) => element.scrollIntoView({ behavior: 'instant' as ScrollBehavior, block: 'start' }));
};

await page.goto(`${app}/season`);
await shot('season');
await open('halloran', /Reels for a Wet Sunday/);
await shot('record');
const publicUrl = await page.getByRole('link', { name: 'Open the public page' }).first().getAttribute('href');
await open('moon in a drawer', /Moon in a Drawer/, 'dates');
await page.getByRole('button', { name: /^Thu 18 Feb 2027 13:30/ }).click();
const performance = page.getByRole('group', { name: /^Performance \d+/ });
await performance.getByLabel('Start', { exact: true }).fill('14:00');
await performance.getByRole('button', { name: /^this and later/ }).click();
await shot('run');
await open('glow', /Glow/, 'tickets');
await shot('tickets');
await open('tide keeps', /What the Tide Keeps/, 'publicity');
await shot('publicity');
await open('glass eel', /Glass Eel/, 'words');
await page.locator('[data-verdict]').first().waitFor();
await shot('words');
await open('cloth and thunder', /Cloth and Thunder/, 'notices');
await page.getByRole('region', { name: 'Hearthside posts proof' }).scrollIntoViewIfNeeded();
await shot('notices');
for (const place of ['read-back', 'channels', 'clashes', 'directory', 'people']) {
  await page.goto(`${app}/${place}`);
  if (place === 'directory') await page.getByRole('button', { name: /^Tallow Yard/ }).click();
  await shot(place);
}
await page.goto(`${app}/import`);
const mixed = [
  'title,date,start,venue,town,country,price,currency,kind',
  'Lantern Night,1-Apr-27,19:30,Old Mill,Chicago,USA,20,USD,concert',
  'Spring Fair,15 March 27,7:30 PM,Green Hall,Springfield,USA,20,USD,family',
  'Bad Hour,2027-04-01,25:00,Forum,Leeds,UK,22,GBP,talk',
  'Harbour Songs,2 Apr 2027,20:00,Barn,Nowhereton,,22,EUR,concert',
];
await page
  .getByLabel('File of events')
  .setInputFiles({ name: 'spring.csv', mimeType: 'text/csv', buffer: Buffer.from(mixed.join('\n')) });
await page.getByRole('heading', { name: /^spring\.csv: / }).waitFor();
await shot('read-a-file');
await page.goto(`${app}/tours`);
await page.getByRole('link', { name: 'Salt and Static' }).click();
await page.getByRole('img', { name: /Map of/ }).waitFor();
await shot('tour');
await page.goto(`${app}/dispatch`);
await shot('dispatch');
const seen = page.getByRole('checkbox', { name: /^I have seen the/ });
if ((await seen.count()) > 0) await seen.check();
await page.getByRole('button', { name: /^Send \d/ }).click();
await page.waitForURL(/dispatch\/d/);
await page.waitForTimeout(2200);
await shot('dispatch-watch');
await page
  .getByText(/\d+ of \d+ sent/)
  .first()
  .waitFor();
await page.waitForTimeout(12_000);
const visitor = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await visitor.goto(publicUrl ?? app);
await shot('public-page', visitor);
await open('odalys', /Odalys Quarry/);
await page.getByText('open dates, status').click();
await page.getByRole('combobox', { name: 'Status' }).first().click();
await page.getByRole('option', { name: 'cancelled', exact: true }).click();
await page.getByRole('button', { name: 'See what it does' }).click();
await page.getByRole('radio', { name: /^Cancel/ }).click();
// The count above is read every few seconds.
await page.waitForTimeout(5000);
await shot('change');
await page.goto(`${app}/season`);
await page.locator('a[data-row]').nth(4).waitFor();
await page.locator('a[data-row]').nth(1).focus();
await page.keyboard.press('x');
await page.locator('a[data-row]').nth(4).focus();
await page.keyboard.press('Shift+X');
await page.getByRole('button', { name: 'Change a fact …' }).click();
await page.getByRole('textbox', { name: 'To' }).fill('+30');
await page.getByRole('region', { name: 'Right at once' }).waitFor();
await shot('many');
await browser.close();
