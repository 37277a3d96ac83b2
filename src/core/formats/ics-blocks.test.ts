import { icsBlocks } from './ics-blocks';

/* How much of one event is read: to the last line and unit that is taken, and not one more. */

const event = (lines: number, of = 'X-A:1') =>
  ['BEGIN:VEVENT', ...Array.from({ length: lines - 2 }, () => of), 'END:VEVENT'].join('\n');
const problems = (text: string) => icsBlocks(text).blocks.map((block) => block.problem);

test('twenty thousand lines are read, and one more is told', () => {
  expect(problems(event(20_000))).toEqual([null]);
  expect(problems(event(20_001))).toEqual(['The event has 20001 lines; at most 20000 are read. Split it.']);
});

test('a million characters are read, and more is told', () => {
  const long = (n: number) => {
    const bare = event(3, '').length;
    return `${event(3, `X-A:${'x'.repeat(n - bare - 4)}`)}\n`;
  };
  const block = icsBlocks(long(999_999)).blocks[0];
  expect([block?.problem, block?.text.length]).toEqual([null, 1_000_000]);
  expect(problems(long(1_000_001))[0]).toMatch(/has 1000002 characters; at most 1000000 are read/);
});
