/** True for the word by which an action leads to another page. */
export function isRedirect(error: unknown): boolean {
  return String((error as { digest?: unknown } | null)?.digest ?? '').startsWith('NEXT_REDIRECT');
}
