import { currencyOf } from '@/core/base/countries';
import type { FileVenue } from '@/core/formats/file-directory';
import {
  artistSchema,
  organiserSchema,
  venueEditSchema,
  type Artist,
  type NewVenue,
  type Organiser,
  type Venue,
  type Wording,
} from '@/core/record/directory';
import type { Tx } from '@/store/database';
import { directoryMark } from '@/store/directory-mark';
import { freshId } from '@/store/ids';
import { allArtists, allOrganisers, allWordings, writePerson } from '@/store/people';
import { allVenues, putVenue, writeVenue } from '@/store/venues';

type Person = Artist | Organiser;

/** One name, however its letters are cased. */
const keyOf = (name: string) => name.trim().toLowerCase();
const venueKey = (name: string, town: string) => `${keyOf(name)}|${keyOf(town)}`;

/**
 * The directory while a file is taken in: looked up once, kept up with what the file makes, and looked up again only
 * when somebody else has changed it meanwhile.
 */
export class Shelves {
  private mark: string | null = null;
  private venues = new Map<string, Venue>();
  private names = new Map<string, string>();
  private people: Record<'artist' | 'organiser', Map<string, Person>> = { artist: new Map(), organiser: new Map() };
  private wordings = new Map<string, Wording>();

  constructor(
    private readonly actor: string,
    private readonly at: number,
  ) {}

  /** Give it at the beginning of each transaction. */
  lookUp(tx: Tx): void {
    if (this.mark === directoryMark(tx)) return;
    this.venues = new Map([...allVenues(tx).values()].map((venue) => [venueKey(venue.name, venue.town), venue]));
    this.names = new Map([...this.venues.values()].map((venue) => [venue.id, venue.name]));
    this.people = {
      artist: new Map([...allArtists(tx).values()].map((artist) => [keyOf(artist.name), artist])),
      organiser: new Map([...allOrganisers(tx).values()].map((organiser) => [keyOf(organiser.name), organiser])),
    };
    this.wordings = new Map([...allWordings(tx).values()].map((wording) => [keyOf(wording.name), wording]));
    this.mark = directoryMark(tx);
  }

  /** What was written last is undone: it is looked up again. */
  forget(): void {
    this.mark = null;
  }

  /** What was written here is known already. */
  private wrote(tx: Tx): void {
    this.mark = directoryMark(tx);
  }

  /** What a venue is called; empty: it is none, or not known. */
  nameOf(venueId: string | null): string {
    return (venueId !== null && this.names.get(venueId)) || '';
  }

  /** The venue of that name and town; where no town is said, the only one of that name. */
  find(name: string, town: string): Venue | undefined {
    const exact = this.venues.get(venueKey(name, town));
    if (exact || town.trim() !== '') return exact;
    const named = [...this.venues.values()].filter((venue) => keyOf(venue.name) === keyOf(name));
    return named.length === 1 ? named[0] : undefined;
  }

  /** The venue and room that are wanted, made where they are not there. */
  place(tx: Tx, wanted: NewVenue, setUp: string): { venueId: string; roomId: string | null; setUpId: string | null } {
    const known = this.find(wanted.name, wanted.town);
    const room = known?.rooms.find((room) => keyOf(room.name) === keyOf(wanted.room));
    if (known && (wanted.room === '' || room))
      return {
        venueId: known.id,
        roomId: room?.id ?? null,
        setUpId: room?.setUps.find((candidate) => keyOf(candidate.name) === keyOf(setUp))?.id ?? null,
      };
    const { venueId, roomId } = putVenue(
      tx,
      known ? { ...wanted, name: known.name, town: known.town } : wanted,
      this.actor,
      this.at,
    );
    const rooms = [
      ...(known?.rooms ?? []),
      ...(roomId === null
        ? []
        : [{ id: roomId, name: wanted.room, capacity: wanted.capacity, setUps: [], changeover: 0 }]),
    ];
    const { name, town, address, country, zone, point } = wanted;
    const base: Venue = known ?? {
      id: venueId,
      name,
      town,
      address,
      country,
      zone,
      point,
      pays: currencyOf(country),
      phone: '',
      site: '',
      findIt: '',
      channelIds: {},
      rooms: [],
    };
    this.venues.set(venueKey(base.name, base.town), { ...base, rooms });
    this.names.set(base.id, base.name);
    this.wrote(tx);
    return { venueId, roomId, setUpId: null };
  }

  /** The artist or organiser of that name, made where there is none. */
  person(tx: Tx, sort: 'artist' | 'organiser', name: string, more: object = {}): string {
    const known = this.people[sort].get(keyOf(name));
    if (known && Object.keys(more).length === 0) return known.id;
    const given = {
      ...known,
      ...more,
      id: known?.id ?? freshId(sort === 'artist' ? 'a' : 'o'),
      name: known?.name ?? name,
    };
    const entry = sort === 'artist' ? artistSchema.parse(given) : organiserSchema.parse(given);
    writePerson(tx, sort, entry, this.actor, this.at);
    this.people[sort].set(keyOf(name), entry);
    this.wrote(tx);
    return entry.id;
  }

  /** A wording that is there by name is brought up to what the file says. */
  wording(tx: Tx, wording: Omit<Wording, 'id'>): void {
    const entry = { ...wording, id: this.wordings.get(keyOf(wording.name))?.id ?? freshId('w') };
    writePerson(tx, 'wording', entry, this.actor, this.at);
    this.wordings.set(keyOf(wording.name), entry);
    this.wrote(tx);
  }

  /** A venue of the file with its rooms. What is there by name keeps its id: events point to it. */
  venue(tx: Tx, { rooms, ...venue }: FileVenue): void {
    const { venueId } = this.place(tx, { ...venue, room: '', capacity: null }, '');
    const before = this.find(venue.name, venue.town)?.rooms ?? [];
    const made = rooms.map((room) => {
      const known = before.find((candidate) => keyOf(candidate.name) === keyOf(room.name));
      const setUps = room.setUps.map((setUp) => ({
        ...setUp,
        id: known?.setUps.find((candidate) => keyOf(candidate.name) === keyOf(setUp.name))?.id ?? freshId('u'),
        holds: setUp.holds.map((hold) => ({ ...hold, id: freshId('h') })),
      }));
      return {
        ...room,
        id: known?.id ?? freshId('m'),
        setUps: [
          ...setUps,
          ...(known?.setUps ?? []).filter((candidate) => !setUps.some((setUp) => setUp.id === candidate.id)),
        ],
      };
    });
    const whole = venueEditSchema.parse({
      ...venue,
      rooms: [...before.filter((candidate) => !made.some((room) => room.id === candidate.id)), ...made],
    });
    writeVenue(tx, venueId, whole);
    this.venues.set(venueKey(venue.name, venue.town), { ...whole, id: venueId, pays: currencyOf(whole.country) });
    this.wrote(tx);
  }
}
