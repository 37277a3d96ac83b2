import { useEffect, useState, type KeyboardEvent, type MouseEvent } from 'react';
import { z } from 'zod';
import type { Point } from '@/core/record/directory';
import { mostZoom } from '@/views/tours';
import classes from './Directory.module.css';

const mapSchema = z.object({
  width: z.number().positive(),
  height: z.number().positive(),
  perDegree: z.number().positive(),
  grid: z.string(),
  land: z.string(),
});

interface PointMapProps {
  /** The point as it is; `null`: none yet. */
  point: Point | null;
  onPoint: (point: Point) => void;
}

/** Where a map begins that has no point yet. */
const nowhere: Point = { lat: 20, lon: 0 };
const [farther, nearer] = ['-', '+'];
/** A press of an arrow moves the point by so many units of the drawing; with Shift by ten times that. */
const step = 4;

/** Degrees between -180 and 180. */
const turned = (lon: number) => ((((lon + 180) % 360) + 360) % 360) - 180;

const held = ({ lat, lon }: Point): Point => ({
  lat: Number(Math.min(90, Math.max(-90, lat)).toFixed(5)),
  lon: Number(turned(lon).toFixed(5)),
});

/** The land around a point: by a click, or by arrows with plus and minus, the point is set on it. */
export function PointMap({ point, onPoint }: PointMapProps) {
  const map = useArea(point);
  const { area, centre, failed, zoom, setZoom, setCentre } = map;
  if (failed)
    return (
      <p className="problem" role="alert">
        The map did not come. Write the degrees, or open it again.
      </p>
    );
  if (area === null) return <p className={classes.muted}>Drawing the map …</p>;
  const at = point ?? centre;
  const place = ({ lat, lon }: Point): [number, number] => [
    area.width / 2 + turned(lon - centre.lon) * area.perDegree,
    area.height / 2 - (lat - centre.lat) * area.perDegree,
  ];
  const put = (next: Point) => {
    const kept = held(next);
    const [x, y] = place(kept);
    if (x < 0 || y < 0 || x > area.width || y > area.height) setCentre(kept);
    onPoint(kept);
  };
  const click = (e: MouseEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const [x, y] = [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height];
    put({
      lat: centre.lat - ((y - 0.5) * area.height) / area.perDegree,
      lon: centre.lon + ((x - 0.5) * area.width) / area.perDegree,
    });
  };
  const near = (by: number) => {
    setCentre(at);
    setZoom(Math.min(mostZoom, Math.max(0, zoom + by)));
  };
  const key = (e: KeyboardEvent) => {
    const by = (e.shiftKey ? step * 10 : step) / area.perDegree;
    const ways: Record<string, () => void> = {
      ArrowUp: () => put({ ...at, lat: at.lat + by }),
      ArrowDown: () => put({ ...at, lat: at.lat - by }),
      ArrowLeft: () => put({ ...at, lon: at.lon - by }),
      ArrowRight: () => put({ ...at, lon: at.lon + by }),
      [nearer]: () => near(1),
      [farther]: () => near(-1),
    };
    const way = ways[e.key];
    if (!way) return;
    e.preventDefault();
    way();
  };
  const mark = point === null ? null : place(point);
  return (
    <>
      <svg
        className={classes.pointMap}
        viewBox={`0 0 ${area.width} ${area.height}`}
        role="application"
        aria-label="Map of the place: arrows move its point, plus and minus change how near it is"
        tabIndex={0}
        onClick={click}
        onKeyDown={key}
      >
        <path className={classes.pointGrid} d={area.grid} />
        <path className={classes.pointLand} d={area.land} />
        {mark === null ? null : <circle className={classes.pointMark} cx={mark[0]} cy={mark[1]} r={5} />}
      </svg>
      <div className={classes.row}>
        <button type="button" className="plainButton" disabled={zoom >= mostZoom} onClick={() => near(1)}>
          Nearer
        </button>
        <button type="button" className="plainButton" disabled={zoom <= 0} onClick={() => near(-1)}>
          Farther
        </button>
        <span className={classes.muted}>Click where it is, or move the point with the arrow keys.</span>
      </div>
    </>
  );
}

/** What is drawn: around where, how near, and the drawing itself. */
function useArea(point: Point | null) {
  const [centre, setCentre] = useState(point ?? nowhere);
  const [zoom, setZoom] = useState(point === null ? 0 : 4);
  const [area, setArea] = useState<z.infer<typeof mapSchema> | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    const stop = new AbortController();
    const ask = async () => {
      const query = new URLSearchParams({ lat: String(centre.lat), lon: String(centre.lon), zoom: String(zoom) });
      const answer = await fetch(`/api/map?${query}`, { signal: stop.signal });
      setArea(mapSchema.parse(await answer.json()));
      setFailed(false);
    };
    ask().catch(() => !stop.signal.aborted && setFailed(true));
    return () => stop.abort();
  }, [centre, zoom]);
  return { area, centre, failed, zoom, setZoom, setCentre };
}
