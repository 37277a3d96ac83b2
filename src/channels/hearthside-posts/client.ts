import { z } from 'zod';
import type { ChannelClient, Remote } from '../kit/channel';
import { rpcClient } from '../hearthside/rpc';
import { orGone, pageOf, type Http } from '../kit/http';

const postSchema = z.looseObject({ id: z.string(), url: z.string(), pinned_until: z.number().nullable() });

/** Posts go through the same endpoint as the page's events, with the same token. */
export function client(
  connection: { address: string; credentials: Record<string, string> },
  http: Http,
): ChannelClient {
  const { call, upload, greet } = rpcClient(connection, http);
  const remoteOf = (post: z.infer<typeof postSchema>): Remote => ({
    id: post.id,
    publicUrl: post.url,
    etag: null,
    link: null,
    lapsesAt: post.pinned_until === null ? null : post.pinned_until * 1000,
  });
  const update = async (remote: Remote, post: object) =>
    remoteOf(await call('post.update', { id: remote.id, post }, postSchema));
  return {
    async place({ published_as: _, ...post }, sending) {
      await upload(sending);
      return remoteOf(await call('post.create', { as: 'page', reference: sending.reference, post }, postSchema));
    },
    async amend(remote, { published_as: as, ...post }, sending) {
      await upload(sending);
      return remoteOf(
        await call('post.update', { id: remote.id, post, ...(as === undefined ? {} : { as }) }, postSchema),
      );
    },
    withdraw: (remote) => update(remote, { visible: false, pinned: false }),
    renew: async (remote) => remoteOf(await call('post.pin', { id: remote.id }, postSchema)),
    async fetch(remote) {
      const post = await orGone(call('post.get', { id: remote.id }, postSchema));
      return post && { wire: post, page: await pageOf(http, post.url), remote: remoteOf(post) };
    },
    async find(reference) {
      const [found] = await call('post.find', { reference }, z.array(postSchema));
      return found ? remoteOf(found) : null;
    },
    greet,
  };
}
