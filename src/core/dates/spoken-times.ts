const hours = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
const hour = `(${hours.join('|')}|\\d{1,2})`;
const military = /\b([01]\d|2[0-3])([0-5]\d)\s*(?:hrs|hours)\b/gi;
const twelves: Record<string, string> = { noon: '12:00', midday: '12:00', midnight: '00:00' };
const shape = new RegExp(
  `\\b(half past|quarter past|quarter to|half)\\s+${hour}\\b|(?<=\\b(?:at|doors|starts|begins|until|by|around|over by)\\s{1,3})(${hours.join('|')})\\b(?:\\s+o[’']clock)?(?!\\s+[a-z]+s\\b)|\\b${hour}\\s+o[’']clock\\b`,
  'gi',
);

/** A time said in words: where it stands, and its readings on the 24-hour clock. */
export interface SpokenTime {
  from: number;
  to: number;
  readings: string[];
}

/**
 * Finds times said in words, or as ships say them: `half past seven`, `quarter to 8`, `at nine`, `ten o’clock`,
 * `midnight`, `1930 hrs`.
 */
export function spokenTimes(text: string): SpokenTime[] {
  return [
    ...[...text.matchAll(military)].map(({ 0: whole, 1: h, 2: m, index }) => ({
      from: index,
      to: index + whole.length,
      readings: [`${h}:${m}`],
    })),
    ...[...text.matchAll(/\b(noon|midday|midnight)\b/gi)].map(({ 0: whole, index }) => ({
      from: index,
      to: index + whole.length,
      readings: [twelves[whole.toLowerCase()] ?? ''],
    })),
    ...[...text.matchAll(shape)].flatMap(spoken),
  ];
}

function spoken(found: RegExpExecArray): SpokenTime[] {
  const [whole, lead = '', first, second, third] = found;
  const word = (first ?? second ?? third ?? '').toLowerCase();
  const n = hours.includes(word) ? hours.indexOf(word) + 1 : Number(word);
  if (!(n >= 1 && n <= 12)) return [];
  const minutes = /quarter to/i.test(lead) ? -15 : /quarter past/i.test(lead) ? 15 : /half/i.test(lead) ? 30 : 0;
  const reading = (base: number) => {
    const total = (base * 60 + minutes + 1440) % 1440;
    return `${String(Math.floor(total / 60)).padStart(2, '0')}:${String(total % 60).padStart(2, '0')}`;
  };
  return [{ from: found.index, to: found.index + whole.length, readings: [reading(n % 12), reading((n % 12) + 12)] }];
}
