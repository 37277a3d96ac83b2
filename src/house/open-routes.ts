/**
 * The one list of what is answered to somebody who is not signed in: whether the house is well, and nothing else of it;
 * the ways in themselves; what is read by an address that cannot be guessed; and calls that are signed. Pictures are not
 * among them: places are given their bytes.
 */
const openRoutes: readonly RegExp[] = [
  /^\/api\/health$/,
  /^\/sign-in$/,
  /^\/join$/,
  /^\/api\/door\/(?:sign-in|second|look|join)$/,
  /^\/feeds\/[^/]+$/,
  /^\/api\/hooks\/[^/]+$/,
  /^\/icon\.svg$/,
  /^\/favicon\.ico$/,
];

/** True where a path is answered to anybody. */
export function isOpen(path: string): boolean {
  return openRoutes.some((route) => route.test(path));
}
