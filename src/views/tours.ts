import type { KnownDay } from '@/core/dates/date-words';
import type { Standing } from '@/core/listing/standing';
import type { Point } from '@/core/record/directory';

/** One date of a tour. */
export interface TourStop {
  id: string;
  code: string;
  date: KnownDay;
  dateNote: string;
  time: string;
  zone: string;
  venue: string;
  town: string;
  country: string;
  promoter: string;
  link: string;
  price: string;
  stage: string;
  point: Point | null;
  /** Names of the shared facts in which it departs from the tour. */
  own: string[];
  km: number | null;
  restDays: number | null;
  gapHours: number | null;
  neededHours: number | null;
  standings: (Standing | null)[];
}

/** A tour on the world, as paths of an SVG drawing of this size, and where each of its points lies on it. */
export interface TourMap {
  width: number;
  height: number;
  grid: string;
  land: string;
  way: string;
  at: ([number, number] | null)[];
}

/** The land around a point, as paths of an SVG drawing of this size: `perDegree` of its units are one degree. */
export interface AreaMap {
  width: number;
  height: number;
  perDegree: number;
  grid: string;
  land: string;
}

/** An area is drawn in so many steps of nearness. */
export const mostZoom = 9;
