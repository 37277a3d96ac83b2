import { parseTimeOfDay } from '../dates/date-words';
import { checkRecord } from './check-record';
import type { Venue } from './directory';
import { beneath, fieldOf, finding, type Finding, type FindingPath } from '../findings/finding';
import { minorDigits, parsePrice, toDecimal, type Currency } from '../base/money';
import type { LineUpEntry, Performance, ProgrammeItem, RecordContent } from './record';
import { fail, type Result } from '../base/result';
import type { Coupon, Extra, Outlet, PriceLevel, Tickets } from './ticket-schema';

/** Keys of `T` as they stand in the form: what was typed. */
type Typed<T, K extends keyof T> = Omit<T, K> & Record<K, string>;

/** A performance as it stands in the form. */
export type PerformanceDraft = Typed<Performance, 'start' | 'end' | 'doors' | 'link'>;
/** A price level as it stands in the form. */
export type LevelDraft = Omit<
  Typed<PriceLevel, 'price' | 'quantity' | 'least' | 'most' | 'admits'>,
  'buyers' | 'taxBasisPoints'
> & {
  /** The tax in the price, in per cent as typed; the record holds hundredths of it. */
  taxPercent: string;
  /** What the level is; empty until a person has said it. */
  buyers: PriceLevel['buyers'] | '';
};
/** An outlet as it stands in the form. */
export type OutletDraft = Omit<Typed<Outlet, 'link' | 'allocation'>, 'fee'> & {
  /** `percent`: of the face value, as typed; the record holds hundredths of it. */
  fee: (Omit<Typed<NonNullable<Outlet['fee']>, 'fixed' | 'cap'>, 'basisPoints'> & { percent: string }) | null;
};
export type HoldDraft = { id: string; name: string; seats: string };

export type ExtraDraft = Typed<Extra, 'price' | 'quantity'>;
/** A coupon as it stands in the form: what it takes off is one text, a per cent or an amount. */
export type CouponDraft = Omit<Typed<Coupon, 'uses'>, 'off'> & { off: { kind: Coupon['off']['kind']; text: string } };
export type ProgrammeDraft = Typed<ProgrammeItem, 'start' | 'end'>;

export type TicketsDraft = Omit<
  Tickets,
  | 'levels'
  | 'link'
  | 'outlets'
  | 'pools'
  | 'holds'
  | 'registration'
  | 'extras'
  | 'coupons'
  | 'total'
  | 'mostPerOrder'
  | 'showLeft'
  | 'serviceFee'
> & {
  extras: ExtraDraft[];
  coupons: CouponDraft[];
  total: string;
  mostPerOrder: string;
  showLeft: string;
  serviceFee: string;
  levels: LevelDraft[];
  link: string;
  outlets: OutletDraft[];
  pools: HoldDraft[];
  holds: HoldDraft[] | null;
  registration: Typed<Tickets['registration'], 'limit'>;
};

/** A record as it stands in the form: what was typed is kept as typed until it is saved. */
export type RecordDraft = Omit<
  RecordContent,
  'performances' | 'tickets' | 'publicity' | 'lineUp' | 'online' | 'video' | 'sound' | 'radius' | 'programme'
> & {
  programme: ProgrammeDraft[];
  performances: PerformanceDraft[];
  lineUp: Typed<LineUpEntry, 'setTime'>[];
  tickets: TicketsDraft;
  online: { keep: string; join: string } | null;
  video: string;
  sound: string;
  radius: { km: string; days: string } | null;
  publicity: {
    visibility: RecordContent['publicity']['visibility'];
    announce: { date: string; time: string; zone: string } | null;
  };
};

const textOf = (value: string | number | null) => (value === null ? '' : String(value));

/** The form's view of a saved record. `readDraft(toDraft(x))` gives `x` back. */
export function toDraft(content: RecordContent): RecordDraft {
  const { tickets } = content;
  const price = (minor: number | null) => (minor === null ? '' : priceText(minor, tickets.currency));
  return {
    ...content,
    performances: content.performances.map(performanceDraft),
    lineUp: content.lineUp.map((act) => ({ ...act, setTime: textOf(act.setTime) })),
    online: content.online && { keep: textOf(content.online.keep), join: textOf(content.online.join) },
    video: textOf(content.video),
    sound: textOf(content.sound),
    programme: content.programme.map((item) => ({ ...item, start: textOf(item.start), end: textOf(item.end) })),
    radius: content.radius && { km: String(content.radius.km), days: String(content.radius.days) },
    tickets: {
      ...tickets,
      link: textOf(tickets.link),
      total: textOf(tickets.total),
      mostPerOrder: textOf(tickets.mostPerOrder),
      showLeft: textOf(tickets.showLeft),
      serviceFee: price(tickets.serviceFee),
      extras: tickets.extras.map((extra) => ({
        ...extra,
        price: price(extra.price),
        quantity: textOf(extra.quantity),
      })),
      coupons: tickets.coupons.map((coupon) => ({
        ...coupon,
        off:
          coupon.off.kind === 'percent'
            ? { kind: 'percent', text: String(coupon.off.percent) }
            : { kind: 'amount', text: price(coupon.off.minor) },
        uses: textOf(coupon.uses),
      })),
      pools: tickets.pools.map((pool) => ({ ...pool, seats: String(pool.seats) })),
      holds: tickets.holds && tickets.holds.map((hold) => ({ ...hold, seats: String(hold.seats) })),
      registration: { ...tickets.registration, limit: textOf(tickets.registration.limit) },
      levels: tickets.levels.map(({ taxBasisPoints: tax, ...level }) => ({
        ...level,
        taxPercent: tax === null ? '' : String(tax / 100),
        price: price(level.price),
        quantity: textOf(level.quantity),
        least: String(level.least),
        most: textOf(level.most),
        admits: String(level.admits),
      })),
      outlets: tickets.outlets.map((outlet) => ({
        ...outlet,
        link: textOf(outlet.link),
        allocation: textOf(outlet.allocation),
        fee: outlet.fee && {
          mode: outlet.fee.mode,
          percent: String(outlet.fee.basisPoints / 100),
          fixed: price(outlet.fee.fixed),
          cap: price(outlet.fee.cap),
        },
      })),
    },
  };
}

/**
 * One performance as it stands in the form. The same performance gives the same draft, so that what did not change is
 * not read again.
 */
function performanceDraft(performance: Performance): PerformanceDraft {
  const kept = drafts.get(performance);
  if (kept) return kept;
  const made = {
    ...performance,
    start: textOf(performance.start),
    end: textOf(performance.end),
    doors: textOf(performance.doors),
    link: textOf(performance.link),
  };
  drafts.set(performance, made);
  return made;
}

const drafts = new WeakMap<Performance, PerformanceDraft>();

/**
 * Reads what was typed. Either the record's content, fit to be saved, or every finding that forbids it; the
 * draft itself is never changed.
 */
export function readDraft(draft: RecordDraft, venues: ReadonlyMap<string, Venue>): Result<RecordContent, Finding[]> {
  const { candidate, findings } = loosely(draft);
  const checked = checkRecord(candidate, venues);
  if (checked.ok) return findings.length === 0 ? checked : fail(findings);
  const named = new Set(findings.map(fieldOf));
  return fail([...findings, ...checked.error.filter((finding) => !named.has(fieldOf(finding)))]);
}

interface ReadPerformance {
  value: Record<string, unknown>;
  findings: Finding[];
}

const readBefore = new WeakMap<PerformanceDraft, ReadPerformance>();

/** Reads the times of one performance; the path of its findings is relative to it. */
function readPerformance(performance: PerformanceDraft): ReadPerformance {
  const kept = readBefore.get(performance);
  if (kept) return kept;
  const findings: Finding[] = [];
  const value = {
    ...performance,
    note: performance.note.trim(),
    lineUpExtra: performance.lineUpExtra.trim(),
    doors: readTime(performance.doors, ['doors'], findings),
    start: readTime(performance.start, ['start'], findings),
    end: readTime(performance.end, ['end'], findings),
    link: performance.link.trim() || null,
  };
  const made = { value, findings };
  readBefore.set(performance, made);
  return made;
}

function readTime(text: string, path: FindingPath, findings: Finding[]): string | null {
  if (text.trim() === '') return null;
  const read = parseTimeOfDay(text);
  if (read === null) findings.push(finding(path, 'stops', { code: 'time-malformed', text }));
  return read ?? text;
}

/** Reads a draft as far as it can be read; what cannot be read stands as typed and has a finding. */
function loosely(draft: RecordDraft): {
  candidate: Record<string, unknown> & { performances: unknown[] };
  findings: Finding[];
} {
  const findings: Finding[] = [];
  const performances = draft.performances.map((performance, i) => {
    const read = readPerformance(performance);
    findings.push(...read.findings.map((f) => beneath(['performances', i], f)));
    return read.value;
  });
  const announce = draft.publicity.announce && {
    ...draft.publicity.announce,
    time: readTime(draft.publicity.announce.time, ['publicity', 'announce', 'time'], findings) ?? '',
  };
  const candidate = {
    ...draft,
    performances,
    lineUp: draft.lineUp.map((act, i) => ({
      ...act,
      setTime: readTime(act.setTime, ['lineUp', i, 'setTime'], findings),
    })),
    online: draft.online && { keep: draft.online.keep.trim() || null, join: draft.online.join.trim() || null },
    video: draft.video.trim() || null,
    sound: draft.sound.trim() || null,
    programme: draft.programme.map((programme, i) => ({
      ...programme,
      start: readTime(programme.start, ['programme', i, 'start'], findings),
      end: readTime(programme.end, ['programme', i, 'end'], findings),
    })),
    after: {
      ...draft.after,
      recording: { ...draft.after.recording, href: draft.after.recording.href?.trim() || null },
    },
    documents: draft.documents.map((document, i) => ({
      ...document,
      from: document.from && {
        ...document.from,
        time: readTime(document.from.time, ['documents', i, 'from', 'time'], findings) ?? '',
      },
    })),
    radius: draft.radius && {
      km: readCount(draft.radius.km, ['radius', 'km'], 'distance', findings) ?? 0,
      days: readCount(draft.radius.days, ['radius', 'days'], 'number of days', findings) ?? 0,
    },
    tickets: readTickets(draft.tickets, findings),
    publicity: { ...draft.publicity, announce },
    notices: draft.notices.map((notice, i) => ({
      ...notice,
      notBefore: notice.notBefore && {
        ...notice.notBefore,
        time: readTime(notice.notBefore.time, ['notices', i, 'notBefore', 'time'], findings) ?? '',
      },
    })),
  };
  return { candidate, findings };
}

function readTickets(tickets: TicketsDraft, findings: Finding[]) {
  const { currency } = tickets;
  const money = (text: string, path: FindingPath) => readPrice(text, currency, path, findings);
  const count = (text: string, path: FindingPath, what: string) => readCount(text, path, what, findings);
  const seats = (list: HoldDraft[], path: FindingPath) =>
    list.map((hold, i) => ({ ...hold, seats: count(hold.seats, [...path, i, 'seats'], 'number of seats') ?? 0 }));
  return {
    ...tickets,
    link: tickets.link.trim() || null,
    total: count(tickets.total, ['tickets', 'total'], 'number of seats'),
    mostPerOrder: count(tickets.mostPerOrder, ['tickets', 'mostPerOrder'], 'number of tickets'),
    showLeft: count(tickets.showLeft, ['tickets', 'showLeft'], 'number of seats'),
    serviceFee: tickets.serviceFee.trim() === '' ? null : money(tickets.serviceFee, ['tickets', 'serviceFee']),
    extras: tickets.extras.map((extra, i) => ({
      ...extra,
      price: money(extra.price, ['tickets', 'extras', i, 'price']),
      quantity: readQuantity(extra.quantity, ['tickets', 'extras', i, 'quantity'], findings),
    })),
    coupons: tickets.coupons.map((coupon, i) => ({
      ...coupon,
      uses: count(coupon.uses, ['tickets', 'coupons', i, 'uses'], 'number of times'),
      off: readOff(coupon.off, currency, ['tickets', 'coupons', i, 'off'], findings),
    })),
    pools: seats(tickets.pools, ['tickets', 'pools']),
    holds: tickets.holds && seats(tickets.holds, ['tickets', 'holds']),
    registration: {
      ...tickets.registration,
      limit: count(tickets.registration.limit, ['tickets', 'registration', 'limit'], 'number of places'),
    },
    levels: tickets.levels.map((level, i) => {
      const at: FindingPath = ['tickets', 'levels', i];
      if (level.buyers === '') findings.push(finding([...at, 'buyers'], 'stops', { code: 'buyers-unsaid' }));
      return {
        ...level,
        buyers: level.buyers === '' ? 'invited' : level.buyers,
        price: money(level.price, [...at, 'price']),
        quantity: readQuantity(level.quantity, [...at, 'quantity'], findings),
        least: count(level.least, [...at, 'least'], 'number') ?? 1,
        most: count(level.most, [...at, 'most'], 'number'),
        admits: count(level.admits, [...at, 'admits'], 'number of people') ?? 1,
        taxBasisPoints:
          level.taxPercent.trim() === '' ? null : readPercent(level.taxPercent, [...at, 'taxPercent'], findings),
      };
    }),
    outlets: tickets.outlets.map((outlet, i) => {
      const at: FindingPath = ['tickets', 'outlets', i];
      const fee = outlet.fee && {
        mode: outlet.fee.mode,
        basisPoints: readPercent(outlet.fee.percent, [...at, 'fee', 'percent'], findings),
        fixed: outlet.fee.fixed.trim() === '' ? 0 : money(outlet.fee.fixed, [...at, 'fee', 'fixed']),
        cap: outlet.fee.cap.trim() === '' ? null : money(outlet.fee.cap, [...at, 'fee', 'cap']),
      };
      return {
        ...outlet,
        link: outlet.link.trim() || null,
        allocation: count(outlet.allocation, [...at, 'allocation'], 'number of seats'),
        fee,
      };
    }),
  };
}

/** What a coupon takes off: a whole per cent up to a hundred, or an amount. */
function readOff({ kind, text }: CouponDraft['off'], currency: Currency, path: FindingPath, findings: Finding[]) {
  if (kind === 'amount') return { kind, minor: readPrice(text, currency, path, findings) };
  const found = /^\s*(\d{1,3})\s*%?\s*$/.exec(text);
  const percent = found ? Number(found[1]) : 0;
  if (percent < 1 || percent > 100) findings.push(finding(path, 'stops', { code: 'percent-malformed', text }));
  return { kind, percent };
}

function readPrice(text: string, currency: Currency, path: FindingPath, findings: Finding[]): number {
  const price = parsePrice(text, currency);
  if (price === null) findings.push(finding(path, 'stops', { code: 'price-malformed', text, currency }));
  return price ?? 0;
}

function readPercent(text: string, path: FindingPath, findings: Finding[]): number {
  if (text.trim() === '') return 0;
  const found = /^\s*(\d{1,2})(?:[.,](\d{1,2}))?\s*%?\s*$/.exec(text);
  if (!found) findings.push(finding(path, 'stops', { code: 'fee-malformed', text }));
  return found ? Number(found[1]) * 100 + Number((found[2] ?? '').padEnd(2, '0')) : 0;
}

function readQuantity(text: string, path: FindingPath, findings: Finding[]): number | null {
  if (text.trim() === '') return null;
  if (/^\s*[1-9]\d{0,5}\s*$/.test(text)) return Number(text);
  findings.push(finding(path, 'stops', { code: 'quantity-malformed', text }));
  return null;
}

function readCount(text: string, path: FindingPath, what: string, findings: Finding[]): number | null {
  if (text.trim() === '') return null;
  if (/^\s*\d{1,6}\s*$/.test(text)) return Number(text);
  findings.push(finding(path, 'stops', { code: 'number-malformed', text, what }));
  return null;
}

/** An amount as a person would type it. */
export function priceText(minor: number, currency: Currency): string {
  return minor % 10 ** minorDigits(currency) === 0
    ? String(minor / 10 ** minorDigits(currency))
    : toDecimal(minor, currency);
}

/**
 * The content that the proof is drawn from while a draft does not hold yet: the saved or last good content
 * with the draft's readable fields put over it. Fields that cannot be read keep their last good value.
 */
export function lenientContent(
  draft: RecordDraft,
  lastGood: RecordContent,
  venues: ReadonlyMap<string, Venue>,
): RecordContent {
  const whole = readDraft(draft, venues);
  if (whole.ok) return whole.value;
  const { candidate } = loosely(draft);
  const merged: Record<string, unknown> = { ...lastGood };
  for (const [key, value] of Object.entries(candidate)) {
    if (value === merged[key]) continue;
    const attempt = checkRecord({ ...merged, [key]: value }, venues);
    if (attempt.ok) Object.assign(merged, { [key]: attempt.value[key as keyof RecordContent] });
  }
  return merged as RecordContent;
}
