import type { Wire } from '@/core/listing/channel-rules';
import { handMark, handStands, handTask, readMark, readStands, readTask } from './hand';
import { OutsideError } from './http';
import { seenOnPage } from './page/seen-on-page';
import type { ChannelClient, Door, Remote, Sending } from './kind';

/**
 * Nothing goes over a wire: each step is a task for a person, who says when it is done. What has a page there is read
 * back on it.
 */
export const handDoor: Door = (_, http, kept) => {
  const standing = (reference: string) => readStands(kept.get(handStands, reference));
  const remoteOf = (id: string, part: Partial<Remote> = {}): Remote => ({
    ...{ id, publicUrl: standing(id)?.address ?? null, etag: null, link: null, lapsesAt: null },
    ...part,
  });
  const task = (op: string, reference: string, wire: Wire, { key }: Sending): Promise<Remote> => {
    const ticket = `${reference}~${key.slice(0, 16)}`;
    // The same wish on the same ground is one task.
    if (kept.get(handTask, ticket) === null) kept.shelve(handTask, ticket, JSON.stringify({ reference, op, wire }));
    return Promise.resolve(remoteOf(reference, { lodged: ticket }));
  };
  const client: ChannelClient = {
    place: (wire, sending) => task('place', sending.reference, wire, sending),
    amend: (remote, wire, sending) => task('amend', remote.id, wire, sending),
    unpublish: (remote, sending) => task('unpublish', remote.id, { shown: 'no' }, sending),
    cancel: (remote, sending) => task('cancel', remote.id, { shown: 'cancelled' }, sending),
    collect: (ticket) => {
      const asked = readTask(kept.get(handTask, ticket));
      const mark = readMark(kept.get(handMark, ticket));
      if (asked === null) return Promise.reject(new OutsideError('gone', 'the task is not there any more'));
      if (mark === null) return Promise.resolve(null);
      const { reference, wire } = asked;
      if (mark.word !== null)
        return Promise.reject(new OutsideError('invalid', `${mark.by} could not do it: ${mark.word}`));
      const before = standing(reference);
      const address = mark.address ?? before?.address ?? null;
      const stands = { wire: { ...before?.wire, ...wire }, before: before?.wire ?? null, address };
      kept.put(handStands, reference, JSON.stringify(stands));
      return Promise.resolve(remoteOf(reference));
    },
    async fetch(remote, { page }) {
      const there = standing(remote.id);
      if (there === null) return null;
      const seen = page && there.address !== null ? await seenOnPage(http, there.address, there) : null;
      const note = seen === null ? {} : { note: seen.note };
      return { wire: seen?.wire ?? there.wire, page: null, remote: remoteOf(remote.id, note) };
    },
    find: (reference) => Promise.resolve(standing(reference) === null ? [] : [remoteOf(reference)]),
  };
  return client;
};
