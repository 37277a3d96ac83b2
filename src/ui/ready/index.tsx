import { useSyncExternalStore, type ReactNode } from 'react';
import classes from './Still.module.css';

const never = () => () => {};

/**
 * Whether the screen can be worked with: not while it is only drawn, as the server sent it, and would lose what is
 * typed.
 * Until then its forms stand `inert`.
 */
export function useReady(): boolean {
  return useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
}

/** What can only be read as long as the screen is not ready. It takes no part in how the screen is laid out. */
export function Still({ ready, children }: { ready: boolean; children: ReactNode }) {
  return (
    <div className={classes.still} inert={!ready}>
      {children}
    </div>
  );
}
