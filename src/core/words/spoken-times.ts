const hours = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
const hour = `(${hours.join('|')}|\\d{1,2})`;
const shape = new RegExp(`\\b(half past|quarter past|quarter to|half)\\s+${hour}\\b|\\bat\\s+(${hours.join('|')})\\b(?:\\s+o[’']clock)?|\\b${hour}\\s+o[’']clock\\b`, 'gi');

/** A time said in words: where it stands, and its readings on the 24-hour clock. */
export interface SpokenTime {
  from: number;
  to: number;
  times: string[][];
}

/** Finds times said in words: `half past seven`, `quarter to 8`, `at nine`, `ten o’clock`. */
export function spokenTimes(text: string): SpokenTime[] {
  return [...text.matchAll(shape)].flatMap((found) => {
    const [whole, lead = '', first, second, third] = found;
    const word = (first ?? second ?? third ?? '').toLowerCase();
    const n = hours.includes(word) ? hours.indexOf(word) + 1 : Number(word);
    if (!(n >= 1 && n <= 12)) return [];
    const minutes = /quarter to/i.test(lead) ? -15 : /quarter past/i.test(lead) ? 15 : /half/i.test(lead) ? 30 : 0;
    const reading = (base: number) => {
      const total = (base * 60 + minutes + 1440) % 1440;
      return `${String(Math.floor(total / 60)).padStart(2, '0')}:${String(total % 60).padStart(2, '0')}`;
    };
    return [{ from: found.index, to: found.index + whole.length, times: [[reading(n % 12), reading((n % 12) + 12)]] }];
  });
}
