import { geoEquirectangular, geoGraticule, geoGraticule10, geoNaturalEarth1, geoPath } from 'd3-geo';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import atlas from 'world-atlas/land-110m.json';
import fine from 'world-atlas/land-50m.json';
import type { Point } from '@/core/record/directory';
import type { AreaMap, TourMap } from '@/views/tours';

const size = { width: 760, height: 480 };
const margin: [[number, number], [number, number]] = [
  [34, 30],
  [size.width - 34, size.height - 30],
];
const topology = atlas as unknown as Topology<{ land: GeometryCollection }>;

/**
 * A tour drawn on the world (Natural Earth projection): what lies there, and the way between the points as the great
 * circle.
 */
export function tourMap(points: readonly Point[]): TourMap {
  const coordinates = points.map(({ lat, lon }): [number, number] => [lon, lat]);
  const around =
    coordinates.length > 1 ? ({ type: 'MultiPoint', coordinates } as const) : ({ type: 'Sphere' } as const);
  const projection = geoNaturalEarth1().fitExtent(margin, around);
  // Of a land that is drawn large, what lies outside the picture is left away.
  projection.clipExtent([
    [0, 0],
    [size.width, size.height],
  ]);
  const path = geoPath(projection).digits(1);
  return {
    ...size,
    grid: path(geoGraticule10()) ?? '',
    land: path(feature(topology, topology.objects.land)) ?? '',
    way: path({ type: 'LineString', coordinates }) ?? '',
    at: coordinates.map((point) => projection(point)),
  };
}

const area = { width: 560, height: 320 };
const fineTopology = fine as unknown as Topology<{ land: GeometryCollection }>;

/**
 * The land around a point in plate carrée, where degrees are lengths; each step of `zoom` (0 to `mostZoom`) doubles it.
 */
export function areaMap({ lat, lon }: Point, zoom: number): AreaMap {
  const scale = (area.width / (2 * Math.PI)) * 2 ** zoom;
  const projection = geoEquirectangular()
    .rotate([-lon, 0])
    .center([0, lat])
    .scale(scale)
    .translate([area.width / 2, area.height / 2])
    .clipExtent([
      [0, 0],
      [area.width, area.height],
    ]);
  const path = geoPath(projection).digits(1);
  const from = zoom < 2 ? topology : fineTopology;
  const step = 20 / 2 ** Math.min(4, zoom);
  return {
    ...area,
    perDegree: (scale * Math.PI) / 180,
    grid: path(geoGraticule().step([step, step])()) ?? '',
    land: path(feature(from, from.objects.land)) ?? '',
  };
}
