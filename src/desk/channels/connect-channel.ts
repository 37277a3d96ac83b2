import { noteDoing } from '@/store/persons';
import { asks, asksAgain } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { eventTypes } from '@/core/record/choices';
import { houseOwn } from '@/house/house-own';
import { channelAudienceSchema } from '@/core/listing/channel-row';
import { channelIdSchema, type ChannelId } from '@/core/base/ids';
import { z } from 'zod';
import { outsideErrorWords } from '@/core/errands/retry';
import { fail, ok, type Result } from '@/core/base/result';
import { webAddress } from '@/core/base/scalars';
import type { ChannelRow } from '@/core/listing/channel-row';
import { isOutsideError } from '@/channels/kit/http';
import type { Kind } from '@/channels/kit/kind';
import { allowedHost, foreignHost, tryClient } from '@/house/clients';
import { feedShelf } from '@/channels/kit/feed';
import { handMark, handStands, handTask } from '@/channels/kit/hand';
import { feedKey, ownOrigin } from '@/house/feeds';
import { hookKey } from '@/house/hooks';
import type { House } from '@/house/house';
import {
  accountOf,
  allChannels,
  forgetAt,
  forgetKept,
  formerConnection,
  keepAt,
  keptAt,
  putAudience,
  putChannel,
  putSettings,
  renameRow,
  takeChannelOff,
} from '@/store/channels';
import { transaction, type Tx } from '@/store/database';
import { wakeErrands } from '@/store/errands';
import { askReading, listingsOf } from '@/store/listings';

const namesSchema = z.object({ name: z.string().trim().min(1).max(60), shortName: z.string().trim().min(1).max(20) });

export interface ConnectInput {
  address: string;
  credentials: Record<string, string>;
  /** The names that the user gives it; the kind's own where they are missing. */
  name?: string;
  shortName?: string;
  /** The kind's own settings; those that it has where they are missing. */
  settings?: Record<string, unknown>;
}

/** A connected channel: its id, and the name under which it knows us. */
export interface Connected {
  id: string;
  knownAs: string;
}

/**
 * Connects a channel of a kind, or one that is there anew: the credentials are tried before they are kept. The error
 * names the field or says what the channel said.
 */
export async function connectChannel(
  house: House,
  doer: Doer,
  which: { kind: string } | { id: string },
  input: ConnectInput,
): Promise<Result<Connected, Record<string, string>>> {
  asks(doer, 'connectChannel');
  const before = 'id' in which ? (allChannels(house.db).find((channel) => channel.id === which.id) ?? null) : null;
  const kind = house.kinds.find((kind) => kind.id === ('id' in which ? before?.kind : which.kind));
  if (!kind || kind.connectsAs !== undefined) return fail({ address: 'There is no such channel to connect.' });
  const address = webAddress.safeParse(kind.ours === true ? ownOrigin() : input.address.trim().replace(/\/+$/, ''));
  if (!address.success) return fail({ address: 'Write the address as http:// or https:// and the service’s host.' });
  const { username, password, search, hash } = new URL(address.data);
  if (username !== '' || password !== '' || search !== '' || hash !== '')
    return fail({ address: 'Write the address alone: without a user, and without anything from ? or # on.' });
  const credentials = kind.connectionSchema.safeParse(input.credentials);
  if (!credentials.success)
    return fail(Object.fromEntries(credentials.error.issues.map((issue) => [String(issue.path[0]), 'Fill this in.'])));
  const settings = kind.settings.safeParse(input.settings ?? before?.settings ?? {});
  if (!settings.success)
    return fail(Object.fromEntries(settings.error.issues.map((issue) => [String(issue.path[0]), 'Put this right.'])));
  const names = namesSchema.safeParse({
    name: input.name ?? before?.name ?? kind.name,
    shortName: input.shortName ?? before?.shortName ?? shortOf(input.name ?? kind.shortName),
  });
  if (!names.success)
    return fail(
      Object.fromEntries(
        names.error.issues.map((issue) => [
          String(issue.path[0]),
          'Give it a name: up to 60 characters, the short one up to 20.',
        ]),
      ),
    );
  if (allChannels(house.db).some((channel) => channel.id !== before?.id && channel.name === names.data.name))
    return fail({
      name: `A channel of yours is called “${names.data.name}” already. Give this one a name of its own.`,
    });
  try {
    const connection = { address: address.data, credentials: credentials.data };
    const client = tryClient(house, kind.id, connection, `trying ${kind.id}`);
    const knownAs = client.greet ? await client.greet() : '';
    const id = transaction(house.db, (tx) => {
      asksAgain(tx, doer, 'connectChannel');
      noteDoing(tx, doer, {
        at: house.clock.now(),
        sort: 'channel',
        words: `connected ${names.data.name} at ${new URL(address.data).host}`,
      });
      return keep(
        house,
        tx,
        kind,
        before,
        { ...names.data, settings: settings.data },
        { ...connection, knownAs, at: house.clock.now() },
        doer.name,
      );
    });
    return ok({ id, knownAs });
  } catch (error) {
    if (!isOutsideError(error)) throw error;
    // What the channel objects to is said at the field that it names.
    if (error.field !== null && kind.credentials.some((credential) => credential.name === error.field))
      return fail({ [error.field]: `${names.data.name}: ${error.message}.` });
    const unreached = error.kind === 'again-later' || error.kind === 'unknown-outcome';
    const words = unreached
      ? 'Nothing answers there. Check the address and that the service runs.'
      : outsideErrorWords[error.kind];
    return fail({ [unreached ? 'address' : 'credentials']: `${names.data.name}: ${error.message}. ${words}` });
  }
}

/** A short name out of a name: as much of it as fits. */
function shortOf(name: string): string {
  return name.trim().slice(0, 20).trim() || 'Channel';
}

type Names = z.infer<typeof namesSchema> & { settings: Record<string, unknown> };
type Kept = Parameters<typeof putChannel>[2];

/** Keeps the channel, and with it those kinds that go through such a connection. */
function keep(
  house: House,
  tx: Tx,
  kind: Kind,
  before: ChannelRow | null,
  names: Names,
  connection: Kept,
  actor: string,
): ChannelId {
  const id = before?.id ?? freshChannelId(tx, kind.id);
  const audience = before?.audience ?? { who: 'everyone' };
  // What a person types is not typed anew whenever a ticket is sold, unless somebody says so.
  const typed = kind.ours === true && kind.rules({}).answers === 'later';
  const standingLeave = before?.standingLeave ?? !typed;
  const own = { through: null, connected: true, audience, standingLeave };
  putChannel(tx, { id, kind: kind.id, ...names, ...own }, connection, actor);
  // Which hosts it may name was said by a person; what stands in our own feed is ours.
  forgetKept(tx, id, [allowedHost, feedShelf, feedKey, hookKey, handTask, handMark, handStands]);
  for (const along of house.kinds.filter((candidate) => candidate.connectsAs === kind.id)) {
    const known = allChannels(tx).find((channel) => channel.kind === along.id && channel.through === id);
    const name = names.name === kind.name ? along.name : `${names.name}: ${along.name.replace(`${kind.name} `, '')}`;
    const row: ChannelRow = known ?? {
      id: freshChannelId(tx, along.id),
      kind: along.id,
      name: name.slice(0, 60),
      shortName: (names.name === kind.name ? along.shortName : `${names.shortName.slice(0, 1)}. posts`).slice(0, 20),
      settings: {},
      through: id,
      connected: true,
      audience,
      standingLeave,
    };
    putChannel(tx, { ...row, connected: true }, { ...connection, credentials: {} }, actor);
  }
  // What waits may go now; what stands where is looked at anew.
  wakeErrands(tx);
  return id;
}

/** The kind's own name for its first channel, so that what names it in records finds it; numbered after that. */
function freshChannelId(tx: Tx, kind: string): ChannelId {
  const taken = new Set<string>(allChannels(tx).map((channel) => channel.id));
  for (let n = 1; ; n += 1) {
    const id = n === 1 ? kind : `${kind}-${n}`;
    if (!taken.has(id)) return channelIdSchema.parse(id);
  }
}

/**
 * Takes a channel off: nothing goes there any more. Its listings and its history stay, and it can be connected again.
 */
export function disconnectChannel(house: House, doer: Doer, id: string): Result<null, string> {
  asks(doer, 'disconnectChannel');
  return transaction(house.db, (tx) => {
    const row = allChannels(tx).find((channel) => channel.id === id);
    if (!row) return fail('There is no such channel.');
    if (row.through !== null) return fail('It goes with the channel whose connection it uses. Take that one off.');
    takeChannelOff(tx, row.id);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'channel', words: `took ${row.name} off` });
    wakeErrands(tx);
    return ok(null);
  });
}

/** Says who sees what stands on a channel: events for some go nowhere but where they are for. */
export function sayAudience(house: House, doer: Doer, id: string, input: unknown): Result<null, string> {
  asks(doer, 'sayAudience');
  const audience = channelAudienceSchema.safeParse(input);
  if (!audience.success) return fail(audience.error.issues[0]?.message ?? 'Say for whom it is.');
  return transaction(house.db, (tx) => {
    const row = allChannels(tx).find((channel) => channel.id === id);
    if (!row) return fail('There is no such channel.');
    putAudience(tx, row.id, audience.data);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'channel', words: `said who sees ${row.name}` });
    wakeErrands(tx);
    return ok(null);
  });
}

/** Brings a channel back that was taken off, by the connection that it had: it is tried first. */
export async function reconnectChannel(house: House, doer: Doer, id: string): Promise<Result<Connected, string>> {
  asks(doer, 'reconnectChannel');
  const row = allChannels(house.db).find((channel) => channel.id === id);
  const former = row && formerConnection(house.db, row.id);
  if (!row || !former) return fail('There is nothing to bring back: connect it anew.');
  const back = await connectChannel(house, doer, { id }, { address: former.address, credentials: former.credentials });
  return back.ok ? back : fail(Object.values(back.error).join(' '));
}

/** Says in which of a channel's own categories each kind of event stands there; an empty name: in none. */
export function mapCategories(house: House, doer: Doer, id: string, input: unknown): Result<null, string> {
  asks(doer, 'mapCategories');
  const map = z.record(z.string().min(1).max(40), z.string().max(60)).safeParse(input);
  return transaction(house.db, (tx) => {
    const row = allChannels(tx).find((channel) => channel.id === id);
    const kind = house.kinds.find((kind) => kind.id === row?.kind);
    const theirs = kind?.rules({}).categories?.theirs ?? [];
    if (!row || theirs.length === 0) return fail('This channel has no categories of its own.');
    if (!map.success) return fail('Choose one of its categories for each kind.');
    const known: readonly string[] = [...eventTypes, ...houseOwn.of(tx).types];
    const stray = Object.keys(map.data).find((type) => !known.includes(type));
    if (stray !== undefined)
      return fail(`There is no kind of event “${stray}”. Add it under Directory, The house’s own, first.`);
    const unknown = Object.values(map.data).find((name) => name !== '' && !theirs.includes(name));
    if (unknown !== undefined) return fail(`“${unknown}” is none of its categories.`);
    const categories = Object.fromEntries(Object.entries(map.data).filter(([, name]) => name !== ''));
    putSettings(tx, row.id, { ...row.settings, categories }, doer.name);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'channel', words: `set the categories of ${row.name}` });
    wakeErrands(tx);
    return ok(null);
  });
}

/** Allows a channel to give addresses on a further host, and to have its public pages there. */
export function allowHost(house: House, doer: Doer, id: string, host: string): Result<null, string> {
  asks(doer, 'allowHost');
  return transaction(house.db, (tx) => {
    const row = allChannels(tx).find((channel) => channel.id === id);
    const account = row && accountOf(row);
    if (!account || keptAt(tx, account, foreignHost, host) === null)
      return fail('It has given no address on this host.');
    keepAt(tx, account, allowedHost, host, 'allowed');
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'channel', words: `allowed ${row.name} the host ${host}` });
    forgetAt(tx, account, foreignHost, host);
    for (const listing of listingsOf(tx).filter((listing) => listing.channel === id && listing.remote !== null))
      askReading(tx, listing.id, house.monotonic());
    return ok(null);
  });
}

/** Gives a channel other names. */
export function renameChannel(
  house: House,
  doer: Doer,
  id: string,
  input: unknown,
): Result<null, Record<string, string>> {
  asks(doer, 'renameChannel');
  const names = namesSchema.safeParse(input);
  if (!names.success) return fail({ name: 'Give it a name: up to 60 characters, the short one up to 20.' });
  return transaction(house.db, (tx) => {
    const row = allChannels(tx).find((channel) => channel.id === id);
    if (!row) return fail({ name: 'There is no such channel.' });
    if (allChannels(tx).some((channel) => channel.id !== id && channel.name === names.data.name))
      return fail({ name: 'Another channel of yours has this name.' });
    renameRow(tx, row.id, names.data, doer.name);
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'channel', words: `renamed ${row.name} to ${names.data.name}` });
    return ok(null);
  });
}
