// Makes the pictures in docs/screenshots from a running, fresh demo. Usage: npm run screenshots
import { chromium, type Page } from '@playwright/test';

const app = `http://127.0.0.1:${process.env.PORT ?? 4310}`;
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
const shot = async (name: string, on: Page = page) => {
  await on.waitForTimeout(900);
  await on.screenshot({ path: `docs/screenshots/${name}.png` });
};
const open = async (title: RegExp) => {
  await page.goto(`${app}/season`);
  await page.getByRole('link', { name: title }).first().click();
  await page.waitForURL(/records/);
};

await page.goto(`${app}/season`);
await shot('season');
await open(/Reels for a Wet Sunday/);
await shot('record');
const publicUrl = await page.getByRole('link', { name: 'Open the public page' }).first().getAttribute('href');
await page.goto(`${app}/read-back`);
await shot('read-back');
await page.goto(`${app}/channels`);
await shot('channels');
await page.goto(`${app}/dispatch`);
await shot('dispatch');
await page.getByRole('button', { name: /^Send \d/ }).click();
await page.waitForURL(/dispatch\/d/);
await page.waitForTimeout(2200);
await shot('dispatch-watch');
await page.getByText(/\d of (\d+) sent/).filter({ hasText: /^(\d+) of \1 sent$/ }).waitFor({ timeout: 60_000 });
const visitor = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await visitor.goto(publicUrl ?? app);
await shot('public-page', visitor);
await browser.close();
