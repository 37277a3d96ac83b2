import { minorDigits, type Currency } from '../../base/money';
import type { Fee } from '../../record/ticket-schema';

/** A face value with what the buyer pays and what the promoter keeps, in minor units. */
export interface FeeSplit {
  face: number;
  fee: number;
  buyerPays: number;
  net: number;
}

/**
 * The fee on a face value, in minor units: the percent part is rounded half away from zero to the minor unit, the fixed
 * part is added, and the cap is put on the sum. Nothing is taken on a face value of nothing.
 */
export function feeOn(face: number, { basisPoints, fixed, cap }: Pick<Fee, 'basisPoints' | 'fixed' | 'cap'>): number {
  if (face <= 0) return 0;
  // Whole numbers throughout: a binary fraction of a per cent would round the halves wrongly.
  const percent = Math.floor((face * basisPoints + 5_000) / 10_000);
  return Math.min(percent + fixed, cap ?? Infinity);
}

/**
 * What the buyer pays and what is kept: an added fee is paid on top, an absorbed one comes out of the face value; what
 * the house adds to each ticket that costs something (`service`, in minor units) is paid on top and kept.
 */
export function splitFee(face: number, fee: Fee | null, service: number | null): FeeSplit {
  const amount = fee === null ? 0 : feeOn(face, fee);
  const own = face > 0 ? (service ?? 0) : 0;
  return fee?.mode === 'added'
    ? { face, fee: amount, buyerPays: face + amount + own, net: face + own }
    : { face, fee: amount, buyerPays: face + own, net: face - amount + own };
}

/** What the inverse aims at. */
export type FeeAim = 'buyerPays' | 'net';

/** The face values around an aim: the one that meets it, or its neighbours on both sides. */
export type FaceFound =
  { kind: 'exact'; split: FeeSplit } | { kind: 'between'; below: FeeSplit | null; above: FeeSplit };

/**
 * The face value that makes the buyer pay (or the promoter keep) exactly `target`. Where several do, the lowest; where
 * none does, the nearest on either side. Both sums never fall as the face value rises (from the first unit on), so a
 * binary search finds it.
 */
export function faceFor(aim: FeeAim, target: number, fee: Fee | null, service: number | null): FaceFound {
  if (target <= 0) return { kind: 'exact', split: splitFee(0, fee, service) };
  const at = (face: number) => splitFee(face, fee, service)[aim];
  let low = 1;
  let high = Math.max(2, target);
  while (at(high) < target) high *= 2;
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (at(middle) >= target) high = middle;
    else low = middle + 1;
  }
  if (at(low) === target) return { kind: 'exact', split: splitFee(low, fee, service) };
  return {
    kind: 'between',
    below: low > 1 ? splitFee(low - 1, fee, service) : null,
    above: splitFee(low, fee, service),
  };
}

/**
 * A seller's own fee in a currency's minor units. Sellers name the fixed part and the most in hundredths of whatever they
 * sell in (`60` is 0.60): a currency without minor digits has whole units of it, halves away from zero.
 */
export function feeIn(fee: Pick<Fee, 'basisPoints' | 'fixed' | 'cap'>, currency: Currency): typeof fee {
  const minor = (hundredths: number) => Math.round((hundredths * 10 ** minorDigits(currency)) / 100);
  return { ...fee, fixed: minor(fee.fixed), cap: fee.cap === null ? null : minor(fee.cap) };
}
