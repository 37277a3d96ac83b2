import { momentWords, zonePlace } from '../dates/date-words';
import { moneyWords } from '../base/money';
import type { ListedState, ShownValue } from './shown';

/** A listing's states in words. */
const stateWords: Record<ListedState, string> = {
  draft: 'not seen yet',
  public: 'seen by everybody',
  unlisted: 'found by its link alone',
  closed: 'taken down',
  cancelled: 'told to be cancelled',
};

/** A value that is put into words without reading markup. */
export type PlainValue = Exclude<ShownValue, { kind: 'rich' }>;

/** One field before and after, for the eye. */
export interface PlainChange {
  key: string;
  before: PlainValue | null;
  after: PlainValue | null;
}

/** A plain value in words for a person, on one line where that is possible. */
export function wordsOf(value: PlainValue | null | undefined): string {
  if (value === null || value === undefined) return 'nothing';
  switch (value.kind) {
    case 'text':
      return value.text;
    case 'instant':
      return value.zone === ''
        ? `${momentWords(value.at, 'UTC')} UTC`
        : `${momentWords(value.at, value.zone)} ${zonePlace(value.zone)}`;
    case 'price':
      return `${value.name} ${moneyWords(value.minor, value.currency)}`;
    case 'count':
      return String(value.n);
    case 'refs':
      return value.words || (value.any === null ? `${value.refs.length} dates` : `any ${value.any} dates`);
    case 'file':
      return value.name === '' ? 'a file' : `file ${value.name}`;
    case 'flag':
      return value.on ? 'yes' : 'no';
    case 'state':
      return stateWords[value.is];
    case 'url':
      return value.href;
    case 'awaited':
      return `the ${value.gift} that ${value.name} will give`;
    case 'picture':
      return pictureWords(value);
    default:
      return value satisfies never;
  }
}

/**
 * A picture by what it shows, and which part of which file it is: `“A harp”, 800 × 533 from 0, 90 of 4dcb8f`. One that
 * is not ours goes by its file's name.
 */
function pictureWords({ name, alt }: Extract<ShownValue, { kind: 'picture' }>): string {
  const what = alt === '' ? 'a picture without description' : `“${alt}”`;
  const [, id, x, y, w, h] = /^([0-9a-f]{6})[0-9a-f]*-(\d+)\.(\d+)\.(\d+)x(\d+)-\d+\.jpg$/.exec(name) ?? [];
  if (id === undefined) return name === '' ? what : `${what}, ${name}`;
  return `${what}, ${w} × ${h} from ${x}, ${y} of ${id}`;
}
