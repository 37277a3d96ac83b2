'use client';

import { useRouter } from 'next/navigation';
import { useCallback } from 'react';
import { useOnPulse } from './use-pulse';

/** Loads the page's data anew whenever the house has something new to show. */
export function RefreshOnPulse() {
  const router = useRouter();
  useOnPulse(useCallback(() => router.refresh(), [router]));
  return null;
}
