import type { Context, Hono } from 'hono';
import { z } from 'zod';
import { ownerForm, ownerList, type OwnerField } from './owner';
import type { OutsideStore, Thing } from './store';

/** A body that was refused: what is wrong with which field. */
interface Refused {
  status: 409 | 422 | 423;
  field: string;
  message: string;
}

/** How a place says no. */
export type Refusal = (c: Context, status: number, message: string, field?: string) => Response;

/** Plain words and the field beside them. */
export const plainRefusal: Refusal = (c, status, message, field) =>
  c.json({ message, ...(field ? { field } : {}) }, status as 400);

/** Problem details (RFC 9457). */
export const problemRefusal: Refusal = (c, status, message, field) =>
  c.body(
    JSON.stringify({
      type: 'about:blank',
      title: message,
      status,
      detail: message,
      ...(field ? { pointer: `#/${field}` } : {}),
    }),
    status as 400,
    { 'content-type': 'application/problem+json' },
  );

interface EntriesPlace<B extends object> {
  store: OutsideStore;
  shelf: string;
  path: string;
  schema: z.ZodType<B>;
  refuse: Refusal;
  /** What it keeps beside what it was given. */
  beside?(c: Context, body: B): object;
  /** What changes with every change. */
  touch?(given: Record<string, unknown>, before: B): object;
  /** What an answer shows of an entry. */
  shown(thing: Thing<B>): object;
  /** What may not change any more, by what it was and what it is to be. */
  lock?(before: B, after: B): Refused | null;
  /** Entries can be deleted. */
  deletes?: boolean;
  /** How a body is read. JSON, where it is not said. */
  read?(c: Context): Promise<Record<string, unknown>>;
}

const json = async (c: Context) =>
  z.record(z.string(), z.unknown()).parse(await c.req.json<unknown>().catch(() => ({})));

/** Adds entries to an interface: POST, PATCH, GET one, GET by reference, and DELETE where it is offered. Each body is checked whole. */
export function entriesApi<B extends object>(api: Hono, place: EntriesPlace<B>): void {
  const { store, shelf, path, schema, refuse, beside, touch, shown, lock, deletes = false, read = json } = place;
  const check = (c: Context, input: unknown): { ok: true; body: B } | { ok: false; answer: Response } => {
    const parsed = schema.safeParse(input);
    if (parsed.success) return { ok: true, body: parsed.data };
    const [issue] = parsed.error.issues;
    return { ok: false, answer: refuse(c, 422, issue?.message ?? 'not accepted', issue?.path.join('.') ?? '') };
  };
  api.get(path, (c) => c.json(store.find<B>(shelf, c.req.query('reference') ?? '').map(shown)));
  api.post(path, async (c) => {
    const { reference, ...given } = await read(c);
    const checked = check(c, given);
    if (!checked.ok) return checked.answer;
    const made = store.make<B>(shelf, String(reference ?? ''), { ...checked.body, ...beside?.(c, checked.body) });
    return c.json(shown(made), 201);
  });
  api.get(`${path}/:id`, (c) => {
    const found = store.get<B>(shelf, c.req.param('id') ?? '');
    return found ? c.json(shown(found)) : refuse(c, 404, 'there is no such entry');
  });
  if (deletes)
    api.delete(`${path}/:id`, (c) => {
      const found = store.get<B>(shelf, c.req.param('id') ?? '');
      if (!found) return refuse(c, 404, 'there is no such entry');
      store.remove(shelf, found.id);
      return c.json({ deleted: true });
    });
  api.patch(`${path}/:id`, async (c) => {
    const found = store.get<B>(shelf, c.req.param('id') ?? '');
    if (!found) return refuse(c, 404, 'there is no such entry');
    const { reference: _, ...given } = await read(c);
    const checked = check(c, { ...found.body, ...given });
    if (!checked.ok) return checked.answer;
    const next: B = { ...found.body, ...checked.body, ...touch?.(given, found.body) };
    const shut = lock?.(found.body, next) ?? null;
    if (shut !== null) return refuse(c, shut.status, shut.message, shut.field);
    store.change(shelf, found.id, next);
    const after = store.get<B>(shelf, found.id);
    return after ? c.json(shown(after)) : refuse(c, 404, 'there is no such entry');
  });
}

interface OwnerPlace<B extends object> {
  store: OutsideStore;
  shelf: string;
  name: string;
  /** Folder of its pages where it is not the shelf's. */
  base?: string;
  row(thing: Thing<B>): { title: string; state: string };
  fields(body: B): OwnerField[];
  /** The body as the form has it, or what is wrong. */
  edit(body: B, form: Record<string, string>): B | string;
  /** Where its dates are: one can be taken out by hand. */
  dates?: keyof B;
  /** What else stands in the owner's list. */
  more?(): { id: string; title: string; state: string }[];
  /** Further acts, by name. */
  acts: Record<string, { label(body: B): string | null; does(body: B, thing: Thing<B>): B }>;
}

/** Adds the owner's pages: everything that stands there, and a form for each. */
export function ownerPages<B extends object>(app: Hono, place: OwnerPlace<B>): void {
  const { store, shelf, name, row, fields, edit, dates, more } = place;
  const list = (body: B) => (dates === undefined ? [] : (body[dates] as unknown[]));
  const acts: OwnerPlace<B>['acts'] = {
    ...place.acts,
    ...(dates === undefined
      ? {}
      : {
          less: {
            label: (body) => (list(body).length > 1 ? 'Take its first date out' : null),
            does: (body) => ({ ...body, [dates]: list(body).slice(1) }),
          },
        }),
  };
  const base = `/${place.base ?? shelf}`;
  app.get('/owner', (c) =>
    c.html(
      ownerList(name, base, [
        ...store.list<B>(shelf).map((thing) => ({ id: thing.id, ...row(thing) })),
        ...(more?.() ?? []),
      ]),
    ),
  );
  app.on(['GET', 'POST'], '/owner/:id', async (c) => {
    const found = store.get<B>(shelf, c.req.param('id') ?? '');
    if (!found) return c.notFound();
    let problem: string | null = null;
    if (c.req.method === 'POST') {
      const form = z.record(z.string(), z.string().catch('')).parse(await c.req.parseBody());
      if (form.act === 'delete') {
        store.remove(shelf, found.id);
        return c.redirect(`${base}/owner`);
      }
      if (form.act === 'double') {
        store.make(shelf, found.reference, found.body);
        return c.redirect(`${base}/owner`);
      }
      const act = acts[form.act ?? ''];
      const next = act ? act.does(found.body, found) : edit(found.body, form);
      if (typeof next === 'string') problem = next;
      else {
        store.change(shelf, found.id, next);
        return c.redirect(`${base}/owner/${found.id}`);
      }
    }
    const buttons = Object.entries(acts).flatMap(([act, { label }]) => {
      const words = label(found.body);
      return words === null ? [] : [{ act, label: words }];
    });
    return c.html(
      ownerForm(
        name,
        `${base}/owner`,
        fields(found.body),
        [...buttons, { act: 'double', label: 'Double it' }],
        problem,
      ),
    );
  });
}
