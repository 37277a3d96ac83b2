import { artistSchema, organiserSchema, venueEditSchema } from '@/core/directory';
import type { FileDirectory, FileVenue } from '@/core/formats/events-json';
import type { Tx } from '@/store/database';
import { freshId } from '@/store/ids';
import { allArtists, allOrganisers, allWordings, putPerson, writePerson } from '@/store/people';
import { allVenues, putVenue, writeVenue } from '@/store/venues';

/** Takes a file's venues, artists and organisers into the directory. One that is there by name is brought up to what the file says. */
export function takeDirectory(tx: Tx, directory: FileDirectory, actor: string, at: number): void {
  for (const venue of directory.venues) takeVenue(tx, venue, actor, at);
  for (const wording of directory.wordings) takeWording(tx, wording, actor, at);
  for (const artist of directory.artists) {
    const id = putPerson(tx, 'artist', artist.name, actor, at);
    writePerson(tx, 'artist', artistSchema.parse({ ...allArtists(tx).get(id), ...artist, id }), actor, at);
  }
  for (const organiser of directory.organisers) {
    const id = putPerson(tx, 'organiser', organiser.name, actor, at);
    writePerson(tx, 'organiser', organiserSchema.parse({ ...allOrganisers(tx).get(id), ...organiser, id }), actor, at);
  }
}

/** A wording that is there by name is brought up to what the file says. */
function takeWording(tx: Tx, wording: FileDirectory['wordings'][number], actor: string, at: number): void {
  const known = [...allWordings(tx).values()].find((one) => one.name === wording.name);
  writePerson(tx, 'wording', { ...wording, id: known?.id ?? freshId('w') }, actor, at);
}

function takeVenue(tx: Tx, { rooms, ...venue }: FileVenue, actor: string, at: number): void {
  const { venueId } = putVenue(tx, { ...venue, room: '', capacity: null }, actor, at);
  const before = allVenues(tx).get(venueId)?.rooms ?? [];
  const made = rooms.map((room) => {
    // What is there by name keeps its id: events point to it.
    const known = before.find((one) => one.name === room.name);
    const setUps = room.setUps.map((setUp) => ({ ...setUp, id: known?.setUps.find((one) => one.name === setUp.name)?.id ?? freshId('u'), holds: setUp.holds.map((hold) => ({ ...hold, id: freshId('h') })) }));
    return { ...room, id: known?.id ?? freshId('m'), setUps: [...setUps, ...(known?.setUps ?? []).filter((one) => !setUps.some((setUp) => setUp.id === one.id))] };
  });
  writeVenue(tx, venueId, venueEditSchema.parse({ ...venue, rooms: [...before.filter((one) => !made.some((room) => room.id === one.id)), ...made] }));
}
