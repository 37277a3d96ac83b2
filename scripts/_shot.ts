import { chromium } from '@playwright/test';
const app = `http://127.0.0.1:${process.env.PORT ?? 4400}`;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await b.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: (process.env.SCHEME as 'light') ?? 'light' });
const errors: string[] = [];
page.on('console', (m) => { if (m.type() === 'error') errors.push(m.text().slice(0, 300)); });
page.on('pageerror', (e) => errors.push(String(e).slice(0, 300)));
const [name, path, ...steps] = process.argv.slice(2);
await page.goto(app + path);
await page.waitForTimeout(900);
for (const s of steps) {
  const [verb, ...rest] = s.split(':'); const arg = rest.join(':');
  if (verb === 'open') { await page.getByRole('link', { name: new RegExp(arg) }).first().click(); await page.waitForTimeout(1500); }
  if (verb === 'click') { await page.getByText(new RegExp(arg)).first().click(); await page.waitForTimeout(500); }
  if (verb === 'btn') { await page.getByRole('button', { name: new RegExp(arg) }).first().click(); await page.waitForTimeout(700); }
  if (verb === 'to') { await page.locator(`#${arg}`).evaluate((e) => e.scrollIntoView({ behavior: 'instant' as ScrollBehavior, block: 'start' })); await page.waitForTimeout(500); }
  if (verb === 'fill') { const [l, v] = arg.split('='); await page.getByLabel(l, { exact: true }).first().fill(v ?? ''); await page.waitForTimeout(500); }
  if (verb === 'tab') { await page.getByRole('tab', { name: new RegExp(arg) }).first().click(); await page.waitForTimeout(500); }
  if (verb === 'wait') await page.waitForTimeout(Number(arg));
}
await page.screenshot({ path: `/tmp/shots/${name}.png` });
if (errors.length) console.log('CONSOLE', [...new Set(errors)].join('\n'));
await b.close();
