import type { Point } from './directory';

/** Mean radius of the earth in kilometres (IUGG). */
const earthKm = 6371.0088;
const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** Great-circle distance in kilometres (haversine). */
export function distanceKm(a: Point, b: Point): number {
  const dLat = rad(b.lat - a.lat);
  const dLon = rad(b.lon - a.lon);
  const h = Math.sin(dLat / 2) ** 2 + Math.cos(rad(a.lat)) * Math.cos(rad(b.lat)) * Math.sin(dLon / 2) ** 2;
  return 2 * earthKm * Math.asin(Math.min(1, Math.sqrt(h)));
}

/**
 * Hours that getting from one place to another takes at the least: by road up to 600 km (70 km/h as the crow flies),
 * beyond that by air with four hours around the flight (750 km/h).
 */
export function travelHours(km: number): number {
  return km <= 600 ? km / 70 : 4 + km / 750;
}
