import { dispatchIdSchema, type DispatchId } from '@/core/base/ids';
import type { Tx } from '@/store/database';
import { putSetting, setting } from '@/store/settings';

/** As whom the house sends what the clock alone changes: so it stands in the book. */
export const standingLeaveName = 'standing leave';

const firstSetting = 'standing-leave-first';
const saidSetting = 'standing-leave-said';

/** Notes the first dispatch that went under standing leave: it is told to a person once. */
export function noteFirstOfLeave(tx: Tx, dispatchId: DispatchId): void {
  if (setting(tx, firstSetting) === null) putSetting(tx, firstSetting, dispatchId);
}

/** The first dispatch under standing leave, until somebody said to have read of it; `null`: there is nothing to tell. */
export function firstOfLeave(tx: Tx): DispatchId | null {
  if (setting(tx, saidSetting) !== null) return null;
  const kept = setting(tx, firstSetting);
  return kept === null ? null : dispatchIdSchema.parse(kept);
}

/** Somebody read of it. */
export function noteLeaveSaid(tx: Tx, by: string): void {
  putSetting(tx, saidSetting, by);
}
