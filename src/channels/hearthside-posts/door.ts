import { z } from 'zod';
import { deletedSchema, rpcClient } from '../hearthside/rpc';
import { orGone, pageOf } from '../kit/http';
import type { Door, Remote } from '../kit/kind';

const postSchema = z.looseObject({ id: z.string(), url: z.string(), pinned_until: z.number().nullable() });

/** Posts go through the same endpoint as the page's events, with the same token. */
export const door: Door = (connection, http, kept) => {
  const { call, upload, greet } = rpcClient(connection, http, kept);
  const remoteOf = ({ id, url, pinned_until: until }: z.infer<typeof postSchema>): Remote => ({
    id,
    publicUrl: url,
    etag: null,
    link: null,
    lapsesAt: until === null ? null : until * 1000,
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
      const named = as === undefined ? {} : { as };
      return remoteOf(await call('post.update', { id: remote.id, post, ...named }, postSchema));
    },
    unpublish: (remote) => update(remote, { visible: false, pinned: false }),
    async remove(remote) {
      await call('post.delete', { id: remote.id }, deletedSchema);
    },
    renew: async (remote) => remoteOf(await call('post.pin', { id: remote.id }, postSchema)),
    async fetch(remote, { page }) {
      const post = await orGone(call('post.get', { id: remote.id }, postSchema));
      return post && { wire: post, page: page ? await pageOf(http, post.url) : null, remote: remoteOf(post) };
    },
    find: async (reference) => (await call('post.find', { reference }, z.array(postSchema))).map(remoteOf),
    greet,
  };
};
