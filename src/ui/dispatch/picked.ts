import type { Way } from '@/core/errands/steps';

/** What was picked for one listing. */
export interface Picked {
  way: string;
  reason: string;
  code: string;
  /** Of what stays as it is there: until which day. */
  until: string;
}

/** True where a way was picked and everything that it needs was said. */
export function isWhole({ way, reason, code, until }: Picked, ways: readonly Way[]): boolean {
  if (way === 'leave') return reason.trim() !== '' && /^\d{4}-\d{2}-\d{2}$/.test(until);
  const needs = ways.find((candidate) => candidate.id === way)?.needs;
  return (
    needs !== undefined &&
    (!needs.includes('reason') || reason.trim() !== '') &&
    (!needs.includes('code') || code.trim() !== '')
  );
}
