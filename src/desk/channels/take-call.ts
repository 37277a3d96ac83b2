import type { House } from '@/house/house';
import { takeHook } from '@/house/hooks';

/** Takes a signed call of a channel; what it names is read at once. */
export function takeCall(house: House, key: string, signature: string, body: string): 'taken' | 'refused' | 'unknown' {
  return /^[\w-]{10,60}$/.test(key) ? takeHook(house, key, signature, body) : 'unknown';
}
