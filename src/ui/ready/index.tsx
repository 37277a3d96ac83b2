import { useSyncExternalStore } from 'react';

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

/** What a screen is called as long as its own heading stands inert with the rest of it. */
export function HeadingTillReady({ ready, children }: { ready: boolean; children: string }) {
  return ready ? null : <h1 className="visuallyHidden">{children}</h1>;
}
