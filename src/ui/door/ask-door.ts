/** What a door answered: what it tells, or what is wrong by the name of the field (`''`: of none). */
export type DoorAnswer = { ok: true; told: unknown } | { ok: false; errors: Record<string, string> };

const silent = { '': 'There was no answer. Nothing was changed; try again.' };

function errorsIn(said: unknown): Record<string, string> {
  if (said === null || typeof said !== 'object') return silent;
  if ('message' in said && typeof said.message === 'string') return { '': said.message };
  if (!('errors' in said) || said.errors === null || typeof said.errors !== 'object') return silent;
  return Object.fromEntries(Object.entries(said.errors).map(([name, words]) => [name, String(words)]));
}

/** Asks one of the doors (`/api/door/…`); what was typed never stands in an address. */
export async function askDoor(what: string, input: Record<string, unknown>): Promise<DoorAnswer> {
  const answer = await fetch(`/api/door/${what}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(input),
  }).catch(() => null);
  const said: unknown = await answer?.json().catch(() => null);
  return answer?.ok ? { ok: true, told: said } : { ok: false, errors: errorsIn(said) };
}
