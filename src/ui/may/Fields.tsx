'use client';

import { createContext, use, type ReactNode } from 'react';
import classes from './Fields.module.css';
import { useMe } from './May';

const Open = createContext(true);

/** Fields that one may fill in, or can only read: then nothing in them takes anything, and all folds stand open. */
export function Fields({ open, children }: { open: boolean; children: ReactNode }) {
  const around = use(Open);
  if (open) return children;
  return (
    <Open value={false}>
      {around ? (
        <fieldset disabled className={classes.closed}>
          {children}
        </fieldset>
      ) : (
        children
      )}
    </Open>
  );
}

/** True where the fields around may be filled in. */
export function useOpen(): boolean {
  return use(Open);
}

/** What is only for whoever fills in: nothing of it where the fields around can only be read. */
export function WhereOpen({ children }: { children: ReactNode }) {
  return useOpen() ? children : null;
}

/** Sections of a record that are for the house alone: whoever is let in for some events leaves them as they are. */
const ofTheHouse: ReadonlySet<string> = new Set(['publicity', 'notices']);

/** Whether one fills in a section of a record: all of it, counts and seats alone, or nothing. */
export function useFills(section: string): 'all' | 'counts' | 'nothing' {
  const { rights, guest } = useMe();
  // What was done is looked at, by everybody.
  if (section === 'history') return 'all';
  if (rights.includes('correct') && !(guest && ofTheHouse.has(section))) return 'all';
  return rights.includes('count') && section === 'tickets' ? 'counts' : 'nothing';
}
