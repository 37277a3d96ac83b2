import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import { orGone, OutsideError } from '../kit/http';
import type { ChannelClient, Door, Remote, Sending } from '../kit/kind';
import { entrySchema, restCalls } from '../kit/rest';
import { letterOf } from './letter';

const letterSchema = entrySchema.extend({ message_id: z.string(), answers: z.string().nullish() });
const accountSchema = z.object({
  name: z.string(),
  may_send: z.boolean(),
  smtp_port: z.number().int(),
  leave: z.string(),
});

/** True where a letter on the list's desk says what is to be said now. */
function saysSame(letter: Record<string, unknown>, wire: Wire): boolean {
  const plain = (value: unknown) => (typeof value === 'string' ? value.trim() : '');
  return ['subject', 'words', 'link'].every((key) => plain(letter[key]) === plain(wire[key]));
}

/** A letter as it goes to a segment of the list: to whom, what it says, and how one is let out of the list. */
function composedFor(
  wire: Wire,
  user: string,
  leave: string,
  { reference, once }: { reference: string; once: string },
) {
  const { subject, segment, preview, html, text } = letterOf(wire, leave);
  const domain = user.split('@')[1] ?? 'invalid';
  // It becomes part of an address: nothing else may be said by it.
  if (!/^[\w-]{1,60}$/.test(segment))
    throw new OutsideError(
      'invalid',
      `“${segment.slice(0, 60)}” is no segment: letters and figures alone`,
      null,
      'segment',
    );
  return {
    to: `${segment}@lists.${domain}`,
    subject,
    html,
    text,
    messageId: `${once}@${domain}`,
    // One click and no question (RFC 8058).
    headers: {
      'x-reference': reference,
      'x-preview': preview.replace(/\s+/g, ' '),
      'list-unsubscribe': `<${leave}>`,
      'list-unsubscribe-post': 'List-Unsubscribe=One-Click',
    },
  };
}

/** Letters go out by SMTP; what became of them is asked for by REST. A letter is known by our reference in a header. */
export const door: Door = ({ address, credentials }, http, _, mail) => {
  const { user = '', key = '' } = credentials;
  const call = restCalls(http, {
    base: `${address}/api`,
    headers: { 'x-list-key': key, 'x-list-user': user },
    what: 'Postbag',
  });
  const account = () => call('GET', '/account', accountSchema);
  const remoteOf = ({ id }: { id: string }): Remote => ({
    id,
    publicUrl: null,
    etag: null,
    link: null,
    lapsesAt: null,
  });
  const thread = (reference: string) =>
    call('GET', `/letters?reference=${encodeURIComponent(reference)}`, z.array(letterSchema));
  const newest = async (reference: string) => {
    const all = await thread(reference);
    const answered = new Set(all.map((item) => item.answers));
    return all.filter((candidate) => !answered.has(candidate.message_id));
  };
  const send = async (
    wire: Wire,
    { reference, key: once, pictures }: Sending,
    inReplyTo: string | null,
  ): Promise<Remote> => {
    const { smtp_port: port, leave } = await account();
    const host = new URL(address).hostname;
    const line = { host, port, user, password: key, from: user };
    await mail({ ...line, ...composedFor(wire, user, leave, { reference, once }), inReplyTo, pictures });
    const [made] = await newest(reference);
    if (!made) throw new OutsideError('unknown-outcome', 'the letter was taken and is not on the list’s desk yet');
    return remoteOf(made);
  };
  const client: ChannelClient = {
    place: (wire, sending) => send(wire, sending, null),
    amend: () => Promise.reject(new OutsideError('locked', 'a letter that was sent cannot be changed')),
    async correct(remote, wire, sending) {
      const all = await thread(sending.reference);
      const first = all.find((candidate) => candidate.id === remote.id);
      if (!first) throw new OutsideError('gone', 'the letter that is to be put right is not there');
      // One that went out already, and whose answer was lost, is not sent twice; another that answers it says something
      // else.
      const said = all.find((candidate) => candidate.answers === first.message_id && saysSame(candidate, wire));
      return said ? remoteOf(said) : send(wire, sending, first.message_id);
    },
    async fetch(remote) {
      const letter = await orGone(call('GET', `/letters/${remote.id}`, letterSchema));
      return letter && { wire: letter, page: null, remote: remoteOf(letter) };
    },
    preview: (wire) => Promise.resolve(letterOf({ subject: '', segment: '', ...wire }, '#').html),
    find: async (reference) => (await newest(reference)).map(remoteOf),
    async greet() {
      const me = await account();
      if (!me.may_send)
        throw new OutsideError('not-allowed', 'the key may only read; make one that may send', null, 'key');
      return me.name;
    },
  };
  return client;
};
