import { expect, test, type Browser, type Page } from '@playwright/test';
import { leave, slip, startDemo, type Demo } from './demo';

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

const field = (name: string, on = page) => on.getByLabel(name, { exact: true });
const save = () => page.getByRole('button', { name: /^Save Ctrl/ }).click();

async function open(title: string, on = page) {
  await on.goto(`${demo.app}/season?find=${encodeURIComponent(title)}`);
  await on
    .getByRole('link', { name: new RegExp(title) })
    .first()
    .click();
  await expect(on.getByRole('heading', { level: 1 })).toHaveText(new RegExp(title));
}

async function abroad(browser: Browser, timezoneId: string): Promise<Page> {
  return (await browser.newContext({ timezoneId, locale: 'en-GB' })).newPage();
}

test('whoever reads it elsewhere sees the event’s own time, with theirs beside it', async ({ browser }) => {
  const visitor = await abroad(browser, 'America/St_Johns');
  await open('Vigil', visitor);
  await expect(field('Start', visitor)).toHaveValue('21:00');
  await expect(visitor.getByText('Fri 2 Apr 2027, 17:30 in St Johns, where you are')).toBeVisible();
  await expect(slip(visitor, 'Hearthside').getByText('Fri 2 Apr 2027, 21:00 Dublin').first()).toBeVisible();
  await visitor.context().close();
  const neighbour = await abroad(browser, 'Europe/London');
  await open('Vigil', neighbour);
  await expect(field('Start', neighbour)).toHaveValue('21:00');
  await expect(neighbour.getByText('where you are')).toHaveCount(0);
  await neighbour.context().close();
});

test('a date is typed in whichever way; several days, a hidden end and a night past midnight are said as the public reads them', async () => {
  await open('Vigil');
  for (const [typed, shown] of [
    ['tomorrow', 'Wed 3 Feb 2027'],
    ['3.4.2027', 'Sat 3 Apr 2027'],
    ['2027-04-04', 'Sun 4 Apr 2027'],
    ['April 5', 'Mon 5 Apr 2027'],
    ['Tue 6 Apr', 'Tue 6 Apr 2027'],
  ] as const) {
    await field('Date').fill(typed);
    await field('Date').press('Enter');
    await field('Doors').click();
    await expect(field('Date')).toHaveValue(shown);
  }
  await field('Date').fill('31 April');
  await field('Doors').click();
  const noDate = '“31 April” is no date: No date was found. Write it like 18 March 2027.';
  await expect(page.getByText(noDate)).toBeVisible();
  await expect(field('Date')).toHaveValue('31 April');
  await page.keyboard.press('Control+s');
  await expect(page.getByRole('region', { name: 'Save' }).getByText(noDate)).toBeVisible();
  await field('Date').press('Escape');
  await expect(field('Date')).toHaveValue('Tue 6 Apr 2027');
  await field('Date').press('ArrowDown');
  await expect(page.getByRole('button', { name: '6 April 2027', exact: true })).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(field('Date')).toHaveValue('Wed 7 Apr 2027');
  await expect(field('Date')).toBeFocused();
  await field('Date').fill('6 April 2027');
  await field('Start').fill('10pm');
  await field('Doors').fill('9.15 p.m.');
  await field('End').fill('03:00');
  await expect(page.getByText(/The end 03:00 lies before the start 22:00/)).toBeVisible();
  await page.getByLabel('ends after midnight').check();
  await expect(slip(page, 'Hearthside').getByText('Wed 7 Apr 2027, 03:00 Dublin')).toBeVisible();
  await page.getByRole('button', { name: /open dates, status/ }).click();
  await page.getByLabel('the end is not shown to the public').check();
  await expect(slip(page, 'Hearthside').getByText('Wed 7 Apr 2027, 03:00 Dublin')).toHaveCount(0);
  await page.getByLabel('the end is not shown to the public').uncheck();
  await page.getByLabel('ends after midnight').uncheck();
  await field('Last day, of several').fill('2027-04-08');
  await field('Last day, of several').press('Enter');
  await field('Doors').click();
  await expect(slip(page, 'Lectern').getByText('6 April to 8 April 2027')).toBeVisible();
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('what is typed is kept through a reload, and thrown away when asked', async () => {
  await open('Vigil');
  await field('Subtitle').fill('Kept through a reload');
  await page.waitForTimeout(900);
  await page.reload();
  await expect(field('Subtitle')).toHaveValue('Kept through a reload');
  await page.getByRole('button', { name: 'Undo all' }).click();
  await expect(field('Subtitle')).toHaveValue('');
  await page.waitForTimeout(900);
  await page.reload();
  await expect(field('Subtitle')).toHaveValue('');

  // What was left behind is offered where it was typed, and never put into a new record.
  await page.goto(`${demo.app}/records/new`);
  await field('Title').fill('Half a thought');
  await page.getByRole('link', { name: 'Clashes' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Clashes');
  await page.getByRole('link', { name: 'New record' }).click();
  await expect(page.getByText('“Half a thought”', { exact: false })).toBeVisible();
  await expect(field('Title')).toHaveValue('');
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(field('Title')).toHaveValue('Half a thought');
  await page.getByRole('link', { name: 'Clashes' }).click();
  await page.getByRole('link', { name: 'New record' }).click();
  await page.getByRole('button', { name: 'Throw it away' }).click();
  await expect(page.getByText('Half a thought')).toHaveCount(0);
  await open('Vigil');

  // What is typed while a save is on its way stands on top of it, also where one leaves at once.
  await page.route('**/records/*', async (route) => {
    if (route.request().method() === 'POST') await new Promise((go) => setTimeout(go, 700));
    await route.continue();
  });
  await field('Subtitle').click();
  await page.keyboard.type('Sung');
  await page.keyboard.press('Control+s');
  await page.keyboard.press('Control+s');
  await page.keyboard.type(' until dawn');
  await expect(page.getByText(/revision 2/i).first()).toBeVisible();
  await expect(field('Subtitle')).toHaveValue('Sung until dawn');
  await expect(page.getByText(/revision 3/i)).toHaveCount(0);
  await page.unrouteAll({ behavior: 'wait' });
  await page.keyboard.type(', aloud');
  await page.reload();
  await expect(field('Subtitle')).toHaveValue('Sung until dawn, aloud');
  await page.getByRole('button', { name: 'Undo all' }).click();
  await expect(field('Subtitle')).toHaveValue('Sung');

  // A page that is loaded anew before its save has answered: what was typed since stands on it all the same.
  let arrived = false;
  await page.route('**/records/*', async (route) => {
    if (route.request().method() !== 'POST') return route.continue();
    await route.fetch();
    arrived = true;
  });
  await field('Subtitle').fill('Sung again');
  await page.keyboard.press('Control+s');
  await page.keyboard.type(', softly');
  await expect.poll(() => arrived).toBe(true);
  await page.reload();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await expect(field('Subtitle')).toHaveValue('Sung again, softly');
  await save();
  await expect(page.getByText(/revision 4/i).first()).toBeVisible();
  await page.reload();
  await expect(field('Subtitle')).toHaveValue('Sung again, softly');
});

test('what is typed in the directory and left, by a link or another entry, is offered there again', async () => {
  await page.goto(`${demo.app}/directory`);
  const site = page.getByRole('textbox', { name: 'How to find it' });
  const first = page.getByRole('heading', { level: 2 }).first();
  const name = (await first.textContent()) ?? '';
  await site.fill('Through the arch, then left');
  await page.getByRole('tab', { name: /Organisers/ }).click();
  await page.getByRole('tab', { name: /Venues/ }).click();
  await page.getByRole('link', { name: 'Clashes' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Clashes');
  await page.getByRole('link', { name: 'Directory' }).click();
  await expect(first).toHaveText(name);
  await expect(page.getByText('“Through the arch, then left”', { exact: false })).toBeVisible();
  await expect(site).not.toHaveValue('Through the arch, then left');
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(site).toHaveValue('Through the arch, then left');
  await page.getByRole('button', { name: 'Save the venue' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.reload();
  await expect(site).toHaveValue('Through the arch, then left');
  await expect(page.getByText('Left here without saving')).toHaveCount(0);
});

test('an old address leads on after the title has changed', async () => {
  await open('Vigil');
  await field('Title').fill('Vigil for Strings');
  await save();
  await page.goto(`${demo.app}/e/vigil-for-strings-2027`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Vigil for Strings');
  await page.goto(`${demo.app}/e/vigil-2027`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Vigil for Strings');
  await page.goto(`${demo.app}/e/nothing-of-the-kind`);
  await expect(page.getByText('No event fits “nothing of the kind”.')).toBeVisible();
});

test('every place is reached by its key, and the keys are told', async () => {
  await page.goto(`${demo.app}/season`);
  await page.locator('body').click({ position: { x: 700, y: 60 } });
  for (const [key, place] of [
    ['d', 'Dispatch'],
    ['b', 'Read-back'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(place);
  }
  await page.keyboard.press('n');
  await expect(page).toHaveURL(/records\/new/);
  await expect(field('Title')).toBeVisible();
  // A form that nobody typed in is not kept: its date would be an old one when it is opened again.
  await page.getByRole('link', { name: 'Clashes' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Clashes');
  expect(await page.evaluate(() => sessionStorage.getItem('nuntiax-draft-new'))).toBeNull();
  await expect(page.getByRole('tab', { name: /^All/ })).toBeVisible();
  await page.keyboard.press('Shift+?');
  await expect(
    page.getByRole('dialog', { name: 'Words, pennants and keys' }).getByText('save the record'),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('/');
  await page.keyboard.type('glow');
  await page.keyboard.press('Enter');
  await expect(page.getByText('narrowed to “glow”')).toBeVisible();
  await page.keyboard.press('Escape');
});

test('at the least width nothing is cut off at the side, in any place', async ({ browser }) => {
  const narrow = await (await browser.newContext({ viewport: { width: 1024, height: 700 } })).newPage();
  const beyond = () =>
    narrow.evaluate(() =>
      [...document.querySelectorAll('main *')]
        .filter((element) => element.getBoundingClientRect().right > window.innerWidth + 1)
        .map((element) => element.outerHTML.slice(0, 120)),
    );
  for (const place of [
    'season',
    'dispatch',
    'read-back',
    'clashes',
    'tours',
    'directory',
    'channels',
    'import',
    'records/new',
  ]) {
    await narrow.goto(`${demo.app}/${place}`);
    await expect(narrow.getByRole('link', { name: 'New record' })).toBeVisible();
    await narrow.waitForLoadState('networkidle');
    expect([place, await beyond()]).toEqual([place, []]);
  }
  await open('Pocket Observatory', narrow);
  expect(await beyond()).toEqual([]);
  await narrow.context().close();
});

test('keys that are typed before the editor has come are in the text once it has', async ({ browser }) => {
  const late = await (await browser.newContext()).newPage();
  await late.goto(`${demo.app}/records/new`);
  // It can be written into, and the editor is far below what is seen.
  await expect(late.getByRole('heading', { level: 1 })).toHaveText('Untitled event');
  await expect(late.locator('[inert]')).toHaveCount(0);
  // What comes from now on is slow: the editor is fetched when one comes near it.
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await late.route('**/_next/static/chunks/**', async (route) => {
    await held;
    await route.continue();
  });
  const words = late.getByRole('textbox', { name: 'Full text' });
  await words.focus();
  await expect(words).toHaveAttribute('aria-busy', 'true');
  // A key that is a shortcut elsewhere, too.
  await late.keyboard.type('n/two fiddles?');
  await expect(late).toHaveURL(/\/records\/new$/);
  release();
  await expect(words).not.toHaveAttribute('aria-busy', 'true');
  await late.keyboard.type(' And a lamp.');
  await expect(words).toHaveText('n/two fiddles? And a lamp.');
  await late.context().close();
});

test('what is to be taken down can be deleted there instead: only with the event’s code', async () => {
  await open('Odalys Quarry');
  const code = (await page.getByRole('navigation', { name: 'Sections' }).locator('.code').textContent()) ?? '';
  await page.locator('label[for$="-private"]').click();
  await save();
  await expect(page.getByText(/revision 2/i).first()).toBeVisible();
  await page.goto(`${demo.app}/dispatch?record=${page.url().split('/').pop() ?? ''}`);
  const event = page.getByRole('region', { name: 'Odalys Quarry', exact: true });
  const lectern = event.locator('[data-channel]', { hasText: 'Lectern' });
  await expect(lectern).toContainText('take down');
  const before = await (await fetch(`${demo.outside}/lectern/`)).text();
  await lectern.getByLabel(/Delete it there instead/).check();
  const bar = page.getByRole('region', { name: 'Send' });
  await expect(bar).toContainText('type the event’s code');
  await lectern.getByLabel(`Type ${code} to delete it there`).fill('XX-0000');
  await bar.getByRole('button', { name: /^Send/ }).click();
  await expect(bar.getByRole('alert')).toContainText(code);
  await lectern.getByLabel(`Type ${code} to delete it there`).fill(code.toLowerCase());
  await bar.getByRole('button', { name: /^Send/ }).click();
  await expect(page).toHaveURL(/\/dispatch\/d/);
  await expect(page.locator('[data-channel=lectern]')).toContainText('deleted: it was looked for after that');
  const after = await (await fetch(`${demo.outside}/lectern/`)).text();
  expect([before.includes('Odalys Quarry'), after.includes('>Odalys Quarry<')]).toEqual([true, false]);
});
