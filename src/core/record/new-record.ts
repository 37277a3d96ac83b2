import {
  afterSchema,
  type LineUpEntry,
  type Notice,
  type Performance,
  type PictureUse,
  type RecordContent,
} from './record';
import { registrationSchema, type Outlet, type PriceLevel, type Tickets } from './ticket-schema';

/** An exact performance in the evening, with parts replaced. */
export function newPerformance(id: string, date: string, zone: string, part: Partial<Performance> = {}): Performance {
  return {
    id,
    precision: 'exact',
    date,
    doors: '19:00',
    start: '19:30',
    end: null,
    endHidden: false,
    endsNextDay: false,
    lastDate: null,
    repeat: null,
    zone,
    venueId: null,
    roomId: null,
    setUpId: null,
    pencilled: false,
    turn: 'none',
    was: null,
    soldOut: false,
    note: '',
    lineUpOut: [],
    lineUpExtra: '',
    link: null,
    ...part,
  };
}

/** A price level that anyone may buy, with parts replaced. */
export function newLevel(id: string, name: string, price: number, part: Partial<PriceLevel> = {}): PriceLevel {
  return {
    id,
    name,
    price,
    buyers: 'anyone',
    code: '',
    quantity: null,
    admits: 1,
    least: 1,
    most: null,
    taxBasisPoints: null,
    opens: null,
    closes: null,
    choose: false,
    poolId: null,
    words: '',
    covers: { kind: 'one' },
    ...part,
  };
}

/** An outlet without a link or allocation, with parts replaced. */
export function newOutlet(id: string, name: string, part: Partial<Outlet> = {}): Outlet {
  return { id, name, channel: null, link: null, allocation: null, fee: null, trackAs: 'via', ...part };
}

/** A name on the line-up, with parts replaced. */
export function newEntry(
  id: string,
  name: string,
  role: LineUpEntry['role'] = 'headliner',
  part: Partial<LineUpEntry> = {},
): LineUpEntry {
  return { id, name, role, artistId: null, setTime: null, ...part };
}

/** A picture as it is first used: the middle is the focal point. */
export function newPicture(
  { id, width, height }: { id: string; width: number; height: number },
  part: Partial<PictureUse> = {},
): PictureUse {
  return { pictureId: id, width, height, alt: '', credit: '', focal: { x: 0.5, y: 0.5 }, keep: null, ...part };
}

/** A notice that is written from the facts, with parts replaced. */
export function newNotice(id: string, channel: string, part: Partial<Notice> = {}): Notice {
  return {
    id,
    channel,
    words: '',
    pin: false,
    hashtags: false,
    notBefore: null,
    subject: '',
    segment: '',
    offSince: null,
    holders: false,
    turn: null,
    ...part,
  };
}

/** Tickets with nothing said yet, with parts replaced. */
export function newTickets(part: Partial<Tickets> = {}): Tickets {
  return {
    mode: 'ticketed',
    currency: 'EUR',
    levels: [],
    link: null,
    pools: [],
    holds: null,
    outlets: [],
    total: null,
    mostPerOrder: null,
    closes: null,
    closesWhy: '',
    extras: [],
    coupons: [],
    membersProof: '',
    tax: 'unsaid',
    showLeft: null,
    serviceFee: null,
    letter: { words: '', several: '' },
    questions: [],
    refunds: '',
    registration: registrationSchema.parse({}),
    ...part,
  };
}

/** Words with nothing written yet, with parts replaced. */
export function newWords(part: Partial<RecordContent['words']> = {}): RecordContent['words'] {
  return { line: '', teaser: '', short: '', full: '', access: '', age: '', drafted: [], ...part };
}

/** A record to start from: private, one performance on `date`, everything else open. */
export function newRecord(date: string, zone: string, ids: () => string): RecordContent {
  return {
    title: 'Untitled event',
    shortTitle: '',
    subtitle: '',
    eventType: 'concert',
    categories: [],
    stage: 'confirmed',
    organiserId: null,
    tourId: null,
    tags: [],
    hashtags: [],
    performances: [newPerformance(ids(), date, zone)],
    rule: null,
    online: null,
    lineUp: [],
    tickets: newTickets(),
    words: newWords(),
    pictures: [],
    video: null,
    sound: null,
    guests: { shown: false, write: false },
    publicity: { visibility: 'private', announce: null },
    audience: { who: 'everyone' },
    leftOff: [],
    unlistedOn: [],
    draftOn: [],
    oneLineOn: [],
    links: [],
    leadsAway: null,
    linkChoices: [],
    documents: [],
    programme: [],
    after: afterSchema.parse({ recording: {}, pictures: {}, setList: {} }),
    toFollow: {},
    overrides: [],
    notices: [],
    radius: null,
    copiedFrom: null,
    carried: [],
  };
}
