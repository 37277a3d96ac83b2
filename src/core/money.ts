/** How a currency is written: digits after the point (ISO 4217), sign, and the mark between thousands. */
interface CurrencyForm {
  digits: number;
  sign: string;
  thousands: string;
  point: string;
}

const forms = {
  EUR: { digits: 2, sign: '€', thousands: ',', point: '.' },
  GBP: { digits: 2, sign: '£', thousands: ',', point: '.' },
  USD: { digits: 2, sign: '$', thousands: ',', point: '.' },
  CAD: { digits: 2, sign: 'CA$', thousands: ',', point: '.' },
  AUD: { digits: 2, sign: 'A$', thousands: ',', point: '.' },
  ISK: { digits: 0, sign: 'kr ', thousands: '.', point: ',' },
  PLN: { digits: 2, sign: 'zł ', thousands: ' ', point: ',' },
} as const satisfies Record<string, CurrencyForm>;

export type Currency = keyof typeof forms;

/** The currencies a record can be priced in (ISO 4217 codes). */
export const currencies = Object.keys(forms) as [Currency, ...Currency[]];

/** Digits after the decimal point of `currency`. */
export function minorDigits(currency: Currency): number {
  return forms[currency].digits;
}

/**
 * Reads a price as people type it (`18`, `18.5`, `18,50`, `€18`, `18 EUR`, `18.-`, `1,250.00`, `1.250,00`, `5.900` for ISK) into minor
 * units.
 * Gives `null` where it is no price or has more digits than the currency knows.
 */
export function parsePrice(text: string, currency: Currency): number | null {
  const { digits, sign } = forms[currency];
  const bare = text.trim().replace(sign.trim(), '').replace(new RegExp(`^${currency}\\b|\\b${currency}$`, 'i'), '').replace(/[\s\u00a0]/g, '').replace(/[.,][-–]$/, '');
  if (!/^\d[\d.,]*$/.test(bare)) return null;
  const grouped = new RegExp(`^\\d{1,3}(?:[.,]\\d{3})+$`);
  // Both marks at once: the last one is the point.
  const both = /^(\d{1,3}(?:,\d{3})+)\.(\d+)$|^(\d{1,3}(?:\.\d{3})+),(\d+)$/.exec(bare);
  const whole = both ? `${(both[1] ?? both[3] ?? '').replace(/[.,]/g, '')}.${both[2] ?? both[4] ?? ''}` : grouped.test(bare) ? bare.replace(/[.,]/g, '') : bare;
  const found = /^(\d{1,9})(?:[.,](\d+))?$/.exec(whole);
  if (!found) return null;
  const [, units = '', part = ''] = found;
  if (part.length > digits) return null;
  return Number(units) * 10 ** digits + Number(part.padEnd(digits, '0') || 0);
}

/** A price as the public reads it: `€18`, `€18.50`, `kr 5.900`. `minor` is in minor units. */
export function moneyWords(minor: number, currency: Currency): string {
  const { digits, sign, thousands, point } = forms[currency];
  const scale = 10 ** digits;
  const units = String(Math.floor(minor / scale)).replace(/\B(?=(\d{3})+$)/g, thousands);
  const rest = minor % scale;
  return `${sign}${units}${rest === 0 ? '' : point + String(rest).padStart(digits, '0')}`;
}

/** `minor` as a plain decimal with the currency's digits (`18.50`), for wire formats and form fields. */
export function toDecimal(minor: number, currency: Currency): string {
  return (minor / 10 ** forms[currency].digits).toFixed(forms[currency].digits);
}
