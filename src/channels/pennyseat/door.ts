import Papa from 'papaparse';
import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import { rowsOf } from '../kit/csv';
import { accepted, OutsideError, pageOf, readAnswer } from '../kit/http';
import type { Door, Remote, Sending } from '../kit/kind';

const cell = z.string().max(2000).default('');
const stockSchema = z.object({
  ref: cell,
  title: cell,
  text: cell,
  venue_code: cell,
  price: cell,
  seats: cell,
  status: cell,
  tag: cell,
  date: cell,
  time: cell,
  sold: cell,
});
const resultSchema = z.object({ ref: cell, result: cell, field: cell, message: cell });

/**
 * Pennyseat takes small CSV files into a tray by PUT, and puts what became of each row into another after the next full
 * hour.
 */
export const door: Door = ({ address, credentials }, http) => {
  const headers = { authorization: `Member ${credentials.member ?? ''}:${credentials.word ?? ''}` };
  const get = async (path: string) =>
    accepted(await http({ method: 'GET', url: `${address}/api${path}`, headers }), false);
  const remoteOf = (ref: string, lodged?: string): Remote => {
    const url = `${address}/t/${encodeURIComponent(ref)}`;
    return {
      id: ref,
      publicUrl: url,
      etag: null,
      link: url,
      lapsesAt: null,
      ...(lodged === undefined ? {} : { lodged }),
    };
  };
  const lodge = async (ref: string, action: 'ENTER' | 'CHANGE', wire: Wire, { key }: Sending) => {
    const { shows, ...flat } = wire;
    const [show] = z.array(z.record(z.string(), z.unknown())).catch([]).parse(shows);
    const row = { ref, action, ...flat, ...show };
    const body = Papa.unparse([row], { newline: '\r\n' });
    const name = `${key}.csv`;
    const request = { method: 'PUT', url: `${address}/api/in/${name}`, body } as const;
    accepted(await http({ ...request, headers: { ...headers, 'content-type': 'text/csv; charset=utf-8' } }), true);
    return remoteOf(ref, name);
  };
  const stock = async (ref: string) => {
    const { text } = await get(`/stock.csv?ref=${encodeURIComponent(ref)}`);
    return rowsOf(text, stockSchema, 'Pennyseat stock').filter((row) => row.ref === ref);
  };
  return {
    place: (wire, sending) => lodge(sending.reference, 'ENTER', wire, sending),
    amend: (remote, wire, sending) => lodge(remote.id, 'CHANGE', wire, sending),
    unpublish: (remote, sending) => lodge(remote.id, 'CHANGE', { status: 'OFF' }, sending),
    cancel: (remote, sending) => lodge(remote.id, 'CHANGE', { status: 'CANCELLED', reason: sending.reason }, sending),
    async collect(name) {
      const answer = await http({ method: 'GET', url: `${address}/api/out/${name}`, headers });
      if (answer.status === 404) {
        // Not worked through yet, or never come: the tray says which, and what never came is not waited for.
        const lies = await http({ method: 'GET', url: `${address}/api/in/${name}`, headers });
        if (lies.status === 404)
          throw new OutsideError(
            'gone',
            'the batch is not in their tray: it never came. Try again, and it is laid in anew',
          );
        accepted(lies, false);
        return null;
      }
      const [row] = rowsOf(accepted(answer, false).text, resultSchema, 'Pennyseat results');
      if (!row) throw new OutsideError('invalid', 'Pennyseat results: the file holds no row');
      if (row.result === 'TAKEN') return remoteOf(row.ref);
      throw new OutsideError(
        row.result === 'LOCKED' ? 'locked' : 'invalid',
        row.message || 'the row was turned down',
        null,
        row.field || null,
      );
    },
    async fetch(remote, { page }) {
      const [row] = await stock(remote.id);
      if (!row) return null;
      const { tag, date, time, seats, sold, ...flat } = row;
      const wire: Wire = { ...flat, shows: [{ tag, date, time }], ...counted({ seats, sold }) };
      const there = remoteOf(remote.id);
      return { wire, page: page ? await pageOf(http, there.publicUrl ?? '') : null, remote: there };
    },
    find: async (reference) => (await stock(reference)).map((item) => remoteOf(item.ref)),
    async greet() {
      const me = readAnswer(
        await get('/member'),
        z.object({ name: z.string(), standing: z.string() }),
        'Pennyseat member',
      );
      if (me.standing !== 'good')
        throw new OutsideError('not-allowed', `${me.name} is ${me.standing} there`, null, 'member');
      return me.name;
    },
  };
};

/** Cells that hold numbers; what is no number stays as it was found. */
function counted(cells: Record<string, string>): Wire {
  return Object.fromEntries(
    Object.entries(cells)
      .filter(([, text]) => text !== '')
      .map(([name, text]) => [name, /^\d{1,9}$/.test(text) ? Number(text) : text]),
  );
}
