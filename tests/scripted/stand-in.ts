import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Hono } from 'hono';
import { createTransport } from 'nodemailer';
import type { HttpAnswer, HttpRequest } from '@/channels/kit/http';
import { doors } from '@/channels/kinds-doors';
import { kinds } from '@/channels/kinds-rules';
import type { OutgoingMail } from '@/channels/kit/mail';
import { composed } from '@/channels/kit/smtp';
import type { Wire } from '@/core/listing/channel-rules';
import type { Outside } from '../../outside/outside';
import type { Service } from '../../outside/stand-in';
import { openStore, type Thing as Kept } from '../../outside/store';
import { Place, type Fate, type Thing } from './place';
import type { Entry } from './world';

/** A thing's body as it lies on a stand-in's shelf, in its own words. */
type Body = Record<string, unknown>;
const listOf = (value: unknown): Body[] => (Array.isArray(value) ? (value as Body[]) : []);

/** How a shelf of a stand-in is read and edited by hand: by its own data, never through a reader of the house. */
interface Shelf {
  /** The stand-in that it belongs to. */
  service: string;
  seen(body: Body): boolean;
  /** The field of the proof that it says, where that is neither title nor text. */
  says?: string;
  /** Where it says the title and a second line. */
  name: string;
  under: string | null;
  dates: [list: string, reference: string] | null;
  hide: Body;
  /**
   * What is handed over to it comes to be seen later, at its own moment: its calls to judge what was handed over by.
   */
  handed?: (body: string) => boolean;
  /** Its calls by what they do. */
  calls: { place: string; open: string | null; amend: string; read: string; find: string; remove?: string };
}

/** A place with plain entries: its calls are alike. */
const plain = (path: string) => ({
  place: `POST ${path}`,
  open: null,
  amend: `PATCH ${path}/:id`,
  read: `GET ${path}/:id`,
  find: `GET ${path}`,
});

export const shelves: Record<string, Shelf> = {
  lectern: {
    service: 'lectern',
    seen: (body) => body.status === 'published',
    name: 'title',
    under: 'subtitle',
    dates: ['dates', 'ref'],
    hide: { status: 'draft' },
    calls: {
      place: 'POST /entries',
      open: null,
      amend: 'PATCH /entries/:id',
      read: 'GET /entries/:id',
      find: 'GET /entries',
      remove: 'DELETE /entries/:id',
    },
  },
  gatefold: {
    service: 'gatefold',
    seen: (body) => body.state === 'open' || body.state === 'unlisted',
    name: 'name',
    under: null,
    dates: ['sessions', 'external_id'],
    hide: { state: 'closed' },
    calls: {
      place: 'POST /listings',
      open: 'POST /listings/:id/open',
      amend: 'PATCH /listings/:id',
      read: 'GET /listings/:id',
      find: 'GET /listings',
    },
  },
  hearthside: {
    service: 'hearthside',
    seen: (body) => body.visible === true && body.held !== true,
    name: 'headline',
    under: null,
    dates: ['times', 'tag'],
    hide: { visible: false },
    calls: {
      place: 'event.create',
      open: null,
      amend: 'event.update',
      read: 'event.get',
      find: 'event.find',
      remove: 'event.delete',
    },
  },
  'hearthside-posts': {
    service: 'hearthside',
    seen: (body) => body.visible === true,
    name: 'text',
    under: null,
    dates: null,
    hide: { visible: false },
    calls: {
      place: 'post.create',
      open: null,
      amend: 'post.update',
      read: 'post.get',
      find: 'post.find',
      remove: 'post.delete',
    },
  },
  vestibule: {
    service: 'vestibule',
    seen: (body) => body.door === 'open',
    name: 'topic',
    under: null,
    dates: ['sessions', 'tag'],
    hide: { door: 'shut' },
    calls: plain('/rooms'),
  },
  concourse: {
    service: 'concourse',
    seen: (body) => body.stage === 'live',
    name: 'subject',
    under: null,
    dates: ['slots', 'tag'],
    hide: { stage: 'withheld' },
    calls: plain('/events'),
  },
  fernway: {
    service: 'fernway',
    seen: (body) => body.status === 'published',
    name: 'heading',
    under: null,
    dates: ['dates', 'tag'],
    hide: { status: 'hidden' },
    calls: { ...plain('/artists/fw-ninefold/dates'), remove: 'DELETE /artists/fw-ninefold/dates/:id' },
  },
  murmurline: {
    service: 'murmurline',
    seen: (body) => body.visible === 'yes',
    name: 'note',
    under: null,
    dates: null,
    hide: { visible: 'no' },
    calls: plain('/notes'),
  },
  'ostinato-highlights': {
    service: 'ostinato',
    seen: (body) => body.state === 'on',
    says: 'date-id',
    name: 'date',
    under: null,
    dates: null,
    hide: { state: 'off' },
    calls: plain('/highlights'),
  },
  'marrowby-diary': {
    service: 'marrowby-diary',
    seen: (body) => body.state === 'shown',
    name: 'summary',
    under: null,
    dates: null,
    hide: { state: 'turned down', word: 'by hand' },
    handed: () => false,
    calls: { place: 'PUT /feed', open: null, amend: 'PUT /feed', read: 'GET /entries', find: 'GET /entries' },
  },
  postbag: {
    service: 'postbag',
    seen: () => true,
    name: 'words',
    under: null,
    dates: null,
    hide: {},
    calls: { place: 'MAIL', open: null, amend: 'MAIL', read: 'GET /letters/:id', find: 'GET /letters' },
  },
  pennyseat: {
    service: 'pennyseat',
    seen: (body) => body.status === 'LIVE',
    name: 'title',
    under: null,
    dates: null,
    hide: { status: 'OFF' },
    handed: (csv) => !/,(OFF|CANCELLED)\b/.test(csv),
    calls: {
      place: 'PUT /in/:file',
      open: null,
      amend: 'PUT /in/:file',
      read: 'GET /stock.csv',
      find: 'GET /stock.csv',
    },
  },
};

/**
 * A stand-in with one of its shelves, without a network between: its calls can meet the same fates as a scripted
 * board's.
 */
export class StandIn extends Place {
  private readonly folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-shelf-'));
  private readonly store = openStore(this.folder);
  private readonly app = new Hono({ strict: false });
  readonly credentials: Record<string, string>;
  readonly shelf: Shelf;
  private readonly known = new Map<string, number>();
  private readonly outside: Outside;
  /** What the house's calendar feed says. */
  feed: () => string = () => '';

  constructor(
    readonly name: string,
    private readonly service: Service,
    clock: Outside['clock'],
  ) {
    super();
    this.shelf = shelves[name] ?? fault(name);
    const outside = {
      store: this.store,
      clock,
      base: this.base,
      smtpPort: () => 25,
      callBack: () => undefined,
      pull: () => Promise.resolve(this.feed()),
    };
    this.outside = outside;
    this.app.route(`/${this.shelf.service}`, service.make(outside));
    let count = 0;
    const once = (key: string, make: () => string) => {
      const made = this.store.setting(key) ?? make();
      this.store.putSetting(key, made);
      return made;
    };
    this.credentials = service.accounts(once, () => `secret${(count += 1)}`, undefined)[this.shelf.service] ?? {};
  }
  get base(): string {
    return `http://${this.shelf.service}`;
  }

  /** What lies on a shelf of the stand-in; its own, where none is named. */
  list(shelf = this.name): Kept<Body>[] {
    return this.store.list<Body>(shelf);
  }
  get things(): Thing[] {
    const { name, under, dates, seen } = this.shelf;
    return this.list().map(({ id, reference, version, body }) => ({
      id,
      reference: reference ?? '',
      version,
      state: seen(body) ? 'open' : 'closed',
      wire: {
        name: body[name],
        under: under === null ? undefined : body[under],
        dates: dates && listOf(body[dates[0]]).map((body) => ({ ref: body[dates[1]] })),
      },
    }));
  }

  private change(id: string, part: (body: Body) => Body): void {
    const found = this.store.get<Body>(this.name, id);
    if (found) this.store.change(this.name, id, { ...found.body, ...part(found.body) });
    this.look();
  }
  /** Puts something into what lies there, as its own people would. */
  put(id: string, part: Body): void {
    this.change(id, () => part);
  }
  edit(id: string, part: Wire): void {
    const { name, under, dates } = this.shelf;
    this.change(id, (body) => {
      if ('dates' in part && dates) {
        const list = listOf(body[dates[0]]);
        return { [dates[0]]: list.length > 1 ? list.slice(1) : list };
      }
      return { [under !== null && 'under' in part ? under : name]: part.name ?? part.under };
    });
  }
  /** Doubles it by hand: the same again, under the same reference. */
  double(id: string): void {
    const found = this.store.get<Body>(this.name, id);
    if (found) this.store.make(this.name, found.reference, found.body);
  }
  remove(id: string): void {
    this.store.remove(this.name, id);
  }
  close(id: string): void {
    this.change(id, () => this.shelf.hide);
  }

  protected nameOf({ method, url, body }: HttpRequest): string {
    if (url.endsWith('/rpc')) return String((JSON.parse(String(body)) as Body).method);
    const at = new URL(url).pathname.replace(`/${this.shelf.service}`, '').replace(/^\/api/, '');
    return `${method} ${at
      .replace(/\/[0-9a-f]{12}(?=\/|$)/, '/:id')
      .replace(/\/[^/]+\.jpg$/, '/:file')
      .replace(/^\/(in|out)\/.*/, '/$1/:file')}`;
  }
  protected async work({ method, url, body, headers }: HttpRequest): Promise<HttpAnswer> {
    const request = new Request(url, {
      method,
      ...(headers ? { headers } : {}),
      ...(body === undefined ? {} : { body }),
    });
    const { handed } = this.shelf;
    // What leaves the house must be allowed when it leaves; when it comes to be seen is the place's own doing.
    if (method === 'PUT' && handed?.(String(body)) === true)
      this.onSeen?.({ id: 'handed', reference: '', version: 0, state: 'open', wire: {} });
    const answer = await this.app.fetch(request);
    const text = await answer.text();
    if (handed) await this.belatedly(() => this.look());
    else if (method !== 'GET') this.look();
    return { status: answer.status, headers: answer.headers, text };
  }
  protected override async takeMail(letter: OutgoingMail): Promise<void> {
    const { message } = await createTransport({ streamTransport: true, buffer: true }).sendMail(composed(letter));
    await this.service.mail?.take(this.outside, message as Buffer, [letter.to]);
    this.look();
  }
  /** Tells what came to be seen anew. */
  private look(): void {
    for (const thing of this.open) {
      if (this.known.get(thing.id) !== thing.version) this.onSeen?.(thing);
      this.known.set(thing.id, thing.version);
    }
  }

  end(): void {
    this.store.close();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** A real kind on its own stand-in. Its budget is ample: the pace is tried elsewhere, and by the machine's clock. */
export function standInEntries(board: StandIn): Entry[] {
  const made = (name: string, through: string | null): Entry => {
    const kind = kinds.find((kind) => kind.id === name) ?? fault(name);
    const budget = { requests: 10_000, perMs: 1_000, burst: 10_000, atOnce: 2 };
    const { credentials, shelf, base } = board;
    return {
      kind: { ...kind, rules: (settings) => ({ ...kind.rules(settings), budget }) },
      door: doors[name] ?? fault(name),
      board,
      address: `${base}/${shelf.service}`,
      credentials: through === null ? credentials : {},
      through,
    };
  };
  const { service } = board.shelf;
  return service === board.name ? [made(service, null)] : [made(service, null), made(board.name, service)];
}

/** The calls of a kind, and how the first placing of it may go wrong. */
export function callsOf(name: string): { all: string[]; first: string[]; fates?: Fate[] } {
  const { place, open, amend, read, find } = (shelves[name] ?? fault(name)).calls;
  const first = open === null ? [place] : [place, open];
  return { all: [...first, amend, read, find], first };
}

function fault(name: string): never {
  throw new Error(`no stand-in ${name}`);
}
