import { z } from 'zod';
import { ostinatoCalls } from '../ostinato/client';
import type { Door, Remote } from '../kit/kind';
import { entrySchema, plainClient } from '../kit/rest';

const highlightSchema = entrySchema.extend({ until: z.number().nullable() });

/** Highlights go over the artist's page's own interface. */
export const door: Door = (connection, http) => {
  const { call, greet } = ostinatoCalls(connection, http);
  const lapses = (entry: unknown): Partial<Remote> => {
    const { until } = highlightSchema.parse(entry);
    return { lapsesAt: until };
  };
  const client = plainClient({ http, call, path: '/highlights', down: { state: 'off' }, remote: lapses });
  return {
    ...client,
    renew: async (remote) => ({
      ...remote,
      ...lapses(await call('POST', `/highlights/${remote.id}/renew`, highlightSchema, {})),
    }),
    greet,
  };
};
