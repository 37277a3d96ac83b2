import type { PictureUse } from '../record/record';
import { readMarkup, writeHtml, type Block, type Figure } from './markup';

/** Widths at which a picture in the text is drawn, in pixels. */
const widths: Record<Figure['size'], number> = { small: 400, half: 800, whole: 1200 };

/** A picture that goes along with a text: under which name, and which of the record's pictures it is. */
export interface FigureFile {
  name: string;
  pictureId: string;
}

/** True where a text may hold pictures: asked before it is taken apart. */
export function mayHoldFigures(html: string): boolean {
  return html.includes('<figure');
}

/** The file name of a picture as wide as its place in the text, no wider than it is: `0123456789abcdef-w800.jpg`. */
export function figureFile(
  { pictureId, width }: Pick<PictureUse, 'pictureId' | 'width'>,
  size: Figure['size'],
): string {
  return `${pictureId.slice(0, 16)}-w${Math.min(width, widths[size])}.jpg`;
}

/** The width that a figure's file name says, in pixels; `null`: it is none. */
export function figureWidth(name: string): number | null {
  const found = /^[0-9a-f]{16}-w(\d{1,5})\.jpg$/.exec(name);
  return found ? Number(found[1]) : null;
}

/**
 * A text as a channel shows it that has a place for pictures: each is named by its file. Those whose picture is not
 * among the record's are left out, and counted in `gone`.
 */
export function shownFigures(
  html: string,
  pictures: readonly PictureUse[],
): { html: string; files: FigureFile[]; used: PictureUse[]; gone: number } {
  if (!mayHoldFigures(html)) return { html, files: [], used: [], gone: 0 };
  const files: FigureFile[] = [];
  const used: PictureUse[] = [];
  let gone = 0;
  const blocks = readMarkup(html).flatMap((block): Block[] => {
    if (block.kind !== 'figure') return [block];
    const picture = pictures.find((picture) => picture.pictureId === block.figure.picture);
    if (!picture) {
      gone += 1;
      return [];
    }
    const name = figureFile(picture, block.figure.size);
    if (!files.some((file) => file.name === name)) files.push({ name, pictureId: picture.pictureId });
    if (!used.includes(picture)) used.push(picture);
    return [{ kind: 'figure', figure: { ...block.figure, picture: name, alt: picture.alt.trim() } }];
  });
  return { html: writeHtml(blocks), files, used, gone };
}

/** A text as it was shown with the record's own pictures in it again; a picture that is none of its stays out. */
export function ownFigures(html: string, pictures: readonly PictureUse[]): string {
  if (!mayHoldFigures(html)) return html;
  const blocks = readMarkup(html).flatMap((block): Block[] => {
    if (block.kind !== 'figure') return [block];
    const id = pictures.find(
      (picture) => picture.pictureId.slice(0, 16) === block.figure.picture.slice(0, 16),
    )?.pictureId;
    return id === undefined ? [] : [{ kind: 'figure', figure: { ...block.figure, picture: id, alt: '' } }];
  });
  return writeHtml(blocks);
}
