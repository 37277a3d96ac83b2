'use client';

import { createContext, use } from 'react';

const Today = createContext<string | null>(null);

/** Tells every field below what day it is for the house, YYYY-MM-DD. */
export const TodayProvider = Today.Provider;

/** The day it is for the house, YYYY-MM-DD. Throws outside the shell. */
export function useToday(): string {
  const today = use(Today);
  if (today === null) throw new Error('nobody has told what day it is');
  return today;
}
