/** A window in a picture, in pixels of the source. */
export interface CropWindow {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** A channel's picture shape: ratio `w:h` and the least width in pixels. */
export interface PictureShape {
  ratio: readonly [number, number];
  minWidth: number;
}

/** Part of a picture that a crop should hold whole, as shares of width and height. */
export interface KeepArea {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/**
 * The largest window of shape `ratio` in a picture of `w`×`h` pixels: centred on the focal point, held inside
 * the picture, then moved the least way that takes in the keep-area, or that fills it with the keep-area where that is
 * larger. Whole pixels, deterministic.
 */
export function cropWindow(
  source: { width: number; height: number },
  focal: { x: number; y: number },
  ratio: readonly [number, number],
  keep?: KeepArea,
): CropWindow {
  const wanted = ratio[0] / ratio[1];
  const wide = source.width / source.height > wanted;
  const w = wide ? Math.round(source.height * wanted) : source.width;
  const h = wide ? source.height : Math.round(source.width / wanted);
  return {
    x: place(focal.x * source.width, w, source.width, keep && [keep.x0 * source.width, keep.x1 * source.width]),
    y: place(focal.y * source.height, h, source.height, keep && [keep.y0 * source.height, keep.y1 * source.height]),
    w,
    h,
  };
}

function place(centre: number, size: number, whole: number, keep: [number, number] | undefined): number {
  let at = centre - size / 2;
  if (keep !== undefined) {
    // Where the keep-area fits, the window holds it; where it does not, the window lies inside it.
    const [n, other] = [keep[1] - size, keep[0]];
    at = Math.min(Math.max(at, Math.min(n, other)), Math.max(n, other));
  }
  return Math.round(Math.min(Math.max(at, 0), whole - size));
}

/** Share of the picture's area that a window keeps, 0 to 1. */
export function keptShare(source: { width: number; height: number }, window: CropWindow): number {
  return (window.w * window.h) / (source.width * source.height);
}

/** The size a rendition is drawn at: the window's own, but no wider than twice the least width. Never enlarged. */
export function renditionSize(window: CropWindow, shape: PictureShape): { width: number; height: number } {
  const width = Math.min(window.w, shape.minWidth * 2);
  return { width, height: Math.round((width * window.h) / window.w) };
}
