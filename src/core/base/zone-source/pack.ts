import type { ZoneClock } from './zone-source';

/** Zones by name, each as a short text, as they go into a page. */
export type PackedZones = Readonly<Record<string, string>>;

const radix = 36;

/**
 * A zone's clock as a short text, `0 LMT,-60 IST|0101|-hj2k 9x …`: its offsets with their names, which of them follow
 * each other, and the seconds from each change to the next (base 36).
 */
export function packClock({ untils, offsets, abbrs }: ZoneClock): string {
  const kinds = [...new Set(offsets.map((offset, i) => `${offset} ${abbrs[i] ?? ''}`))];
  const order = offsets.map((offset, i) => kinds.indexOf(`${offset} ${abbrs[i] ?? ''}`).toString(radix));
  let before = 0;
  const steps = untils.flatMap((until) => {
    if (until === null || !Number.isFinite(until)) return [];
    const step = Math.round(until / 1000) - before;
    before += step;
    return [step.toString(radix)];
  });
  return [kinds.join(','), order.join(' '), steps.join(' ')].join('|');
}

/** The clock of such a text. */
export function unpackClock(packed: string): ZoneClock {
  const [kinds = [], order = [], steps = []] = packed.split('|').map((part, i) => part.split(i === 0 ? ',' : ' '));
  const known = kinds.map(
    (kind) => [Number(kind.slice(0, kind.indexOf(' '))), kind.slice(kind.indexOf(' ') + 1)] as const,
  );
  const spans = order.map((digit) => known[parseInt(digit, radix)] ?? ([0, ''] as const));
  let at = 0;
  const untils = steps.filter((step) => step !== '').map((step) => (at += parseInt(step, radix)) * 1000);
  return { untils: [...untils, null], offsets: spans.map(([offset]) => offset), abbrs: spans.map(([, abbr]) => abbr) };
}

/** Those of these zones that `clockOf` knows, packed. */
export function packZones(names: Iterable<string>, clockOf: (name: string) => ZoneClock | null): PackedZones {
  const found = [...new Set(names)].sort().map((name) => [name, clockOf(name)] as const);
  return Object.fromEntries(found.flatMap(([name, clock]) => (clock === null ? [] : [[name, packClock(clock)]])));
}
