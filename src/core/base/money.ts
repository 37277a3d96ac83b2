/**
 * The currencies of ISO 4217 that have a minor unit, with its digits: list one, amended up to 2026 (XCG, ZWG), and the
 * two that were withdrawn last (ANG, BGN), in which older events are still priced. Metals, drawing rights and test
 * codes have no minor unit and are no price.
 */
const minorUnits = {
  AED: 2,
  AFN: 2,
  ALL: 2,
  AMD: 2,
  ANG: 2,
  AOA: 2,
  ARS: 2,
  AUD: 2,
  AWG: 2,
  AZN: 2,
  BAM: 2,
  BBD: 2,
  BDT: 2,
  BGN: 2,
  BHD: 3,
  BIF: 0,
  BMD: 2,
  BND: 2,
  BOB: 2,
  BOV: 2,
  BRL: 2,
  BSD: 2,
  BTN: 2,
  BWP: 2,
  BYN: 2,
  BZD: 2,
  CAD: 2,
  CDF: 2,
  CHE: 2,
  CHF: 2,
  CHW: 2,
  CLF: 4,
  CLP: 0,
  CNY: 2,
  COP: 2,
  COU: 2,
  CRC: 2,
  CUP: 2,
  CVE: 2,
  CZK: 2,
  DJF: 0,
  DKK: 2,
  DOP: 2,
  DZD: 2,
  EGP: 2,
  ERN: 2,
  ETB: 2,
  EUR: 2,
  FJD: 2,
  FKP: 2,
  GBP: 2,
  GEL: 2,
  GHS: 2,
  GIP: 2,
  GMD: 2,
  GNF: 0,
  GTQ: 2,
  GYD: 2,
  HKD: 2,
  HNL: 2,
  HTG: 2,
  HUF: 2,
  IDR: 2,
  ILS: 2,
  INR: 2,
  IQD: 3,
  IRR: 2,
  ISK: 0,
  JMD: 2,
  JOD: 3,
  JPY: 0,
  KES: 2,
  KGS: 2,
  KHR: 2,
  KMF: 0,
  KPW: 2,
  KRW: 0,
  KWD: 3,
  KYD: 2,
  KZT: 2,
  LAK: 2,
  LBP: 2,
  LKR: 2,
  LRD: 2,
  LSL: 2,
  LYD: 3,
  MAD: 2,
  MDL: 2,
  MGA: 2,
  MKD: 2,
  MMK: 2,
  MNT: 2,
  MOP: 2,
  MRU: 2,
  MUR: 2,
  MVR: 2,
  MWK: 2,
  MXN: 2,
  MXV: 2,
  MYR: 2,
  MZN: 2,
  NAD: 2,
  NGN: 2,
  NIO: 2,
  NOK: 2,
  NPR: 2,
  NZD: 2,
  OMR: 3,
  PAB: 2,
  PEN: 2,
  PGK: 2,
  PHP: 2,
  PKR: 2,
  PLN: 2,
  PYG: 0,
  QAR: 2,
  RON: 2,
  RSD: 2,
  RUB: 2,
  RWF: 0,
  SAR: 2,
  SBD: 2,
  SCR: 2,
  SDG: 2,
  SEK: 2,
  SGD: 2,
  SHP: 2,
  SLE: 2,
  SOS: 2,
  SRD: 2,
  SSP: 2,
  STN: 2,
  SVC: 2,
  SYP: 2,
  SZL: 2,
  THB: 2,
  TJS: 2,
  TMT: 2,
  TND: 3,
  TOP: 2,
  TRY: 2,
  TTD: 2,
  TWD: 2,
  TZS: 2,
  UAH: 2,
  UGX: 0,
  USD: 2,
  USN: 2,
  UYI: 0,
  UYU: 2,
  UYW: 4,
  UZS: 2,
  VED: 2,
  VES: 2,
  VND: 0,
  VUV: 0,
  WST: 2,
  XAF: 0,
  XCD: 2,
  XCG: 2,
  XOF: 0,
  XPF: 0,
  YER: 2,
  ZAR: 2,
  ZMW: 2,
  ZWG: 2,
} as const satisfies Record<string, number>;

/** A currency code of ISO 4217. */
export type Currency = keyof typeof minorUnits;

/** The currencies a record can be priced in (ISO 4217 codes), by code. */
export const currencies = Object.keys(minorUnits) as [Currency, ...Currency[]];

/**
 * How an English text writes a currency, where it is not by its code (`NOK 250`): the sign before the amount, and other
 * marks.
 */
interface CurrencyForm {
  sign: string;
  thousands?: string;
  point?: string;
}

const forms: Partial<Record<Currency, CurrencyForm>> = {
  EUR: { sign: '€' },
  GBP: { sign: '£' },
  USD: { sign: '$' },
  CAD: { sign: 'CA$' },
  AUD: { sign: 'A$' },
  NZD: { sign: 'NZ$' },
  HKD: { sign: 'HK$' },
  JPY: { sign: '¥' },
  INR: { sign: '₹' },
  ILS: { sign: '₪' },
  KRW: { sign: '₩' },
  VND: { sign: '₫' },
  PHP: { sign: '₱' },
  BRL: { sign: 'R$' },
  ISK: { sign: 'kr ', thousands: '.', point: ',' },
  PLN: { sign: 'zł ', thousands: ' ', point: ',' },
};

/** Other ways in which people write a currency when they type a price in it; the code and the sign always do. */
const spellings: Partial<Record<Currency, readonly string[]>> = {
  EUR: ['euros', 'euro'],
  GBP: ['pounds', 'pound'],
  USD: ['us$', 'dollars'],
  CAD: ['c$', '$'],
  AUD: ['au$', '$'],
  NZD: ['$'],
  HKD: ['$'],
  CHF: ['sfr.', 'sfr', 'fr.', 'fr', 'francs'],
  NOK: ['kr.', 'kr'],
  SEK: ['kr.', 'kr'],
  DKK: ['kr.', 'kr'],
  ISK: ['kr.', 'kr'],
  CZK: ['kč'],
  HUF: ['ft'],
  RON: ['lei'],
  JPY: ['yen', '円', '￥'],
  CNY: ['rmb', '¥', '元'],
  KRW: ['won', '원'],
  KWD: ['kd', 'k.d.', 'د.ك'],
  BHD: ['bd'],
  JOD: ['jd'],
  TND: ['dt'],
  PLN: ['zł', 'zl'],
  TRY: ['₺', 'tl'],
  UAH: ['₴'],
  ZAR: ['r'],
  INR: ['rs.', 'rs'],
  MXN: ['$'],
  SGD: ['s$', '$'],
};

/** Digits after the decimal point of `currency` (ISO 4217, minor unit). */
export function minorDigits(currency: Currency): number {
  return minorUnits[currency];
}

function formOf(currency: Currency): Required<CurrencyForm> {
  return { thousands: ',', point: '.', sign: `${currency} `, ...forms[currency] };
}

/** The sign or code that stands before an amount, without blanks. */
export function currencySign(currency: Currency): string {
  return formOf(currency).sign.trim();
}

/** Longest text that is read as a price. */
const mostPriceChars = 40;

/**
 * Reads a price as people type it (`18`, `18.5`, `18,50`, `€18`, `18 EUR`, `18.-`, `1,250.00`, `1.250,00`, `1’250`,
 * `5.900` for ISK) into minor units. One mark with three figures behind it parts thousands, but for currencies of three
 * minor digits: there a point is the decimal point (`5.500` is five and a half), and a comma could be either and is no
 * price. Gives `null` where it is no price or has more digits than the currency knows.
 */
export function parsePrice(text: string, currency: Currency): number | null {
  if (text.length > mostPriceChars) return null;
  const digits = minorDigits(currency);
  const bare = withoutCurrency(text.trim().toLowerCase(), currency)
    .replace(/[\s\u00a0\u202f'’]/g, '')
    .replace(/[.,][-–—]$/, '');
  if (!/^\d[\d.,]*$/.test(bare)) return null;
  const plain = withPoint(bare, digits);
  const found = plain === null ? null : /^(\d{1,9})(?:\.(\d+))?$/.exec(plain);
  if (!found) return null;
  const [, units = '', part = ''] = found;
  if (part.length > digits) return null;
  return Number(units) * 10 ** digits + Number(part.padEnd(digits, '0') || 0);
}

function withoutCurrency(text: string, currency: Currency): string {
  const marks = [currency.toLowerCase(), currencySign(currency).toLowerCase(), ...(spellings[currency] ?? [])].sort(
    (a, b) => b.length - a.length,
  );
  for (const mark of marks) {
    if (text.startsWith(mark)) return text.slice(mark.length).trim();
    if (text.endsWith(mark)) return text.slice(0, -mark.length).trim();
  }
  return text;
}

/** Figures with at most a decimal point; `null` where the marks could mean two amounts, or none. */
function withPoint(bare: string, digits: number): string | null {
  const [point, comma] = [bare.lastIndexOf('.'), bare.lastIndexOf(',')];
  const last = Math.max(point, comma);
  if (last < 0) return bare;
  const mark = bare[last] ?? '';
  const [head, tail] = [bare.slice(0, last), bare.slice(last + 1)];
  const grouped = (figures: string, by: string) =>
    new RegExp(`^\\d{1,3}(?:\\${by}\\d{2,3})*\\${by}\\d{3}$`).test(figures);
  // Both marks at once: the last one is the point.
  if (point >= 0 && comma >= 0)
    return grouped(head, mark === '.' ? ',' : '.') ? `${head.replace(/[.,]/g, '')}.${tail}` : null;
  if (head.includes(mark)) return grouped(bare, mark) ? bare.replaceAll(mark, '') : null;
  if (tail.length !== 3) return `${head}.${tail}`;
  if (digits < 3) return grouped(bare, mark) ? head + tail : null;
  return mark === '.' ? `${head}.${tail}` : null;
}

/**
 * A price as the public reads it in an English text: `€18`, `€18.50`, `kr 5.900`, `NOK 250`, `KWD 5.500`. `minor` is in
 * minor units.
 */
export function moneyWords(minor: number, currency: Currency): string {
  const { sign, thousands, point } = formOf(currency);
  const digits = minorDigits(currency);
  const scale = 10 ** digits;
  const units = String(Math.floor(minor / scale)).replace(/\B(?=(\d{3})+$)/g, thousands);
  const rest = minor % scale;
  return `${sign}${units}${rest === 0 ? '' : point + String(rest).padStart(digits, '0')}`;
}

/** `minor` as a plain decimal with the currency's digits (`18.50`), for wire formats and form fields. */
export function toDecimal(minor: number, currency: Currency): string {
  const digits = minorDigits(currency);
  const text = String(minor).padStart(digits + 1, '0');
  return digits === 0 ? text : `${text.slice(0, -digits)}.${text.slice(-digits)}`;
}
