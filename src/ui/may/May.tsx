'use client';

import { createContext, use, type ReactNode } from 'react';
import { whoMay, type Right } from '@/core/people/doer';
import type { Me } from '@/views/me';

const Mine = createContext<Me | null>(null);

/** Says to every screen within it who is at work. */
export function HaveMe({ me, children }: { me: Me; children: ReactNode }) {
  return <Mine value={me}>{children}</Mine>;
}

/** Oneself. Throws outside of the desk. */
export function useMe(): Me {
  const me = use(Mine);
  if (me === null) throw new Error('nobody is signed in here');
  return me;
}

/** True where one may do what asks this right. What one may not is not offered. */
export function useMay(right: Right): boolean {
  return use(Mine)?.rights.includes(right) ?? true;
}

/** Whether one decides what is for the house alone: whose an event is, and what single channels say of it. */
export function useForHouse(): boolean {
  const me = use(Mine);
  return me === null || (me.rights.includes('correct') && !me.guest);
}

/** What is offered only to whoever may; the others are told who may, where `told` says what it is. */
export function May({ right, told, children }: { right: Right; told?: string; children: ReactNode }) {
  if (useMay(right)) return children;
  return told === undefined ? null : (
    <p className="quiet">
      {told}: {whoMay(right)} may.
    </p>
  );
}
