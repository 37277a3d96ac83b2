import type { Precision } from '@/core/record/choices';

/** How much of a date is known, in words. */
export const precisionWords: Record<Precision, string> = {
  open: 'open',
  month: 'month',
  day: 'day',
  exact: 'day and time',
};
