'use client';

import { geoGraticule10, geoNaturalEarth1, geoPath } from 'd3-geo';
import { useEffect, useMemo, useState } from 'react';
import { feature } from 'topojson-client';
import type { Topology, GeometryCollection } from 'topojson-specification';
import type { Point } from '@/core/record/directory';
import classes from './Tours.module.css';

/** One stop on the map. */
export interface MapStop {
  id: string;
  label: string;
  point: Point;
  /** Number in the order of dates. */
  n: number;
}

interface WorldMapProps {
  stops: readonly MapStop[];
  /** The stop that is pointed at. */
  chosen: string | null;
  onChoose: (id: string | null) => void;
}

const size = { width: 760, height: 480 };

/** Least distance between two numbers, in units of the drawing. */
const leastApart = 15;

/** Says which stops have room for their number: of a cluster, the first. */
function spread<T>(
  all: { stop: T; at: [number, number] | null }[],
): { stop: T; at: [number, number] | null; labelled: boolean }[] {
  const taken: [number, number][] = [];
  return all.map(({ stop, at }) => {
    const labelled = at !== null && taken.every(([x, y]) => Math.hypot(x - at[0], y - at[1]) >= leastApart);
    if (labelled && at) taken.push(at);
    return { stop, at, labelled };
  });
}

/** A tour on the world: outlines that ship with the application, the stops in order, and the way between them as the great circle. */
export function WorldMap({ stops, chosen, onChoose }: WorldMapProps) {
  const [land, setLand] = useState<GeoJSON.FeatureCollection | GeoJSON.Feature | null>(null);
  useEffect(() => {
    let gone = false;
    void import('world-atlas/land-110m.json').then((atlas) => {
      const topology = atlas.default as unknown as Topology<{ land: GeometryCollection }>;
      if (!gone) setLand(feature(topology, topology.objects.land));
    });
    return () => {
      gone = true;
    };
  }, []);
  const places = useMemo<GeoJSON.MultiPoint>(
    () => ({ type: 'MultiPoint', coordinates: stops.map((stop) => [stop.point.lon, stop.point.lat]) }),
    [stops],
  );
  const projection = useMemo(() => {
    const made = geoNaturalEarth1();
    const margin: [[number, number], [number, number]] = [
      [34, 30],
      [size.width - 34, size.height - 30],
    ];
    return stops.length > 1 ? made.fitExtent(margin, places) : made.fitExtent(margin, { type: 'Sphere' });
  }, [places, stops.length]);
  const path = useMemo(() => geoPath(projection), [projection]);
  const placed = useMemo(
    () => spread(stops.map((stop) => ({ stop, at: projection([stop.point.lon, stop.point.lat]) }))),
    [stops, projection],
  );
  const way = useMemo<GeoJSON.LineString>(() => ({ type: 'LineString', coordinates: places.coordinates }), [places]);
  return (
    <svg
      className={classes.map}
      viewBox={`0 0 ${size.width} ${size.height}`}
      role="img"
      aria-label={`Map of ${stops.length} stops`}
    >
      <path className={classes.grid} d={path(geoGraticule10()) ?? ''} />
      {land ? <path className={classes.land} d={path(land) ?? ''} /> : null}
      <path className={classes.way} d={path(way) ?? ''} />
      {placed.map(({ stop, at, labelled }) => {
        if (!at) return null;
        return (
          <g
            key={stop.id}
            transform={`translate(${at[0]} ${at[1]})`}
            className={classes.stop}
            data-chosen={stop.id === chosen || undefined}
            onMouseEnter={() => onChoose(stop.id)}
            onMouseLeave={() => onChoose(null)}
          >
            <circle r={stop.id === chosen ? 6 : 4} />
            {labelled || stop.id === chosen ? (
              <text x={7} y={4}>
                {stop.id === chosen ? stop.label : stop.n}
              </text>
            ) : null}
          </g>
        );
      })}
    </svg>
  );
}
