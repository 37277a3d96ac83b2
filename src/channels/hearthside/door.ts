import { z } from 'zod';
import type { Door, Remote } from '../kit/kind';
import { orGone, pageOf } from '../kit/http';
import { deletedSchema, rpcClient } from './rpc';

const eventSchema = z.looseObject({ id: z.string(), url: z.string() });
const profileSchema = z.object({ name: z.string().nullable() });

/** The page's events. */
export const door: Door = (connection, http, kept) => {
  const { call, upload, greet } = rpcClient(connection, http, kept);
  const remoteOf = ({ id, url }: z.infer<typeof eventSchema>): Remote => ({
    id,
    publicUrl: url,
    etag: null,
    link: null,
    lapsesAt: null,
  });
  return {
    async place({ published_as: _, ...event }, sending) {
      await upload(sending);
      // Without `as`, it would publish in the name of whoever made the token.
      // Nor is it posted about, unless somebody asked for that.
      const how = { as: 'page', announce: sending.effects.includes('announce'), reference: sending.reference };
      return remoteOf(await call('event.create', { ...how, event }, eventSchema));
    },
    async amend(remote, { published_as: as, ...event }, sending) {
      await upload(sending);
      const named = as === undefined ? {} : { as };
      return remoteOf(await call('event.update', { id: remote.id, event, ...named }, eventSchema));
    },
    unpublish: async (remote) =>
      remoteOf(await call('event.update', { id: remote.id, event: { visible: false } }, eventSchema)),
    async remove(remote) {
      await call('event.delete', { id: remote.id }, deletedSchema);
    },
    async fetch(remote, { page }) {
      const event = await orGone(call('event.get', { id: remote.id }, eventSchema));
      return event && { wire: event, page: page ? await pageOf(http, event.url) : null, remote: remoteOf(event) };
    },
    find: async (reference) => (await call('event.find', { reference }, z.array(eventSchema))).map(remoteOf),
    whose: async (link) => (await call('profile.get', { handle: link.replace(/^.*\//, '') }, profileSchema)).name,
    greet,
  };
};
