// From a key to the proof that says it, in a browser on a running, fresh demo. Usage: npm run bench:keys
import { chromium } from '@playwright/test';

/*
 * Each field is changed a dozen times; the time is from the event to the first change in the proof column. What the
 * same key costs in a field that no channel shows (why it is saved) is the floor of the same run.
 */

const app = `http://127.0.0.1:${process.env.PORT ?? 4310}`;
const most = 30;
const times = 12;
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
/** What is typed into each field, the nth time. */
type Typed = [name: string, selector: string, typed: (n: number) => string];
const words: Typed[] = [
  ['title', '#essentials input >> nth=0', (n) => `An Evening ${n}`],
  ['subtitle', '#essentials input >> nth=1', (n) => `An afternoon of ${n}`],
  ['teaser', '#words textarea >> nth=0', (n) => `Come in out of the rain, ${n}`],
];
const facts: Typed[] = [
  ['doors', '#dates >> label=Doors', (n) => `14:${10 + n}`],
  ['start', '#dates >> label=Start', (n) => `16:${10 + n}`],
  ['price', '#tickets >> label=Price', (n) => `${11 + n}`],
];
/** One on a few channels, one on many, and a series. */
const events: [find: string, title: RegExp, fields: Typed[]][] = [
  ['halloran', /Reels for a Wet Sunday/, [...words, ...facts]],
  ['ninefold choir', /The Ninefold Choir/, [...words, ...facts]],
  ['repair bench', /Repair Bench/, words],
];

const measure = (selector: ReturnType<typeof page.locator>, typed: string, watch: 'proof' | 'itself') =>
  selector.evaluate(
    async (field: HTMLInputElement | HTMLTextAreaElement, { text, on }) => {
      const proof = document.querySelector('aside[aria-label="Proof"]');
      const proto = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
      const set = Object.getOwnPropertyDescriptor(proto, 'value')?.set?.bind(field);
      const began = performance.now();
      const said = new Promise<number>((resolve) => {
        const watching = new MutationObserver(() => {
          watching.disconnect();
          resolve(performance.now() - began);
        });
        if (proof && on === 'proof') watching.observe(proof, { subtree: true, childList: true, characterData: true });
        setTimeout(() => resolve(Number.NaN), 3_000);
      });
      set?.(text);
      field.dispatchEvent(new Event('input', { bubbles: true }));
      const itself = performance.now() - began;
      const took = on === 'proof' ? await said : itself;
      await new Promise((resolve) => setTimeout(resolve, 300));
      return took;
    },
    { text: typed, on: watch },
  );

const middle = (all: number[]) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)] ?? Number.NaN;
let worst = 0;
for (const [find, title, fields] of events) {
  await page.goto(`${app}/season?find=${encodeURIComponent(find)}`);
  await page.getByRole('link', { name: title }).first().click();
  await page.waitForURL(/records/);
  await page.getByRole('region', { name: 'Save' }).waitFor();
  await page.waitForLoadState('networkidle');
  const rows: [string, number[]][] = [];
  for (const [name, selector, typed] of fields) {
    const [inside, label] = selector.split(' >> label=');
    const field =
      label === undefined ? page.locator(selector) : page.locator(inside ?? '').getByLabel(label, { exact: true });
    const all: number[] = [];
    for (let n = 0; n < times; n += 1) all.push(await measure(field.first(), typed(n), 'proof'));
    rows.push([name, all]);
  }
  const idle: number[] = [];
  for (let n = 0; n < times; n += 1)
    idle.push(await measure(page.getByLabel('Why, for the history'), `because ${n}`, 'itself'));
  const floor = middle(idle);
  const listings = await page.locator('aside[aria-label="Proof"] section').count();
  console.log(
    `${find}: ${listings} listings drawn; a key that no channel shows: ${floor.toFixed(1)} ms (the floor of the ratios)`,
  );
  for (const [name, all] of rows) {
    const [mid, top] = [middle(all), Math.max(...all)];
    worst = Number.isNaN(top) ? Infinity : Math.max(worst, top);
    console.log(
      `  ${name.padEnd(9)} ${mid.toFixed(1)} ms, at most ${top.toFixed(1)} (${(mid / floor).toFixed(1)} times the floor)`,
    );
  }
  await page.getByRole('button', { name: 'Undo all' }).click();
}
console.log(`at most ${worst.toFixed(1)} ms (target ${most})`);
await browser.close();
process.exit(worst <= most ? 0 : 1);
