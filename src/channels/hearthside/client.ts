import { z } from 'zod';
import type { ChannelClient, Remote } from '../kit/channel';
import { orGone, pageOf, type Http } from '../kit/http';
import { rpcClient } from './rpc';

const eventSchema = z.looseObject({ id: z.string(), url: z.string() });

/** The page's events. */
export function client(
  connection: { address: string; credentials: Record<string, string> },
  http: Http,
): ChannelClient {
  const { call, upload, greet } = rpcClient(connection, http);
  const remoteOf = (event: z.infer<typeof eventSchema>): Remote => ({
    id: event.id,
    publicUrl: event.url,
    etag: null,
    link: null,
    lapsesAt: null,
  });
  return {
    async place({ published_as: _, ...event }, sending) {
      await upload(sending);
      // Without `as`, it would publish in the name of whoever made the token.
      return remoteOf(await call('event.create', { as: 'page', reference: sending.reference, event }, eventSchema));
    },
    async amend(remote, { published_as: as, ...event }, sending) {
      await upload(sending);
      return remoteOf(
        await call('event.update', { id: remote.id, event, ...(as === undefined ? {} : { as }) }, eventSchema),
      );
    },
    withdraw: async (remote) =>
      remoteOf(await call('event.update', { id: remote.id, event: { visible: false } }, eventSchema)),
    async fetch(remote) {
      const event = await orGone(call('event.get', { id: remote.id }, eventSchema));
      return event && { wire: event, page: await pageOf(http, event.url), remote: remoteOf(event) };
    },
    async find(reference) {
      const [found] = await call('event.find', { reference }, z.array(eventSchema));
      return found ? remoteOf(found) : null;
    },
    whose: async (link) =>
      (await call('profile.get', { handle: link.replace(/^.*\//, '') }, z.object({ name: z.string().nullable() })))
        .name,
    greet,
  };
}
