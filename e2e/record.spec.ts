import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { leave, slip, startDemo, type Demo } from './demo';

test.describe.configure({ mode: 'serial' });

let demo: Demo;
let page: Page;
const faults: string[] = [];

test.beforeAll(async ({ browser }) => {
  test.setTimeout(600_000);
  demo = await startDemo();
  page = await (await browser.newContext()).newPage();
  // Of a worker, too: what fails there falls back on the screen without a word.
  page.on('pageerror', (error) => faults.push(error.stack ?? error.message));
});
test.afterAll(async ({ browser }) => {
  expect(faults).toEqual([]);
  await leave(browser);
  await demo.stop();
});

const field = (name: string) => page.getByLabel(name, { exact: true });
const section = (name: string) => page.getByRole('region', { name, exact: true });
const save = () => page.getByRole('button', { name: /^Save Ctrl/ }).click();
const saved = () => expect(page.getByText(/^Saved\.|^Behind:/).first()).toBeVisible();

async function openEvent(find: string, title: RegExp) {
  await page.goto(`${demo.app}/season?find=${encodeURIComponent(find)}`);
  await page.getByRole('link', { name: title }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
}

/** The full text, once it can be written: its editor comes when one comes near it. */
async function fullText() {
  await page.getByRole('textbox', { name: 'Full text' }).scrollIntoViewIfNeeded();
  const editor = page.locator('[contenteditable=true][aria-label="Full text"]');
  await expect(editor).toBeVisible();
  return editor;
}

test('a run is filled by pattern, pasted to, and edited for this one, for later ones and for all', async () => {
  await page.goto(`${demo.app}/records/new`);
  await field('Title').fill('Tuesday Looms');
  await field('Date').fill('2027-02-02');
  await field('Doors').fill('');
  await field('Start').fill('18:00');
  await page.getByRole('button', { name: 'Fill by pattern, or paste dates' }).click();
  const fill = page.getByRole('group', { name: 'Fill dates' });
  await fill.getByLabel('How many').fill('12');
  await fill.getByLabel('Not on').fill('Tue 16 March');
  await fill.getByLabel('Also on').fill('18.3.2027');
  await expect(fill.getByText(/^11 dates: Tue 9 Feb 18:00/)).toBeVisible();
  await fill.getByLabel(/in place of the one/).check();
  await fill.getByRole('button', { name: 'Put in their place 12 performances' }).click();
  await expect(page.getByText('12 performances').first()).toBeVisible();

  await page.getByRole('button', { name: /^Tue 6 Apr 2027 18:00/ }).click();
  const open = page.getByRole('group', { name: /^Performance \d+/ });
  await open.getByLabel('Start', { exact: true }).fill('18:30');
  await open.getByRole('button', { name: 'this and later 3' }).click();
  await expect(open.getByText('Touches Tue 6 Apr 18:00, Tue 13 Apr 18:00, Tue 20 Apr 18:00.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Tue 13 Apr 2027 18:30/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Thu 18 Mar 2027 18:00/ })).toBeVisible();

  await page.getByRole('button', { name: 'Fill by pattern, or paste dates' }).click();
  await fill.getByRole('button', { name: 'pasted dates' }).click();
  await fill
    .getByLabel(/One date a line/)
    .fill('Tue 27 April 2027 19:00\nFriday 29 April 2027\n2027-04-28, 11:00, 14:00');
  await expect(fill.getByText('29 April 2027 is a Thursday.', { exact: false })).toBeVisible();
  await fill.getByRole('button', { name: 'Add 3 performances' }).click();
  await page.getByRole('button', { name: 'Fill by pattern, or paste dates' }).click();
  await fill.getByRole('combobox', { name: 'Every' }).click();
  await page.getByRole('option', { name: 'rule of my own' }).click();
  await fill.getByLabel('Rule (RFC 5545)').fill('FREQ=DAILY;COUNT=100000');
  await expect(fill.getByText('The rule makes more than 3000 dates.', { exact: false })).toBeVisible();
  await fill.getByLabel('Rule (RFC 5545)').fill('FREQ=WEEKLY;BYDAYS=TU;COUNT=3');
  await expect(fill.getByText('“BYDAYS=TU” is no part of a rule', { exact: false })).toBeVisible();
  await fill.getByRole('button', { name: 'Never mind' }).click();
  await page.getByRole('button', { name: /^Tue 27 Apr 2027 19:00/ }).click();
  await page
    .getByRole('group', { name: /^Performance \d+/ })
    .getByText('open dates, status', { exact: false })
    .click();
  await page.getByLabel('pencilled: held, told to nobody yet').check();
  // What is no day stays where it was typed, also when another date is opened, and holds the save.
  await page.getByRole('button', { name: /^Tue 13 Apr 2027 18:30/ }).click();
  await field('Date').fill('the thirteenth');
  await page.getByRole('button', { name: /^Tue 20 Apr 2027 18:30/ }).click();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('“the thirteenth” is no date', { exact: false }).first()).toBeVisible();
  await page.getByRole('button', { name: /^Tue 13 Apr 2027 18:30/ }).click();
  await expect(field('Date')).toHaveValue('the thirteenth');
  await field('Date').press('Escape');
  await expect(field('Date')).toHaveValue('Tue 13 Apr 2027');
  await (await fullText()).click();
  await page.keyboard.type('Four hands, one thread.');
  await page.keyboard.press('Control+s');
  await saved();
  await page.reload();
  await expect(page.getByText('15 performances').first()).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Full text' })).toHaveText('Four hands, one thread.');
  await page.goto(`${demo.app}/season?find=Tuesday%20Looms`);
  await expect(page.getByText('14 performances, to 28 April 2027, 1 more pencilled').first()).toBeVisible();
});

test('what is known of a date decides what each channel can show; the hour that comes twice is asked for', async () => {
  await openEvent('autumn one', /Candle Fair: the autumn one/);
  await expect(slip(page, 'Lectern')).toContainText('September 2027, date to follow');
  await expect(slip(page, 'Hearthside')).toContainText('this channel needs a date and a start');
  await page.goto(`${demo.app}/records/new`);
  await field('Date').fill('2027-10-31');
  await field('Doors').fill('');
  await field('Start').fill('01:30');
  await expect(page.getByText(/01:30 comes twice on 2027-10-31/).first()).toBeVisible();
  await page.getByRole('radio', { name: 'the second 01:30' }).check();
  await expect(page.getByText(/01:30 comes twice/)).toHaveCount(0);
});

test('tickets: the sums stand beside the levels, too many given out stops, and a price is reckoned backwards', async () => {
  await openEvent('glow', /Glow: a night for the roof/);
  await expect(slip(page, 'Gatefold')).toContainText('410 seats where 400 may be sold: 10 over');
  const outlet = page.getByRole('group', { name: 'Outlet 2' });
  await outlet.getByLabel('Seats').fill('100');
  await expect(slip(page, 'Gatefold')).not.toContainText('10 over');
  const sums = page.getByLabel('Sums of the house');
  await expect(sums).toContainText('left400');
  await page.getByRole('group', { name: 'Price level 1' }).getByRole('button', { name: 'more' }).click();
  await field('exactly').fill('19.99');
  await expect(page.getByText('No price gives just that.')).toBeVisible();
  await field('exactly').fill('20');
  await page.getByRole('button', { name: /€18.56: the buyer pays €20/ }).click();
  await expect(page.getByRole('group', { name: 'Price level 1' }).getByLabel('Price', { exact: true })).toHaveValue(
    '18.56',
  );
  await page.getByLabel('At least').fill('9');
  await page.getByLabel('At most', { exact: true }).fill('4');
  await expect(page.getByText('asks for at least 9 and allows at most 4')).toBeVisible();
  await page.getByRole('button', { name: 'Undo all' }).click();
  await expect(slip(page, 'Gatefold')).toContainText('10 over');
  await openEvent('weather reports', /Orla Fennimore/);
  await expect(slip(page, 'Lectern')).toContainText('Cancelled');
});

test('words: a typed date that was right once is marked and becomes a token; a paste is cleaned and says what it lost', async () => {
  await openEvent('glass eel', /The Glass Eel Sessions/);
  const words = section('Words');
  await fullText();
  await expect(words.locator('.ProseMirror [data-verdict=stale]').first()).toHaveText('Friday 5 March');
  await expect(words.getByText('“Friday 5 March” was right once: Friday 19 March 2027').first()).toBeVisible();
  await words.getByRole('button', { name: 'use {{ date }}' }).last().click();
  await expect(page.getByRole('textbox', { name: 'Full text' })).toContainText('Come on {{ date }}');
  await expect(slip(page, 'Lectern')).toContainText('Come on Friday 19 March 2027');
  await field('Teaser').fill('In the ');
  await field('Teaser').press('End');
  await field('Teaser').pressSequentially('{{ ro');
  await expect(page.getByRole('list', { name: 'Tokens' })).toContainText('room');
  await field('Teaser').press('Tab');
  await expect(field('Teaser')).toHaveValue('In the {{ room }}');
  await field('Teaser').fill('By {{ nobody }}');
  await expect(slip(page, 'Lectern')).toContainText('There is no token “nobody”');

  await (await fullText()).click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData(
      'text/html',
      '<h2>Pasted</h2><table><tr><td>cell</td></tr></table><p style="color:red">Red <a href="/tour">tour</a></p><img src="file:///x.png"><script>alert(1)</script>',
    );
    document
      .querySelector('.ProseMirror')
      ?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(words.getByText(/Left out of the paste:.*a table.*a script/)).toBeVisible();
  await expect(words.getByText('a link without its site: /tour', { exact: false })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Full text' })).toContainText('Pasted');
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/html', '<p>x</p>'.repeat(640_000));
    document
      .querySelector('.ProseMirror')
      ?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(words.getByText('at most 2 million are read')).toBeVisible();
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('a field is worded by hand for one channel, and says so when the record moves on beneath it', async () => {
  await openEvent('halloran', /Reels for a Wet Sunday/);
  const lectern = slip(page, 'Lectern');
  await lectern.getByRole('button', { name: 'Word the title for Lectern by hand' }).click();
  const words = lectern.getByLabel('title, for Lectern alone');
  await words.fill('Wet Sunday, Monday 1 February');
  await expect(lectern.getByText(/“Monday 1 February” contradicts the record/)).toBeVisible();
  await lectern.getByRole('button', { name: 'use {{ date }}' }).click();
  await expect(words).toHaveValue('Wet Sunday, {{ date }}');
  await words.fill('Wet Sunday');
  await lectern.getByRole('button', { name: 'Word it so' }).click();
  await expect(lectern).toContainText('Worded by hand for this channel.');
  await expect(slip(page, 'Gatefold')).toContainText('Reels for a Wet Sunday');
  await field('Title').fill('Reels for a Dry Sunday');
  await expect(lectern).toContainText('it now says “Reels for a Dry Sunday”');
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('what is chosen at the head and not put in holds the save; put in, it is part of the record', async () => {
  await openEvent('Marisol', /Marisol Venn/);
  await page.getByRole('button', { name: 'Postpone', exact: true }).click();
  const turn = page.getByRole('group', { name: /^Postpone/ });
  await turn.getByRole('textbox', { name: 'New date, where it is known' }).fill('2027-05-20');
  await expect(turn.getByRole('textbox', { name: 'Start' })).toBeVisible();
  await page.keyboard.press('Control+s');
  await expect(page.getByText(/^Postpone: what is chosen there is not in the record yet/)).toBeVisible();
  await turn.getByRole('button', { name: /^Postpone / }).click();
  // What it does is shown at once, where something of it stands outside.
  await expect(page.getByRole('heading', { name: 'What this change does' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(field('Date')).toHaveValue(/20 May 2027/);
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('a copy is marked with what it carries over, and may not leave the house until each is kept or replaced', async () => {
  await openEvent('ropewalk', /Odalys Quarry at the Ropewalk/);
  await page.getByRole('button', { name: 'Copy this event' }).click();
  const carried = section('Carried over');
  for (const group of ['dates', 'doors and times', 'price of Standard', 'teaser'])
    await expect(carried).toContainText(group);
  await page.getByLabel('Visibility').getByText('public').click();
  await expect(slip(page, 'Lectern')).toContainText('still stand as in the event it was copied from');
  await field('Date').fill('2028-04-29');
  await expect(carried.getByText('replaced')).toBeVisible();
  await carried.getByRole('button', { name: /keep all/ }).click();
  await save();
  await saved();
  await expect(carried).toHaveCount(0);
  await expect(slip(page, 'Lectern')).not.toContainText('Copied:');
  await section('History').getByRole('button', { name: 'what changed' }).first().click();
  await expect(section('History')).toContainText('2028-04-29');
  await section('History').getByRole('button', { name: 'bring back' }).last().click();
  await expect(section('History')).toContainText('revision 1 restored');
});

test('a tour: a shared change goes to every date but those that have their own; dates are pasted from a table', async () => {
  await page.goto(`${demo.app}/tours`);
  await page.getByRole('link', { name: 'Salt and Static' }).click();
  await expect(page.getByRole('table', { name: 'Dates of the tour' }).getByRole('row')).toHaveCount(23);
  await expect(page.getByRole('img', { name: 'Map of 22 stops' })).toBeVisible();
  const shared = section('What the dates share');
  await shared.getByLabel('Teaser').fill('Nine voices, one loop station, no net.');
  await shared.getByRole('button', { name: 'See what it changes' }).click();
  await expect(shared.getByRole('status')).toContainText('21 dates take over: teaser.');
  await expect(shared.getByRole('status')).toContainText('keeps its own teaser');
  await shared.getByRole('button', { name: 'Save for 21 dates' }).click();
  await page.getByRole('link', { name: /^Leeds/ }).click();
  await expect(field('Teaser')).toHaveValue('Nine voices, one loop station, no net.');
  await expect(section('History')).toContainText('Salt and Static: teaser');
  await page.goBack();
  const add = section('Add dates');
  await add
    .getByLabel(/Paste CSV/)
    .fill(
      'date,start,venue,town,zone,price\n2027-06-12,20:00,Harbour Hall,Bergen,Europe/Oslo,30\n2027-06-13,25:00,Harbour Hall,Bergen,Europe/Oslo,30\n',
    );
  await add.getByRole('button', { name: 'Add these dates' }).click();
  await expect(add.getByText('1 dates added, 0 known already.')).toBeVisible();
  await expect(add.getByText('Line 3, start: “25:00” is no time of day.', { exact: false })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Dates of the tour' })).toContainText('Bergen');
});

test('the directory: where used, two that are the same made one, a profile asked for', async () => {
  await page.goto(`${demo.app}/directory`);
  await page.getByRole('tab', { name: /Artists/ }).click();
  await page.getByRole('button', { name: /^The Ninefold Choir/ }).click();
  await expect(page.getByText('belongs to Ninefold Upholstery')).toBeVisible();
  await page.getByRole('textbox', { name: 'Hearthside' }).fill('https://hearthside.example/ninefold-choir');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Ask whose it is' }).click();
  await expect(page.getByText('verified: The Ninefold Choir')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Salt Songs Rehearsed' })).toBeVisible();
  await page.getByRole('button', { name: /^Odalys Quarrie/ }).click();
  await page.getByRole('combobox', { name: 'Odalys Quarrie is the same as' }).fill('Odalys Quarry');
  await page.getByRole('option', { name: 'Odalys Quarry' }).click();
  await page.getByRole('button', { name: /Make one of them/ }).click();
  await expect(page.getByRole('button', { name: /^Odalys Quarrie/ })).toHaveCount(0);
});

test('the line-up is billed by keyboard; a name that is new goes to the directory in place', async () => {
  await openEvent('glow', /Glow: a night for the roof/);
  const names = () =>
    section('Line-up')
      .getByRole('combobox', { name: 'Name' })
      .evaluateAll((all) => all.map((element) => (element as HTMLInputElement).value));
  await expect
    .poll(async () => (await names()).slice(0, 3))
    .toEqual(['Odalys Quarry', 'Marisol Venn', 'Thimble & Crane']);
  // What is carried is told as it is carried: only then is the next key meant for it.
  const told = page.getByRole('status').filter({ hasText: /droppable|picked up|dropped/i });
  await page.getByRole('button', { name: 'Move Thimble & Crane in the billing' }).focus();
  await page.keyboard.press('Space');
  await expect(told).toContainText(/was moved over/i);
  const over = await told.textContent();
  await page.keyboard.press('ArrowUp');
  await expect(told).not.toHaveText(over ?? '');
  await page.keyboard.press('Space');
  await expect
    .poll(async () => (await names()).slice(0, 3))
    .toEqual(['Odalys Quarry', 'Thimble & Crane', 'Marisol Venn']);
  await expect(slip(page, 'Lectern')).toContainText('Odalys Quarry with Thimble & Crane, Marisol Venn');
  await page.getByRole('button', { name: 'Add a name' }).click();
  await section('Line-up').getByRole('combobox', { name: 'Name' }).last().fill('Petra Holm');
  await page.getByRole('button', { name: 'Put Petra Holm there' }).click();
  await expect(page.getByText('Not in the directory.')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('a drag across the picture marks what every crop should hold; the crops follow', async () => {
  await openEvent('marisol', /Marisol Venn/);
  await page.getByRole('button', { name: 'Forget the marked part' }).click();
  const canvas = page.getByLabel(/Focal point/);
  await canvas.scrollIntoViewIfNeeded();
  const box = (await canvas.boundingBox()) ?? { x: 0, y: 0, width: 1, height: 1 };
  await page.mouse.move(box.x + 4, box.y + 4);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 4, box.y + box.height - 4, { steps: 4 });
  await page.mouse.up();
  await expect(section('Pictures').getByLabel('Crops')).toContainText('px of the marked part');
  await expect(slip(page, 'Hearthside')).toContainText('The 11:5 crop cuts the keep-area by');
  await field('Credit').fill('');
  await expect(slip(page, 'Hearthside')).toContainText('The picture has no credit.');
  await page.getByRole('button', { name: 'Undo all' }).click();
});

test('registration asks its questions; a wording is put into the words; a link goes where the table says', async () => {
  await openEvent('repair', /Repair Bench/);
  await expect(field('Registrations at most')).toHaveValue('24');
  await field('Registrations at most').fill('many');
  await expect(page.getByText('“many” is no number of places.')).toBeVisible();
  await page.getByRole('button', { name: 'Ask a question' }).click();
  await save();
  await expect(page.getByText('A name is missing.', { exact: false }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo all' }).click();
  await page.getByRole('combobox', { name: 'Put in a wording' }).click();
  await page.getByRole('option', { name: 'Getting here' }).click();
  await expect(page.getByRole('textbox', { name: 'Full text' })).toContainText('{{ venue }} is in {{ town }}');
  await expect(slip(page, 'Lectern')).toContainText('Tallow Yard is in Marrowby, at 9 Wicker Lane.');
  await page.getByRole('button', { name: 'Undo all' }).click();
  await openEvent('thimble', /Thimble & Crane/);
  const links = page.getByRole('table', { name: 'Which ticket link goes where' });
  await expect(links.getByRole('row', { name: /^Lectern/ })).toContainText('via=lectern');
  await expect(links.getByRole('row', { name: /^Hearthside/ })).toContainText('via=hearthside');
});

test('moving seats between outlets is proposed; a count at the door is kept', async () => {
  await openEvent('thimble', /Thimble & Crane/);
  await expect(section('Tickets')).toContainText(/Moving \d+ seats from Door to Gatefold makes that/);
  await page.getByRole('button', { name: 'Move them' }).click();
  await expect(page.getByRole('group', { name: 'Outlet 2' }).getByLabel('Seats')).not.toHaveValue('15');
  await page.getByRole('button', { name: 'Undo all' }).click();
  await openEvent('weather reports', /Orla Fennimore/);
  const door = page.getByRole('group', { name: 'Outlet 2' });
  await door.getByLabel('Sold by Door').fill('x');
  await door.getByRole('button', { name: 'Note Standard sold so far' }).click();
  await expect(door.getByText('Sold: write a whole number.')).toBeVisible();
  await door.getByLabel('Sold by Door').fill('12');
  await door.getByRole('button', { name: 'Note Standard sold so far' }).click();
  await expect(door).toContainText('12 sold, 28 left');
});

test('clashes stand in a list, and where they arise', async () => {
  await page.goto(`${demo.app}/clashes`);
  await expect(page.getByRole('main')).toContainText('Both are in The Vat, Tallow Yard for 2.5 hours');
  await page.getByRole('tab', { name: /radius clause/ }).click();
  await expect(page.getByRole('main')).toContainText('the clause says nothing within 100 km and 60 days');
  await page
    .getByRole('link', { name: /The Ninefold Choir, Sat 20 Mar/ })
    .first()
    .click();
  await expect(section('Dates and place')).toContainText('Odalys Quarry plays 0 km away');
});

test('a name of ten thousand letters, right-to-left text and a picture bomb are answered with a word', async () => {
  await page.goto(`${demo.app}/records/new`);
  await field('Title').fill('a'.repeat(10_000));
  await expect(page.getByText('10000 characters; at most 300 fit. Shorten it.')).toBeVisible();
  await field('Title').evaluate((box) => {
    const data = new DataTransfer();
    data.setData('text/plain', '👩‍👩‍👧‍👦 '.repeat(80_000));
    box.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(page.getByText('Nothing was pasted: it has 960,000 characters')).toBeVisible();
  await field('Title').fill('ليلة في الساحة 🎻 ערב');
  await expect(slip(page, 'Hearthside')).toContainText('21 of 58');
  const bomb = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');
  await page.getByLabel('Picture file').setInputFiles({
    name: 'bomb.png',
    mimeType: 'image/png',
    buffer: Buffer.concat([bomb, Buffer.from('0000c3500000c35008020000', 'hex'), Buffer.alloc(64)]),
  });
  await expect(page.getByRole('alert').first()).toContainText('bomb.png');
  await page.getByLabel('Picture file').setInputFiles({
    name: 'drawn.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>'),
  });
  await expect(page.getByRole('alert').first()).toContainText('“drawn.svg” is no picture that can be read.');
});

test('a record with its sections open has no accessibility faults', async () => {
  const faults: string[] = [];
  for (const [find, title] of [
    ['moon in a drawer', /Moon in a Drawer/],
    ['cellar by lamplight', /cellar by lamplight/],
    ['glow', /Glow/],
  ] as const) {
    await openEvent(find, title);
    const folded = page.locator('button[aria-expanded=false]').filter({ hasText: /^\+/ });
    while ((await folded.count()) > 0) await folded.first().click();
    const { violations } = await new AxeBuilder({ page }).analyze();
    faults.push(
      ...violations.map(
        (result) =>
          `${find} ${result.id}: ${result.nodes
            .map((node) => node.target.join(' '))
            .slice(0, 3)
            .join(' | ')}`,
      ),
    );
  }
  expect(faults).toEqual([]);
});
