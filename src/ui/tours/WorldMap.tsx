'use client';

import { useMemo } from 'react';
import type { TourMap } from '@/views/tours';
import classes from './Tours.module.css';

/** One stop on the map. */
export interface MapStop {
  id: string;
  label: string;
  /** Number in the order of dates. */
  n: number;
}

interface WorldMapProps {
  stops: readonly MapStop[];
  /** The drawing, with where each of the stops lies on it. */
  map: TourMap;
  /** The stop that is pointed at. */
  chosen: string | null;
  onChoose: (id: string | null) => void;
}

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

/**
 * A tour on the world: outlines that ship with the application, the stops in order, and the way between them as the
 * great circle.
 */
export function WorldMap({ stops, map, chosen, onChoose }: WorldMapProps) {
  const placed = useMemo(() => spread(stops.map((stop, i) => ({ stop, at: map.at[i] ?? null }))), [stops, map]);
  return (
    <svg
      className={classes.map}
      viewBox={`0 0 ${map.width} ${map.height}`}
      role="img"
      aria-label={`Map of ${stops.length} stops`}
    >
      <path className={classes.grid} d={map.grid} />
      <path className={classes.land} d={map.land} />
      <path className={classes.way} d={map.way} />
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
