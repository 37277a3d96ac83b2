import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import type { ChannelClient, Door } from '../kit/kind';
import { OutsideError, sentOnce } from '../kit/http';
import { entrySchema, plainClient, putFile, restCalls } from '../kit/rest';

const noteSchema = entrySchema.extend({ in_reply_to: z.string().nullish() });

/** A form's fields (HTML Living Standard, application/x-www-form-urlencoded): a picture is its file and its words. */
function form(body: object): string {
  const out = new URLSearchParams();
  for (const [name, value] of Object.entries(body as Wire)) {
    const picture = z.object({ file: z.string(), alt: z.string() }).safeParse(value);
    if (picture.success) {
      out.set(`${name}_file`, picture.data.file);
      out.set(`${name}_alt`, picture.data.alt);
    } else if (value === null) out.set(name === 'picture' ? 'picture_file' : name, '');
    else out.set(name, String(value));
  }
  return out.toString();
}

/**
 * Murmurline takes forms and gives JSON. What is past changing is said anew in a reply: the newest of a thread is where
 * it stands.
 */
export const door: Door = ({ address, credentials }, http, kept) => {
  const headers = { authorization: `Token ${credentials.token ?? ''}` };
  const encode = { type: 'application/x-www-form-urlencoded', write: form };
  const call = restCalls(http, { base: `${address}/api`, headers, what: 'Murmurline', encode });
  const put = putFile(http, `${address}/api/pictures`, headers);
  const plain = plainClient({
    http,
    call,
    path: '/notes',
    down: { visible: 'no' },
    before: ({ pictures }) => sentOnce(kept, pictures, put),
  });
  const threadOf = (reference: string) =>
    call('GET', `/notes?reference=${encodeURIComponent(reference)}`, z.array(noteSchema));
  const client: ChannelClient = {
    ...plain,
    async correct(remote, wire, sending) {
      await sentOnce(kept, sending.pictures, put);
      // A reply is a posting of its own: one that stands there already by a lost answer is not posted again.
      const said = (await threadOf(sending.reference)).find(
        (candidate) =>
          candidate.in_reply_to === remote.id && String(candidate.note).trim() === String(wire.note).trim(),
      );
      if (said) return { ...remote, id: said.id, publicUrl: said.url ?? null };
      const body = { ...wire, reference: sending.reference, in_reply_to: remote.id };
      const { id, url } = await call('POST', '/notes', entrySchema, body);
      return { ...remote, id, publicUrl: url ?? null };
    },
    async find(reference) {
      const thread = await threadOf(reference);
      const answered = new Set(thread.map((item) => item.in_reply_to));
      return thread
        .filter((candidate) => !answered.has(candidate.id))
        .map(({ id, url }) => ({ id, publicUrl: url ?? null, etag: null, link: null, lapsesAt: null }));
    },
    async greet() {
      const me = await call('GET', '/account', z.object({ handle: z.string(), may_post: z.boolean() }));
      if (!me.may_post)
        throw new OutsideError('not-allowed', `${me.handle} gave a token that may only read`, null, 'token');
      return me.handle;
    },
  };
  return client;
};
