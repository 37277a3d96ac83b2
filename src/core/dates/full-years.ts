const month = '(?:jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]{0,7}';
const notATime = '(?![:.]\\d|\\s{0,2}(?:[ap]\\.?\\s?m\\b|hrs\\b|h\\b|uhr\\b)|\\d)';
/** `1-Apr-27`, `15 March 27`, `1 Apr ’28`, `15th of March, 27`. */
const dayFirst = new RegExp(
  `\\b(\\d{1,2})(st|nd|rd|th)?([\\s./-]{1,3})(?:of\\s+)?(${month})\\.?([\\s,./-]{1,3})(['’‘]?)(\\d{2})\\b${notATime}`,
  'gi',
);
/** `April 1, ’28`. */
const monthFirst = new RegExp(
  `\\b(${month})\\.?\\s{1,2}(\\d{1,2})(?:st|nd|rd|th)?,?\\s{1,2}['’‘](\\d{2})\\b${notATime}`,
  'gi',
);
/** `12 March, 19 and 26 March`, `12-14 March, 19-21 March`: after a comma, the beginning of a list or a span. */
const goesOn = /^(?:st|nd|rd|th)?\s{0,2}(?:[-–—/&+,]|and\b|or\b|to\b|till?\b|until\b)\s{0,2}\d/i;
/** `1.4.27`: in figures, with points. */
const dotted = /\b(\d{1,2})\.(\d{1,2})\.(\d{2})(?![\d.:])/g;
const nextMonth = new RegExp(`^(?:st|nd|rd|th)?\\s{0,2}(?:of\\s+)?[-./]?${month}`, 'i');

/** A year of two figures in full: up to 69 this century's, from 70 the last one's, as the zone data goes. */
function inFull(figures: string): string {
  return `${Number(figures) < 70 ? 20 : 19}${figures}`;
}

/**
 * A line of dates with years of two figures written out: `1-Apr-27` as `1 Apr 2027`. Two figures before another month
 * are its day, not a year: `16 March 23 March` is two dates. Give it a short line.
 */
export function fullYears(line: string): string {
  return line
    .replace(dotted, (_whole, day: string, inYear: string, year: string) => `${day}.${inYear}.${inFull(year)}`)
    .replace(
      dayFirst,
      (
        whole: string,
        day: string,
        _th: string | undefined,
        _gap: string,
        named: string,
        gap: string,
        mark: string,
        year: string,
        at: number,
      ) => {
        const rest = line.slice(at + whole.length, at + whole.length + 20);
        if (mark === '' && gap.includes(',') && goesOn.test(rest)) return whole;
        if (mark === '' && nextMonth.test(rest)) return `${day} ${named}, ${year}`;
        return `${day} ${named} ${inFull(year)}`;
      },
    )
    .replace(monthFirst, (_whole, named: string, day: string, year: string) => `${day} ${named} ${inFull(year)}`);
}
