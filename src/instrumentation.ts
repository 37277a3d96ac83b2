/** Called by Next once when the server starts: the queue's runner starts with the application. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || process.env.NEXT_PHASE === 'phase-production-build') return;
  const { ownAddress } = await import('@/house/front-door');
  // An address that is none stops the house before it answers anybody.
  ownAddress(process.env);
  const { startTheRunner } = await import('@/desk/house/the-house');
  startTheRunner();
  const { tellFirstCode } = await import('@/desk/people/tell-first-code');
  tellFirstCode();
}
