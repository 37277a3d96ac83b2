import { z } from 'zod';
import { OutsideError, pageOf } from '../kit/http';
import type { Door, Remote } from '../kit/kind';
import { ostinatoCalls } from './client';

const dateSchema = z.looseObject({ url: z.string().nullish(), shown: z.boolean() });
const mirrors = () =>
  Promise.reject(new OutsideError('not-allowed', 'it shows what stands in the register: put it right there'));

/** What stands on the artist's page is only read: by the id that a date has in the register. */
export const door: Door = (connection, http) => {
  const { call, page: own, greet } = ostinatoCalls(connection, http);
  return {
    place: mirrors,
    amend: mirrors,
    unpublish: mirrors,
    async fetch(remote, { page }) {
      const date = await call('GET', `/dates/${encodeURIComponent(remote.id)}`, dateSchema);
      const seen = page && date.url ? await pageOf(http, date.url) : null;
      // While it does not show the date, why that may be is asked with it.
      const why = date.shown ? null : causeOf(await own(), date);
      const there: Remote = { ...remote, publicUrl: date.url ?? null, note: why ?? '' };
      return { wire: date, page: seen, remote: there };
    },
    find: () => Promise.resolve([]),
    greet,
  };
};

function causeOf(page: { linked_to: string }, date: z.infer<typeof dateSchema>): string | null {
  const { register_profile: profile } = date;
  if (profile === undefined || profile === null) return 'the register does not show this date to it';
  return profile === page.linked_to
    ? null
    : `the artist’s page is linked to ${page.linked_to || 'no profile'}, not to ${String(profile)}`;
}
