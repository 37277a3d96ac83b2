import { expect, test, type Page } from '@playwright/test';
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

const field = (name: string) => page.getByLabel(name, { exact: true });
const section = (name: string) => page.getByRole('region', { name, exact: true });
const save = () => page.getByRole('button', { name: /^Save Ctrl/ }).click();
const saved = () => expect(page.getByText(/^Saved\.|^Behind:/).first()).toBeVisible();
const unfold = (words: string) => page.getByRole('button', { name: words }).click();
const choose = async (label: string, option: string) => {
  await page.getByRole('combobox', { name: label, exact: true }).first().click();
  await page.getByRole('option', { name: option, exact: true }).click();
};

async function openEvent(find: string, title: RegExp) {
  await page.goto(`${demo.app}/season?find=${encodeURIComponent(find)}`);
  await page.getByRole('link', { name: title }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
}

test('no kind of event is asked more than a dozen things before it asks for more; a free talk, nothing of money', async () => {
  await page.goto(`${demo.app}/records/new`);
  await field('Title').fill('A free talk on Tuesday');
  const asked = page.locator(
    'section[id] input:not([type=hidden]):not([type=radio]):not([type=file]):visible, section[id] textarea:visible, section[id] [contenteditable=true]:visible',
  );
  for (const [kind, mode] of [
    ['talk', 'free entry'],
    ['concert', 'ticketed'],
    ['film', 'ticketed'],
    ['workshop', 'ticketed'],
    ['club night', 'at the door'],
    ['meeting', 'free entry'],
  ] as const) {
    await choose('Kind of event', kind);
    await page.getByLabel('How one gets in').getByText(mode).click();
    // Of a checkbox that stands beside a field and asks nothing by itself there is one: ends after midnight.
    expect([kind, (await asked.count()) <= 13]).toEqual([kind, true]);
  }
  await page.getByLabel('How one gets in').getByText('free entry').click();
  for (const words of ['Price', 'Coupon', 'Ask', 'Tax', 'Zone', 'Room']) await expect(field(words)).toHaveCount(0);
});

test('a pass for all nights takes a seat of each, and the public reads both prices', async () => {
  await openEvent('cloth and thunder', /Cloth and Thunder/);
  await expect(section('Tickets')).toContainText(/each, €39 for all three/);
  await expect(slip(page, 'Gatefold')).toContainText('all three');
  await page.getByRole('button', { name: 'Add a price level' }).click();
  const level = page.getByRole('group', { name: 'Price level 4' });
  await level.getByLabel('Price level').fill('Two of them');
  await level.getByLabel('Price', { exact: true }).fill('28');
  await level.getByRole('combobox', { name: 'What it is' }).click();
  await page.getByRole('option', { name: 'full price' }).click();
  await level.getByRole('button', { name: 'more' }).click();
  await level.getByRole('combobox', { name: 'One purchase lets in to' }).click();
  await page.getByRole('option', { name: 'any so many of them' }).click();
  await expect(section('Tickets')).toContainText(/€39 for all three, €28 for any two/);
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('an evening for members reaches nothing that others see; where a channel is for them it is wanted', async () => {
  await openEvent('cellar', /Members.* evening/);
  await page.getByLabel('Visibility').getByText('public').click();
  await expect(page.getByRole('radio', { name: 'for members' })).toBeChecked();
  await expect(slip(page, 'Lectern')).toContainText('It is for members, and this channel is seen by others too');
  await expect(slip(page, 'Lectern')).toContainText('not wanted here');
  await page.goto(`${demo.app}/channels`);
  await page.getByRole('navigation', { name: 'Channels' }).getByText('Ninefold on Hearthside', { exact: true }).click();
  const card = section('Ninefold on Hearthside');
  await card.getByRole('combobox', { name: 'What stands there is seen by' }).click();
  await page.getByRole('option', { name: 'one group alone' }).click();
  await card.getByLabel('Name of the group').fill('Choir');
  await card.getByLabel('Name of the group').blur();
  await expect(card.getByRole('status').filter({ hasText: 'Kept.' })).toBeVisible();
  await card.getByRole('combobox', { name: 'What stands there is seen by' }).click();
  await page.getByRole('option', { name: 'everyone' }).click();
  // Opening to everybody what some alone saw is told before it is done.
  await expect(card.getByRole('alert')).toContainText('What is for a group alone is to be taken down there');
  await card.getByRole('button', { name: 'Open it to everyone' }).click();
  await expect(card.getByRole('status').filter({ hasText: 'Kept.' })).toBeVisible();
});

test('the sheet before a sale is ticked with a name; a fact that moves takes its tick back', async () => {
  await openEvent('brass', /Brass for Breakfast/);
  await expect(slip(page, 'Gatefold')).toContainText('11 lines are not ticked');
  await unfold('before the sale opens: 0 of 11');
  const sheet = page.getByRole('table', { name: 'Before the sale opens' });
  await sheet.getByLabel('Start').check();
  await expect(sheet.getByRole('row', { name: /Start/ })).toContainText('Maren');
  await expect(slip(page, 'Gatefold')).toContainText('10 lines are not ticked');
  await page.getByLabel('Start', { exact: true }).first().fill('10:15');
  await expect(sheet.getByRole('row', { name: /Start/ })).toContainText('when Maren ticked it');
  await sheet.getByLabel('Start').click();
  await expect(section('Tickets').getByRole('alert')).toContainText('Save the record first');
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('a picture within the text, a document and a labelled link stand on the public page; what is no document is refused', async () => {
  await openEvent('tide keeps', /What the Tide Keeps/);
  await unfold('documents that go with it');
  await unfold('documents that go with it');
  await page
    .getByLabel('Document file')
    .setInputFiles({ name: 'run.html', mimeType: 'text/html', buffer: Buffer.from('<script>') });
  await expect(page.getByText('is none of the documents that are taken', { exact: false })).toBeVisible();
  await page
    .getByLabel('Document file')
    .setInputFiles({ name: 'plan.pdf', mimeType: 'application/pdf', buffer: Buffer.from('<p>no') });
  await expect(page.getByText('is not what its ending says', { exact: false })).toBeVisible();
  const there = await slip(page, 'Lectern').getByRole('link', { name: 'Open the public page' }).getAttribute('href');
  const shown = await (await page.context().newPage()).request.get(there ?? '').then((answer) => answer.text());
  expect(shown).toMatch(
    /<figure class="side-right size-half"><img src="\/lectern\/media\/[0-9a-f]{16}-w\d+\.jpg" alt="[^"]+"/,
  );
  for (const part of ['The slipway at low water', 'Reading list', 'The tide tables', 'moderator', 'bookings 555 0143'])
    expect(shown).toContain(part);
  for (const [, file = ''] of shown.matchAll(/(?:src|href)="(\/lectern\/media\/[^"]+)"/g))
    expect([file, (await page.request.get(new URL(file, there ?? '').href)).status()]).toEqual([file, 200]);
});

test('what a link leads to is chosen with a reason; questions come from a kept set', async () => {
  await openEvent('thimble', /Thimble & Crane/);
  const links = page.getByRole('table', { name: 'Which ticket link goes where' });
  await page.getByRole('button', { name: 'Choose what Hearthside leads to' }).click();
  await choose('leads to', 'its page on Lectern');
  await field('Why, for ourselves').fill('the map is there');
  await expect(links.getByRole('row', { name: /^Hearthside/ })).toContainText('its page on Lectern: the map is there');
  await expect(links.getByRole('row', { name: /^Hearthside/ })).toContainText('/lectern/events/');
  await unfold('questions to those who order');
  await page.getByRole('combobox', { name: 'Put in a kept set of questions' }).click();
  await page.getByRole('option', { name: 'Workshops and lectures' }).click();
  await expect(page.getByRole('group', { name: 'Question 3' }).getByLabel('What one says yes to')).toHaveValue(
    /I may be seen/,
  );
  await save();
  await saved();
  await page.reload();
  await expect(links.getByRole('row', { name: /^Hearthside/ })).toContainText('the map is there');
  await expect(slip(page, 'Gatefold')).toContainText('Photographs');
});

test('a coupon says what is paid, and cannot take off more than all of it', async () => {
  await openEvent('midsummer', /Midsummer in the Court/);
  await expect(section('Tickets')).toContainText('incl. tax');
  const coupon = page.getByRole('group', { name: 'Coupon 1' });
  await expect(coupon).toContainText(/€\d+/);
  await coupon.getByLabel('Takes off').fill('200');
  await expect(coupon).toContainText('“200” is no per cent');
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('one side stays a draft: the others are asked how they go, and what is done besides is only what is ticked', async () => {
  await openEvent('street light', /The Lamp Lecture: Nights Before Street Light/);
  await page.getByRole('button', { name: /^for members or a group/ }).click();
  await page.getByRole('group', { name: 'Stays a draft on' }).getByLabel('Gatefold', { exact: true }).check();
  await expect(slip(page, 'Lectern')).toContainText('stays a draft: this goes out without it');
  await slip(page, 'Lectern').getByRole('button', { name: 'Stay draft here too' }).click();
  await expect(slip(page, 'Lectern')).toContainText('nobody sees it yet');
  await save();
  await saved();
  await page.getByRole('button', { name: 'See the dispatch' }).click();
  const errand = (channel: string) => page.locator(`[data-channel=${channel}]`);
  for (const channel of ['gatefold', 'lectern'])
    await expect(errand(channel)).toContainText('as a draft: nobody sees it yet');
  await errand('hearthside').getByRole('button', { name: 'Go without' }).click();
  await expect(errand('hearthside').getByRole('button', { name: 'Goes without the link' })).toBeVisible();
  await expect(errand('hearthside').getByLabel(/^also posts on the page/)).not.toBeChecked();
  await errand('concourse')
    .getByLabel(/^also tells/)
    .check();
});

test('a fact of several events: chosen by keys, seen as one sum, and sent; of a tour, saved and undone as one', async () => {
  const bar = page.getByRole('region', { name: 'Chosen events' });
  const foot = page.getByRole('region', { name: 'Save and send' });
  await page.goto(`${demo.app}/season`);
  await page.getByRole('link', { name: /Soup and Shanties/ }).focus();
  await page.keyboard.press('x');
  await expect(bar).toContainText('1 event chosen');
  await page.getByRole('link', { name: /Ink by the Inch/ }).focus();
  await page.keyboard.press('Shift+X');
  await expect(bar).toContainText('3 events chosen');
  await page.getByRole('checkbox', { name: 'Choose The Counting House' }).click();
  await expect(bar).toContainText('2 events chosen');
  await bar.getByRole('button', { name: 'Change a fact …' }).click();
  await page.getByRole('textbox', { name: 'To' }).fill('quarter past');
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be so' })).toContainText('is no time');
  await expect(foot.getByRole('button', { name: 'Save only' })).toBeDisabled();
  await page.getByRole('textbox', { name: 'To' }).fill('+15');
  await expect(section('Right at once')).toContainText('Lectern');
  await expect(section('The 2 events')).toContainText('18:45');
  await expect(section('The 2 events')).toContainText('19:45');
  await foot.getByLabel(/^I have seen the/).check();
  await foot.getByRole('button', { name: 'Save and send' }).click();
  await page.waitForURL(/\/dispatch\/d/);
  await expect(page.getByText(/Ink by the Inch/).first()).toBeVisible();

  await page.goto(`${demo.app}/season?find=salt%20and%20static`);
  await page
    .getByRole('link', { name: /Ninefold Choir/ })
    .first()
    .focus();
  await page.keyboard.press('x');
  await bar.getByRole('button', { name: /^all \d+/ }).click();
  await bar.getByRole('button', { name: 'Change a fact …' }).click();
  await choose('Fact', 'Subtitle');
  await page.getByRole('textbox', { name: 'To' }).fill('The last of three winters');
  await expect(foot).toContainText(/2\d records change/);
  await foot.getByRole('button', { name: 'Save only' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Saved:' })).toContainText('The last of three winters');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Undone:' })).toContainText('The last of three winters');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toHaveCount(0);
});

test('from the list of today: half an hour later, with a post, in three presses; what goes by itself is said once', async () => {
  await page.goto(`${demo.app}/season`);
  const told = page.getByRole('form', { name: 'Standing leave' });
  await expect(told).toContainText('was sent by itself');
  await told.getByRole('button', { name: 'I have read it' }).click();
  await expect(told).toHaveCount(0);

  const today = page.getByRole('listitem').filter({ hasText: 'Today 18:00 Repair Bench' });
  await today.getByRole('link', { name: 'Later by 30 minutes' }).click();
  await expect(page.getByRole('heading', { name: 'What this change does' })).toBeVisible();
  await page.getByRole('checkbox', { name: /Hearthside posts/ }).check();
  await page.getByRole('button', { name: 'Save and send in this order' }).click();
  await page.waitForURL(/\/dispatch\/d/);
  await expect(page.getByText(/Repair Bench/).first()).toBeVisible();

  await page.goto(`${demo.app}/channels`);
  const given = page.getByRole('checkbox', { name: /^Standing leave/ });
  await given.uncheck();
  await expect(page.getByRole('status').filter({ hasText: 'Kept.' })).toBeVisible();
  await page.reload();
  await expect(given).not.toBeChecked();
});

test('any place on its first day: a calendar to subscribe to, and a noticeboard that a person fills in', async () => {
  await page.goto(`${demo.app}/season`);
  await page.getByText('Subscribe', { exact: true }).click();
  await page.getByRole('button', { name: 'Make one' }).click();
  const address = await page.getByLabel('Address of Calendar of the house').inputValue();
  await page.goto(`${demo.app}/channels?new`);
  await page.getByRole('button', { name: /^By hand/ }).click();
  await field('What you call it').fill('Quay Noticeboard');
  await field('In short, for columns').fill('Quay');
  await page.getByRole('button', { name: 'Make it' }).click();
  await page.getByRole('link', { name: 'See its rules' }).click();
  await field('Most characters of Title').fill('0');
  await page.getByRole('button', { name: 'Keep what it asks for' }).click();
  await expect(page.getByText('A limit is 1 or more.')).toBeVisible();
  await field('Most characters of Title').fill('40');
  await page.getByRole('button', { name: 'Starts up' }).click();
  await page.getByRole('button', { name: 'Keep what it asks for' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Kept.' })).toBeVisible();

  await openEvent('ink by the inch', /Ink by the Inch/);
  await page.getByText('See the dispatch').click();
  await page.getByRole('button', { name: /^Send \d+ errands?/ }).click();
  await page.waitForURL(/\/dispatch\/d/);
  await page.goto(`${demo.app}/dispatch`);
  const tasks = page.getByRole('region', { name: 'To be done by hand' });
  await tasks.getByRole('link', { name: /Quay Noticeboard: Ink by the Inch/ }).click();
  await expect(page.locator('dt').first()).toHaveText('Starts');
  await expect(page.getByRole('button', { name: 'Copy Title' })).toBeVisible();
  await page.getByRole('button', { name: 'It could not be done' }).click();
  await expect(page.getByText('Say in a few words why it could not be done.')).toBeVisible();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.waitForURL(/\/dispatch$/);
  await expect(tasks).toHaveCount(0);
  await openEvent('ink by the inch', /Ink by the Inch/);
  await expect(slip(page, 'Quay Noticeboard')).toContainText('in step');

  // Whoever subscribed reads it, and is told where nothing is new.
  const read = await page.request.get(address);
  expect([read.status(), read.headers()['content-type']]).toEqual([200, 'text/calendar; charset=utf-8']);
  expect(await read.text()).toContain('SUMMARY:Ink by the Inch');
  const again = await page.request.get(address, { headers: { 'if-none-match': read.headers().etag ?? '' } });
  expect(again.status()).toBe(304);
});

test('a cancelled night says why, and that tickets are paid back; then it takes place after all', async () => {
  await openEvent('hearth stories', /Hearth Stories/);
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  const turn = page.getByRole('group', { name: /^Cancel/ });
  await turn.getByRole('combobox', { name: 'Which dates' }).click();
  await page.getByRole('option', { name: /14 Feb/ }).click();
  await turn.getByLabel('Why, in public words').fill('the teller is ill');
  await expect(turn.getByRole('textbox', { name: /^Its words, drafted/ })).toHaveValue(
    /is cancelled: the teller is ill\. Tickets are paid back/,
  );
  await turn.getByRole('button', { name: /see what it does$/ }).click();
  await expect(page.getByRole('heading', { name: 'What this change does' })).toBeVisible();
  await page.getByRole('button', { name: 'Save only' }).click();
  await saved();
  await page.getByRole('button', { name: 'Takes place after all' }).click();
  await page
    .getByRole('group', { name: /^Takes place after all/ })
    .getByRole('button', { name: /see what it does$/ })
    .click();
  await expect(page.getByRole('heading', { name: 'What this change does' })).toBeVisible();
  await page.getByRole('button', { name: 'Save only' }).click();
  await saved();
  // The post that said so went with it, and one says that it takes place.
  await expect(page.getByRole('textbox', { name: 'Words' }).filter({ hasText: 'is cancelled' })).toHaveCount(0);
  await expect(page.getByRole('checkbox', { name: 'tells those who bought' }).last()).toBeChecked();
});
