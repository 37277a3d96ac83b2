const names: Record<string, string> = {
  title: 'title',
  shortTitle: 'shorter title',
  subtitle: 'subtitle',
  eventType: 'kind of event',
  categories: 'further kinds',
  stage: 'stage',
  performances: 'performance',
  lineUp: 'line-up',
  tickets: 'tickets',
  levels: 'price level',
  outlets: 'outlet',
  pools: 'part of the house',
  holds: 'held back',
  words: 'words',
  line: 'line',
  teaser: 'teaser',
  short: 'short text',
  full: 'full text',
  pictures: 'picture',
  publicity: 'publicity',
  announce: 'announce moment',
  leftOff: 'channels left off',
  start: 'start',
  end: 'end',
  doors: 'doors',
  date: 'date',
  endsNextDay: 'ends after midnight',
  venueId: 'venue',
  roomId: 'room',
  setUpId: 'set-up',
  zone: 'zone',
  price: 'price (minor units)',
  organiserId: 'organiser',
  tourId: 'tour',
  tags: 'tags',
  hashtags: 'hashtags',
  audience: 'for whom',
  who: 'who',
  unlistedOn: 'found by its link alone on',
  draftOn: 'stays a draft on',
  oneLineOn: 'dates as one line on',
  links: 'link',
  leadsAway: 'where the entry leads',
  linkChoices: 'what a link leads to',
  to: 'where to',
  href: 'address',
  newWindow: 'new window',
  documents: 'document',
  programme: 'programme',
  after: 'after the show',
  recording: 'recording',
  setList: 'set list',
  shown: 'shown',
  toFollow: 'words for what is to follow',
  extras: 'extra',
  coupons: 'coupon',
  off: 'what it takes off',
  uses: 'uses',
  questions: 'question',
  ask: 'question',
  consent: 'what one says yes to',
  covers: 'which dates it is for',
  total: 'seats in all levels',
  mostPerOrder: 'most in one order',
  showLeft: 'seats left, told from',
  membersProof: 'how members show it',
  tax: 'tax',
  taxBasisPoints: 'tax rate (hundredths of a per cent)',
  serviceFee: 'service fee (minor units)',
  letter: 'the seller’s letter',
  several: 'where several are bought',
  video: 'film',
  sound: 'sound',
  guests: 'who comes',
  write: 'may write',
  closesWhy: 'why booking closes',
  soldOut: 'sold out',
  turn: 'status',
  precision: 'known of the date',
  overrides: 'words by hand',
  notices: 'post or letter',
  pin: 'pinned',
  notBefore: 'not before',
  carried: 'carried over',
  radius: 'radius clause',
  allocation: 'seats',
  quantity: 'tickets',
  focal: 'focal point',
  keep: 'part to hold whole',
  buyers: 'what it is',
  registration: 'registration',
  contact: 'how to register',
  online: 'online',
  join: 'where one joins',
  visibility: 'visibility',
  opens: 'on sale from',
  closes: 'on sale until',
  role: 'role',
  name: 'name',
  order: 'order',
};

/** A path of a record in words: `performances.p1.start` gives `performance › start`. */
export function pathWords(path: string): string {
  return path
    .split('.')
    .map((part) => names[part] ?? (/\d/.test(part) ? null : part))
    .filter((part) => part !== null)
    .join(' › ');
}

/** A value of a record in a few words. */
export function plainWords(value: unknown): string {
  if (value === undefined || value === null || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value) && value.length > 0 && value.every((candidate) => shortName(candidate) !== null))
    return value.map(shortName).join(', ').slice(0, 160);
  if (Array.isArray(value)) return value.length === 0 ? 'nothing' : value.map(plainWords).join('; ').slice(0, 160);
  if (typeof value === 'object') return (shortName(value) ?? partsInWords(value)).slice(0, 160);
  const text = String(value);
  return text.replace(/<[^>]+>/g, ' ').slice(0, 160);
}

/** An object part by part; ids and what is empty say nothing. */
function partsInWords(value: object): string {
  const parts = Object.entries(value).filter(
    ([key, item]) => !/^id$|Id$/.test(key) && item !== null && item !== '' && item !== undefined,
  );
  return parts.length === 0
    ? 'nothing'
    : parts.map(([key, item]) => `${pathWords(key)} ${plainWords(item)}`).join(', ');
}

/** What a person calls an item of a list. */
function shortName(item: unknown): string | null {
  if (item === null || typeof item !== 'object') return null;
  const { name, date, start, alt, words } = item as Record<string, unknown>;
  if (typeof date === 'string') return typeof start === 'string' ? `${date} ${start}` : date;
  return (
    [name, alt, words].find((candidate): candidate is string => typeof candidate === 'string' && candidate !== '') ??
    null
  );
}
