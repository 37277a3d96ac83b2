import { countryOf } from '../base/countries';

/** A place as a calendar names it. */
interface NamedPlace {
  name: string;
  room: string;
  address: string;
  town: string;
  country: string;
}

/** A house number, a street, a postcode: nothing that a town is called. */
const postcode = /^(?:[A-Z]{1,2}-)?\d{4,6}\s+|\s+[A-Z]{1,2}\d[A-Z\d]?\s*\d[A-Z]{2}$|\s+\d{5}(?:-\d{4})?$/i;

/**
 * The place in a calendar's LOCATION: `Venue`, `Venue, Town`, `Room, Venue, Town`, or an address, `Venue, 5 Street,
 * 12345 Town, Country`.
 * `null`: it is empty.
 */
export function placeOfLocation(location: string): NamedPlace | null {
  const parts = location
    .slice(0, 2_000)
    .split(/[,\n]/)
    .map((part) => part.trim())
    .filter((part) => part !== '');
  const [first] = parts;
  if (first === undefined) return null;
  const country = parts.length > 2 && countryOf(parts[parts.length - 1] ?? '') !== null ? (parts.pop() ?? '') : '';
  const town = parts.length > 1 ? (parts.pop() ?? '').replace(postcode, '').trim() : '';
  const [text = first, two, ...rest] = parts;
  // A part with a number in it is a street; the room stands before its venue.
  if (two === undefined || /\d/.test(two))
    return {
      name: text,
      room: '',
      address: [two, ...rest].filter((part) => part !== undefined).join(', '),
      town,
      country,
    };
  return { name: two, room: text, address: rest.join(', '), town, country };
}
