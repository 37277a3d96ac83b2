import type { Point } from '../record/directory';
import type { AboutUs } from './facts';

/** Five decimals of a degree are a metre or so. */
const exact = (degrees: number) => String(Number(degrees.toFixed(5)));

/**
 * Where a point is shown on a map: by the house's own pattern, else as a `geo:` address (RFC 5870, section 3), which
 * whatever keeps maps opens. Empty where there is no point.
 */
export function mapAddress(point: Point | null, { map }: Pick<AboutUs, 'map'>): string {
  if (point === null) return '';
  const [lat, lon] = [exact(point.lat), exact(point.lon)];
  return map === '' ? `geo:${lat},${lon}` : map.replaceAll('{lat}', lat).replaceAll('{lon}', lon);
}
