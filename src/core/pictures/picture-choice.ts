import { cropWindow, keptShare, type CropWindow, type PictureShape } from './crop';
import type { PictureUse } from '../record/record';

/** A source with its window for one shape, and what is wrong with it. */
export interface PictureChoice {
  picture: PictureUse;
  window: CropWindow;
  /** Pixels of the keep-area that the window cuts off, in width and height. */
  cuts: { w: number; h: number };
  /** Share of the picture that is kept, 0 to 1. */
  kept: number;
  enlarged: boolean;
}

/** The window of one picture for a shape. */
export function windowFor(picture: PictureUse, shape: PictureShape): PictureChoice {
  const window = cropWindow(picture, picture.focal, shape.ratio, picture.keep ?? undefined);
  return {
    picture,
    window,
    cuts: cutOff(picture, window),
    kept: keptShare(picture, window),
    enlarged: window.w < shape.minWidth,
  };
}

/** How much of the keep-area lies outside a window, in source pixels. */
function cutOff({ keep, width, height }: PictureUse, { x, y, w, h }: CropWindow): { w: number; h: number } {
  if (keep === null) return { w: 0, h: 0 };
  const lost = (from: number, to: number, at: number, size: number) =>
    Math.round(Math.max(0, at - from) + Math.max(0, to - (at + size)));
  return { w: lost(keep.x0 * width, keep.x1 * width, x, w), h: lost(keep.y0 * height, keep.y1 * height, y, h) };
}

/**
 * The best source for a shape: one whose keep-area stays whole before one that is cut, one that need not be enlarged
 * before one that must, then the one of which most is kept; of equal ones the first. `null`: there is no picture.
 */
export function choosePicture(pictures: readonly PictureUse[], shape: PictureShape): PictureChoice | null {
  let best: PictureChoice | null = null;
  for (const picture of pictures) {
    const pictureChoice = windowFor(picture, shape);
    if (best === null || better(pictureChoice, best)) best = pictureChoice;
  }
  return best;
}

function better(a: PictureChoice, b: PictureChoice): boolean {
  const cut = (picture: PictureChoice) => picture.cuts.w + picture.cuts.h;
  if ((cut(a) === 0) !== (cut(b) === 0)) return cut(a) === 0;
  if (a.enlarged !== b.enlarged) return !a.enlarged;
  // A hundredth of the picture more or less is no reason to leave the order that a person has put them in.
  return a.kept > b.kept + 0.01;
}
