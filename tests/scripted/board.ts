import { OutsideError, type HttpAnswer, type HttpRequest } from '@/channels/kit/http';
import type { Wire } from '@/core/listing/channel-rules';

/** One thing on a scripted board, as its public would see it. */
export interface Thing {
  id: string;
  reference: string;
  version: number;
  wire: Wire;
  /** `open`: the public sees it. */
  state: 'draft' | 'open' | 'closed';
}

/** What is to befall the next call of a name: its answer is lost, the process ends before or after it, it is carried out when nobody waits any more, or it is answered so. */
export type Fate =
  'lose' | 'crash-before' | 'crash-after' | 'late' | { status: number; headers?: Record<string, string> };

/** Something that was handed over to a board that answers later. */
interface Lot {
  ticket: string;
  work: () => HttpAnswer;
}

const json = (body: unknown, status = 200): HttpAnswer => ({
  status,
  headers: new Headers(),
  text: JSON.stringify(body),
});

/** A process that ended never hears an answer. `wake` lets those that waited hear it after all, as one does that only slept. */
export class Asleep {
  private waiting: (() => void)[] = [];
  never<T>(then: () => T): Promise<T> {
    return new Promise((resolve, reject) =>
      this.waiting.push(() => {
        try {
          resolve(then());
        } catch (error) {
          reject(error as Error);
        }
      }),
    );
  }
  wake(): void {
    for (const one of this.waiting.splice(0)) one();
  }
}

/**
 * A board that does what it is told, in memory: with version marks or without, at once or later, in one step or in two. Its
 * own data is the judge of what became of every wish; nothing of the house is asked for that.
 */
export class Board {
  things: Thing[] = [];
  fates: [string, Fate][] = [];
  calls: string[] = [];
  lots: Lot[] = [];
  /** Every state in which the public ever saw something, to be judged against what was allowed. */
  onSeen: ((thing: Thing) => void) | null = null;
  private count = 0;

  constructor(
    readonly how: { marks: boolean; later: boolean; steps: 1 | 2 },
    readonly asleep: Asleep,
  ) {}

  get open(): Thing[] {
    return this.things.filter((one) => one.state === 'open');
  }

  /** Somebody edits it there by hand. */
  edit(id: string, part: Wire): void {
    this.change(id, (one) => ({ ...one, wire: { ...one.wire, ...part } }));
  }
  remove(id: string): void {
    this.things = this.things.filter((one) => one.id !== id);
  }

  /** Answers what was handed over. */
  answerLots(turnDown = false): void {
    for (const lot of this.lots) {
      const { work } = lot;
      if (!turnDown) work();
      lot.work = () => (turnDown ? json({ message: 'the row was turned down', field: 'name' }, 422) : json({}, 200));
      this.answered.set(
        lot.ticket,
        turnDown
          ? json({ message: 'the row was turned down', field: 'name' }, 422)
          : (this.results.get(lot.ticket) ?? json({})),
      );
    }
    this.lots = [];
  }
  private answered = new Map<string, HttpAnswer>();
  private results = new Map<string, HttpAnswer>();

  private change(id: string, make: (one: Thing) => Thing): Thing | null {
    const i = this.things.findIndex((one) => one.id === id);
    const before = this.things[i];
    if (!before) return null;
    const next = { ...make(before), version: before.version + 1 };
    this.things[i] = next;
    if (next.state === 'open') this.onSeen?.(next);
    return next;
  }

  /** The board's side of a request. */
  async http({ method, url, body, headers }: HttpRequest): Promise<HttpAnswer> {
    const call = `${method} ${new URL(url).pathname.replace(/\/t\d+$/, '/:id')}`;
    this.calls.push(call);
    const i = this.fates.findIndex(([name]) => name === call);
    const fate = i < 0 ? null : (this.fates.splice(i, 1)[0]?.[1] ?? null);
    const work = () =>
      this.work(method, new URL(url), body === undefined ? {} : (JSON.parse(String(body)) as Wire), headers ?? {});
    if (fate === 'late') return this.asleep.never(work);
    if (fate === 'crash-before')
      return this.asleep.never(() => {
        throw new OutsideError('again-later', 'the process had ended');
      });
    if (fate !== null && typeof fate === 'object')
      return { ...json({}, fate.status), headers: new Headers(fate.headers) };
    const answer = work();
    if (fate === 'crash-after') return this.asleep.never(() => answer);
    if (fate === 'lose')
      throw new OutsideError(method === 'GET' ? 'again-later' : 'unknown-outcome', 'the answer was lost');
    return answer;
  }

  private work(method: string, url: URL, body: Wire, headers: Record<string, string>): HttpAnswer {
    const id = /\/(t\d+)/.exec(url.pathname)?.[1] ?? '';
    const found = this.things.find((one) => one.id === id);
    if (method === 'GET' && url.pathname === '/find')
      return json(this.things.filter((one) => one.reference === url.searchParams.get('reference')));
    if (method === 'GET' && url.pathname === '/lot')
      return this.answered.get(url.searchParams.get('ticket') ?? '') ?? json(null);
    if (method === 'GET') return found ? json(found) : json({}, 404);
    if (this.how.later && !url.pathname.startsWith('/open'))
      return this.handOver(() => this.write(url.pathname, body, headers, id));
    return this.write(url.pathname, body, headers, id);
  }

  private handOver(work: () => HttpAnswer): HttpAnswer {
    const ticket = `lot${(this.count += 1)}`;
    this.lots.push({
      ticket,
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
        state: this.how.steps === 2 ? 'draft' : 'open',
      };
      this.things.push(made);
      if (made.state === 'open') this.onSeen?.(made);
      return json(made, 201);
    }
    const found = this.things.find((one) => one.id === id);
    if (!found) return json({}, 404);
    if (this.how.marks && headers['if-match'] !== `"${found.version}"`)
      return json({ message: 'edited since', marks }, 412);
    if (path.startsWith('/open')) return json(this.change(id, (one) => ({ ...one, state: 'open' })));
    if (state !== undefined) return json(this.change(id, (one) => ({ ...one, state: state as Thing['state'] })));
    return json(this.change(id, (one) => ({ ...one, wire: withoutNulls({ ...one.wire, ...(wire as Wire) }) })));
  }
}

function withoutNulls(wire: Wire): Wire {
  return Object.fromEntries(Object.entries(wire).filter(([, value]) => value !== null));
}
