import type { HttpAnswer, HttpRequest } from '@/channels/kit/http';
import type { Wire } from '@/core/listing/channel-rules';
import { Place, type Thing } from './place';

/** Something that was handed over to a board that answers later. */
interface Lot {
  ticket: string;
  at: number;
  work: () => HttpAnswer;
}

const json = (body: unknown, status = 200): HttpAnswer => ({
  status,
  headers: new Headers(),
  text: JSON.stringify(body),
});

/**
 * A board that does what it is told, in memory: with version marks or without, at once or later, in one step or in two.
 * Its own data is the judge of what became of every wish; nothing of the house is asked for that.
 */
export class Board extends Place {
  things: Thing[] = [];
  lots: Lot[] = [];
  /** By itself it answers what was handed over so long ago, in milliseconds. */
  answersAfter = Infinity;
  now: () => number = () => 0;
  private count = 0;

  constructor(readonly how: { marks: boolean; later: boolean; steps: 1 | 2; looks: boolean; keyed?: boolean }) {
    super();
  }

  /** Somebody edits it there by hand. */
  edit(id: string, part: Wire): void {
    this.change(id, (thing) => ({ ...thing, wire: { ...thing.wire, ...part } }));
  }
  remove(id: string): void {
    this.things = this.things.filter((thing) => thing.id !== id);
  }
  close(id: string): void {
    this.change(id, (thing) => ({ ...thing, state: 'closed' }));
  }
  /** Somebody there has looked at what was handed in, and lets the public see it. */
  letThrough(): void {
    for (const { id, state } of this.things)
      if (state === 'draft') this.change(id, (thing) => ({ ...thing, state: 'open' }));
  }

  /** Answers what was handed over. */
  answerLots(turnDown = false, before = Infinity): void {
    for (const lot of this.lots.filter((lot) => lot.at <= before)) {
      const { work } = lot;
      this.belated = true;
      if (!turnDown) work();
      this.belated = false;
      lot.work = () => (turnDown ? json({ message: 'the row was turned down', field: 'name' }, 422) : json({}, 200));
      this.answered.set(
        lot.ticket,
        turnDown
          ? json({ message: 'the row was turned down', field: 'name' }, 422)
          : (this.results.get(lot.ticket) ?? json({})),
      );
    }
    this.lots = this.lots.filter((lot) => lot.at > before);
  }
  private answered = new Map<string, HttpAnswer>();
  private results = new Map<string, HttpAnswer>();

  private change(id: string, make: (thing: Thing) => Thing): Thing | null {
    const i = this.things.findIndex((thing) => thing.id === id);
    const before = this.things[i];
    if (!before) return null;
    const next = { ...make(before), version: before.version + 1 };
    this.things[i] = next;
    if (next.state === 'open') this.onSeen?.(next);
    return next;
  }

  protected nameOf({ method, url }: HttpRequest): string {
    return `${method} ${new URL(url).pathname.replace(/\/t\d+$/, '/:id')}`;
  }

  protected work({ method, url, body, headers }: HttpRequest): HttpAnswer {
    this.answerLots(false, this.now() - this.answersAfter);
    return this.answer(
      method,
      new URL(url),
      body === undefined ? {} : (JSON.parse(String(body)) as Wire),
      headers ?? {},
    );
  }

  private answer(method: string, url: URL, body: Wire, headers: Record<string, string>): HttpAnswer {
    const id = /\/(t\d+)/.exec(url.pathname)?.[1] ?? '';
    const found = this.things.find((thing) => thing.id === id);
    if (method === 'GET' && url.pathname === '/find')
      return json(
        this.things
          .filter((thing) => thing.reference === url.searchParams.get('reference'))
          .map((thing) => this.withKey(thing)),
      );
    if (method === 'GET' && url.pathname === '/lot')
      return this.answered.get(url.searchParams.get('ticket') ?? '') ?? json(null);
    if (method === 'GET') return found ? json(found) : json({}, 404);
    if (this.how.later && !url.pathname.startsWith('/open'))
      return this.handOver(() => this.write(url.pathname, body, headers, id));
    return this.write(url.pathname, body, headers, id);
  }

  private withKey(thing: Thing): Thing & { key?: string } {
    return this.how.keyed ? { ...thing, key: `key to ${thing.id}` } : thing;
  }

  private handOver(work: () => HttpAnswer): HttpAnswer {
    const ticket = `lot${(this.count += 1)}`;
    this.lots.push({
      ticket,
      at: this.now(),
      work: () => {
        const answer = work();
        this.results.set(ticket, answer);
        return answer;
      },
    });
    return json({ ticket }, 202);
  }

  private write(
    path: string,
    { reference, wire, state, marks }: Wire,
    headers: Record<string, string>,
    id: string,
  ): HttpAnswer {
    if (path === '/things') {
      const made: Thing = {
        id: `t${(this.count += 1)}`,
        reference: String(reference),
        version: 1,
        wire: wire as Wire,
        state: this.how.steps === 2 || this.how.looks ? 'draft' : 'open',
      };
      this.things.push(made);
      if (made.state === 'open') this.onSeen?.(made);
      return json(this.withKey(made), 201);
    }
    const found = this.things.find((thing) => thing.id === id);
    if (!found) return json({}, 404);
    if (this.how.keyed && headers['x-key'] !== this.withKey(found).key) return json({ message: 'not its key' }, 403);
    if (this.how.marks && headers['if-match'] !== `"${found.version}"`)
      return json({ message: 'edited since', marks }, 412);
    if (path.startsWith('/open')) return json(this.change(id, (thing) => ({ ...thing, state: 'open' })));
    if (state !== undefined) return json(this.change(id, (thing) => ({ ...thing, state: state as Thing['state'] })));
    return json(this.change(id, (thing) => ({ ...thing, wire: withoutNulls({ ...thing.wire, ...(wire as Wire) }) })));
  }
}

function withoutNulls(wire: Wire): Wire {
  return Object.fromEntries(Object.entries(wire).filter(([, value]) => value !== null));
}
