import { useRef, useState, type PointerEvent } from 'react';
import type { PictureUse } from '@/core/record/record';
import classes from '../RecordForm.module.css';

interface PictureCanvasProps {
  picture: PictureUse;
  onChange: (picture: PictureUse) => void;
}

interface Spot {
  x: number;
  y: number;
}

/** Least drag, as a share of the picture, that marks a part rather than setting the focal point. */
const leastDrag = 0.03;
const clamp = (share: number) => Math.round(Math.min(Math.max(share, 0), 1) * 1000) / 1000;

const nudge = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, -0.02], ArrowDown: [0, 0.02] } as const;
type Nudge = (typeof nudge)[keyof typeof nudge];

function moved(picture: PictureUse, [x, y]: Nudge): PictureUse {
  return { ...picture, focal: { x: clamp(picture.focal.x + x), y: clamp(picture.focal.y + y) } };
}

/** The part that is to be held whole, drawn larger or smaller from its lower right corner. */
function widened(picture: PictureUse, [x, y]: Nudge): PictureUse {
  const { x0, y0, x1, y1 } = picture.keep ?? { x0: 0.3, y0: 0.3, x1: 0.7, y1: 0.7 };
  const [right, bottom] = [Math.max(x1 + x, x0 + leastDrag), Math.max(y1 + y, y0 + leastDrag)];
  return { ...picture, keep: { x0, y0, x1: clamp(right), y1: clamp(bottom) } };
}

function areaOf({ from, to }: { from: Spot; to: Spot }) {
  return {
    x0: Math.min(from.x, to.x),
    y0: Math.min(from.y, to.y),
    x1: Math.max(from.x, to.x),
    y1: Math.max(from.y, to.y),
  };
}

/**
 * The picture with its focal point (click, or arrow keys) and the part that crops should hold whole (drag, or Shift
 * with arrows).
 */
export function PictureCanvas({ picture, onChange }: PictureCanvasProps) {
  const canvas = useRef<HTMLButtonElement>(null);
  const [drag, setDrag] = useState<{ from: Spot; to: Spot } | null>(null);
  const spot = (event: PointerEvent): Spot => {
    const box = canvas.current?.getBoundingClientRect();
    return box
      ? { x: clamp((event.clientX - box.left) / box.width), y: clamp((event.clientY - box.top) / box.height) }
      : { x: 0.5, y: 0.5 };
  };
  const finish = (event: PointerEvent) => {
    if (!drag) return;
    const area = areaOf({ from: drag.from, to: spot(event) });
    setDrag(null);
    if (area.x1 - area.x0 < leastDrag && area.y1 - area.y0 < leastDrag) onChange({ ...picture, focal: spot(event) });
    else
      onChange({
        ...picture,
        keep: area,
        focal: { x: clamp((area.x0 + area.x1) / 2), y: clamp((area.y0 + area.y1) / 2) },
      });
  };
  const area = drag ? areaOf(drag) : picture.keep;
  return (
    <button
      ref={canvas}
      type="button"
      className={classes.canvas}
      aria-label="Focal point: click, or move it with the arrow keys"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ from: spot(event), to: spot(event) });
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, to: spot(event) })}
      onPointerUp={finish}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={(event) => {
        const by = nudge[event.key as keyof typeof nudge];
        if (!by) return;
        event.preventDefault();
        onChange(event.shiftKey ? widened(picture, by) : moved(picture, by));
      }}
    >
      {/* eslint-disable-next-line @next/next/no-img-element -- drawn by our own route at the size shown */}
      <img
        src={`/api/pictures/${picture.pictureId}?width=900`}
        alt=""
        width={picture.width}
        height={picture.height}
        style={{ height: 'auto' }}
        draggable={false}
      />
      {area ? (
        <span
          className={classes.keep}
          style={{
            left: `${area.x0 * 100}%`,
            top: `${area.y0 * 100}%`,
            width: `${(area.x1 - area.x0) * 100}%`,
            height: `${(area.y1 - area.y0) * 100}%`,
          }}
        />
      ) : null}
      <span className={classes.focal} style={{ left: `${picture.focal.x * 100}%`, top: `${picture.focal.y * 100}%` }} />
    </button>
  );
}
