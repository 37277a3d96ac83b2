import { told, variedRecords } from '../testing/varied';
import { cropWindow, keptShare, renditionSize } from './crop';
import { choosePicture, windowFor } from './picture-choice';

test('crops are cut, and pictures chosen, as they were', () => {
  const shapes = (
    [
      [3, 2],
      [11, 5],
      [4, 5],
      [16, 9],
      [2, 1],
      [1, 1],
    ] as const
  ).map((ratio, i) => ({ ratio, minWidth: [1200, 1320, 800, 64, 1280, 3000][i] ?? 1000 }));
  const keeps = [
    null,
    { x0: 0.1, y0: 0.2, x1: 0.9, y1: 0.5 },
    { x0: 0, y0: 0.6, x1: 0.3, y1: 1 },
    { x0: 0.4, y0: 0, x1: 0.6, y1: 1 },
  ];
  const uses = variedRecords(150).map(({ pictures }, i) =>
    pictures.map((picture, n) => ({ ...picture, keep: keeps[(i + n) % keeps.length] ?? null })),
  );
  expect(
    told(uses, (pictures) =>
      shapes.map((shape) => [
        choosePicture(pictures, shape),
        pictures.map((picture) => windowFor(picture, shape)),
        pictures.map(({ width, height, focal, keep }) => {
          const window = cropWindow({ width, height }, focal, shape.ratio, keep ?? undefined);
          return [window, keptShare({ width, height }, window), renditionSize(window, shape)];
        }),
      ]),
    ),
  ).toMatchSnapshot();
});
