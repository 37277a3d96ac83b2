'use client';

import type { ReactNode } from 'react';
import { useOpen } from './Fields';

interface OpenerProps {
  className?: string | undefined;
  role?: 'tab';
  'aria-label'?: string;
  'aria-expanded'?: boolean;
  'aria-selected'?: boolean;
  onClick: () => void;
  children: ReactNode;
}

/** A button that changes nothing, and shows what it says: it works within fields that one can only read, too. */
export function Opener({ role, onClick, children, ...rest }: OpenerProps) {
  if (useOpen())
    return (
      <button type="button" role={role} onClick={onClick} {...rest}>
        {children}
      </button>
    );
  // A closed set of fields takes every real button with it.
  return (
    <span
      role={role ?? 'button'}
      tabIndex={0}
      onClick={onClick}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        onClick();
      }}
      {...rest}
    >
      {children}
    </span>
  );
}
