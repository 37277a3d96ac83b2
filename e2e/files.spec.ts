import { readFileSync } from 'node:fs';
import { expect, test, type Download, type Page } from '@playwright/test';
import { leave, startDemo, type Demo } from './demo';

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
  expect(
    new Set(
      csv.text
        .trim()
        .split('\r\n')
        .slice(1)
        .map((row) => /^([A-Z]{2}-\d+)/.exec(row)?.[1]),
    ).size,
  ).toBe(shown);
  const ics = await saved('iCalendar');
  expect(ics.text).toContain('BEGIN:VTIMEZONE\r\nTZID:Europe/Dublin');
  await page.getByRole('tab', { name: /^Past/ }).click();
  await page.goto(`${demo.app}/season`);
  const json = await saved('JSON');
  await page.goto(`${demo.app}/import`);
  await page
    .getByLabel('File of events')
    .setInputFiles({ name: json.name, mimeType: 'application/json', buffer: Buffer.from(json.text) });
  await expect(
    page.getByRole('heading', { name: /season-2-february-2027\.json: 0 made, \d+ already here, 0 broken/ }),
  ).toBeVisible({ timeout: 120_000 });
});

test('one record is saved as a calendar with every night of its run', async () => {
  await page.goto(`${demo.app}/season?find=Moon`);
  await page
    .getByRole('link', { name: /The Moon in a Drawer/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/Moon in a Drawer/);
  const { name, text } = await saved('iCalendar', page.getByRole('navigation', { name: 'Sections' }));
  expect([name, text.match(/^BEGIN:VEVENT/gm)?.length]).toEqual([
    'pocket-observatory-the-moon-in-a-drawer-2-february-2027.ics',
    12,
  ]);
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

test('a file with something of everything: what is broken is told by line and field, what is open is asked, and answered it goes in', async () => {
  await page.goto(`${demo.app}/import`);
  const rows = [
    'ref,title,date,start,venue,town,country,price,kind',
    'M-1,Lantern Night,1-Apr-27,19:30:00,Old Mill,Chicago,USA,20,concert',
    'M-2,Spring Fair,15 March 27,7:30:00 PM,Green Hall,Springfield,USA,$20,family',
    'M-3,Bad Hour,2027-04-01,25:00,Hall,Leeds,UK,22,talk',
    `M-4,Long,2027-04-02,19:30,${'V'.repeat(130)},Leeds,UK,22,talk`,
    'M-5,Not in any list,2027-04-03,20:00,Barn,Nowhereton,,22,concert',
  ];
  await page
    .getByLabel('File of events')
    .setInputFiles({ name: 'mixed.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) });
  await expect(page.getByRole('heading', { name: 'mixed.csv: 1 made, 0 already here, 2 broken, 2 asked' })).toBeVisible(
    { timeout: 120_000 },
  );
  await expect(page.getByRole('row', { name: /^4 start “25:00” is no time of day/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^5 venue Keep the name under 120/ })).toBeVisible();
  // It is still there for whoever comes back to the page.
  await page.goto(`${demo.app}/season`);
  await page.goto(`${demo.app}/import`);
  await page.getByRole('combobox', { name: /^Which Springfield, USA/ }).click();
  await page.getByRole('option', { name: /^Springfield, MO/ }).click();
  await page.getByRole('button', { name: 'Take these rows in' }).click();
  await expect(page.getByRole('heading', { name: 'mixed.csv: 1 made, 1 already here, 2 broken, 1 asked' })).toBeVisible(
    { timeout: 120_000 },
  );
  await page.getByRole('link', { name: 'Spring Fair' }).click();
  await expect(page.getByRole('combobox', { name: 'Venue' })).toHaveValue('Green Hall, Springfield');
  await expect(
    page.getByText('America/Chicago').or(page.locator('input[value="America/Chicago"]')).first(),
  ).toBeVisible();
});

test('a long file shows how far it is, and can be stopped; what was in stays', async () => {
  await page.goto(`${demo.app}/import`);
  const rows = Array.from(
    { length: 6_000 },
    (_, i) => `L-${i},Long Night ${i},2027-05-${String(1 + (i % 28)).padStart(2, '0')},19:30,Mill,Chicago,USA`,
  );
  await page.getByLabel('File of events').setInputFiles({
    name: 'long.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['ref,title,date,start,venue,town,country', ...rows].join('\n')),
  });
  await expect(page.getByText(/Reading line \d+; \d{2,} rows taken in/)).toBeVisible({ timeout: 120_000 });
  const began = Date.now();
  expect((await page.request.get(`${demo.app}/api/health`)).ok()).toBe(true);
  expect(Date.now() - began).toBeLessThan(5_000);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(
    page.getByRole('heading', { name: /^long\.csv: \d+ made, 0 already here, 0 broken; stopped$/ }),
  ).toBeVisible({ timeout: 120_000 });
  await expect(page.getByLabel('File of events')).toBeEnabled();
});

const monsters = [
  '25:00',
  '19:99',
  '-1',
  '1e999',
  '{{ (1..500000) | find: "x" }}',
  '{{',
  '\u202e\u0000\u0007x',
  '👩‍👩‍👧‍👦'.repeat(40),
  '<img src=x onerror=alert(1)>',
  '9'.repeat(300),
  '0000-00-00',
  '2027-13-45',
  '99',
  '__proto__',
  '€ 5,5,5',
  '{{ nobody }}',
];

test('whatever is typed into any field of any screen, the screen stays and the word is at the field', async () => {
  test.setTimeout(600_000);
  const faults: string[] = [];
  const heard = (error: Error) => faults.push(error.message);
  page.on('pageerror', heard);
  let seed = 7;
  const monster = () => monsters[(seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % monsters.length] ?? '';
  const tryAll = async (marker: () => Promise<void>) => {
    const fields = page
      .locator('main')
      .locator('input:not([type=checkbox]):not([type=radio]):not([type=file]):not([readonly]), textarea');
    const count = await fields.count();
    for (let i = 0; i < count; i += 1) {
      const item = fields.nth(i);
      if (!(await item.isVisible()) || !(await item.isEditable())) continue;
      const typed = monster();
      await item
        .fill(typed)
        .catch((error: Error) => faults.push(`${i} ${typed.slice(0, 20)}: ${error.message.slice(0, 200)}`));
      await page.keyboard.press('Escape');
    }
    await marker();
    return count;
  };
  const openAll = async () => {
    for (const name of [/^\+ organiser, tour/, /^\+ open dates/, /^\+ outlets and fees/, /^\+ /]) {
      const more = page.getByRole('button', { name, expanded: false });
      for (let left = await more.count(); left > 0; left -= 1) await more.first().click();
    }
  };
  await page.goto(`${demo.app}/season?find=Glow`);
  await page
    .getByRole('link', { name: /^.*Glow: a night/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await openAll();
  await page.getByLabel('it takes place online, too or instead').check();
  await page.getByRole('button', { name: 'Add a price level' }).click();
  await page.getByRole('button', { name: 'more', exact: true }).first().click();
  const there = async () => {
    await expect(page.getByRole('complementary', { name: 'Proof' })).toBeVisible();
    await expect(page.getByRole('heading', { name: 'Tickets' })).toBeVisible();
  };
  expect(await tryAll(there)).toBeGreaterThan(30);
  await tryAll(there);
  await page.getByLabel('Start', { exact: true }).first().fill('25:00');
  await expect(page.getByText('“25:00” is no time of day.').first()).toBeVisible();
  await expect(page.getByText(/^Shown as it last held: .*performance › start/)).toBeVisible();
  await expect(page.getByRole('region', { name: 'Lectern proof' })).toContainText('19:30');
  await page.getByRole('button', { name: 'Undo all' }).click();
  for (const [place, name] of [
    ['records/new', 'Untitled event'],
    ['directory', 'Directory'],
    ['tours', 'Tours'],
    ['channels', 'Channels'],
    ['season', 'Season'],
    ['clashes', 'Clashes'],
  ] as const) {
    await page.goto(`${demo.app}/${place}`);
    if (place === 'tours') await page.getByRole('link', { name: 'Salt and Static' }).click();
    await page.waitForLoadState('networkidle');
    await tryAll(() =>
      expect(
        place === 'records/new'
          ? page.getByRole('complementary', { name: 'Proof' })
          : place === 'tours'
            ? page.getByRole('heading', { level: 1 })
            : page.getByRole('heading', { name, level: 1 }),
      ).toBeVisible(),
    );
  }
  page.off('pageerror', heard);
  expect(faults).toEqual([]);
});
