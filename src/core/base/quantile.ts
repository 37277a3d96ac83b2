/** The value below which such a share of sorted values lies (0 to 1); `null`: fewer than `least` are there. */
export function quantile(sorted: readonly number[], share: number, least: number): number | null {
  if (sorted.length < least) return null;
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? null;
}
