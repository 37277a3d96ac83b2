import { by } from '@/core/testing/doers';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { deflateSync } from 'node:zlib';
import sharp, { type Sharp } from 'sharp';
import { windowFor } from '@/core/pictures/picture-choice';
import { newPicture } from '@/core/record/new-record';
import { addPicture } from '@/desk/records/add-picture';
import { drawing } from '@/house/drawing';
import { openHouse } from '@/house/house';
import { makePreview, makeRendition } from '@/house/renditions';

let folder: string;
let house: ReturnType<typeof openHouse>;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-pictures-'));
  house = openHouse(folder, null);
});
afterAll(() => {
  house.db.close();
  rmSync(folder, { recursive: true, force: true });
});

const add = (name: string, bytes: Buffer) => addPicture(house, by('Maren'), name, bytes);
const plain = (width: number, height: number, background = '#1c3d3a') =>
  sharp({ create: { width, height, channels: 3, background } });

/** Four quarters: red, green / blue, white. */
async function quarters(width: number, height: number): Promise<Sharp> {
  const part = (colour: string) =>
    plain(width / 2, height / 2, colour)
      .png()
      .toBuffer();
  const [red, green, blue] = await Promise.all(['#f00', '#0f0', '#00f'].map(part));
  return plain(width, height, '#fff').composite([
    { input: red as Buffer, left: 0, top: 0 },
    { input: green as Buffer, left: width / 2, top: 0 },
    { input: blue as Buffer, left: 0, top: height / 2 },
  ]);
}

/** A PNG whose header says how large it is, and whose rows are nothing but noughts: a few kilobytes for any size. */
function bomb(width: number, height: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const length = Buffer.alloc(4);
    length.writeUInt32BE(data.length);
    const sum = Buffer.alloc(4);
    sum.writeUInt32BE(crc(body));
    return Buffer.concat([length, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head[8] = 1;
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(Buffer.alloc(1000))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** CRC-32 as PNG has it (ISO 3309). */
function crc(bytes: Buffer): number {
  let sum = 0xffffffff;
  for (const byte of bytes) {
    sum ^= byte;
    for (let i = 0; i < 8; i += 1) sum = (sum >>> 1) ^ (sum & 1 ? 0xedb88320 : 0);
  }
  return (sum ^ 0xffffffff) >>> 0;
}

describe('what is taken in', () => {
  test.each<[string, () => Promise<Buffer>, [number, number, string]]>([
    ['a JPEG', () => plain(1800, 1200).jpeg().toBuffer(), [1800, 1200, 'jpeg']],
    [
      'a PNG with nothing behind it',
      () =>
        sharp({ create: { width: 900, height: 600, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } } })
          .png()
          .toBuffer(),
      [900, 600, 'png'],
    ],
    ['a WebP', () => plain(640, 480).webp().toBuffer(), [640, 480, 'webp']],
    [
      'a JPEG taken with the camera turned: the size is that of the picture as it is seen',
      () => plain(1800, 1200).jpeg().withMetadata({ orientation: 6 }).toBuffer(),
      [1200, 1800, 'jpeg'],
    ],
  ])('%s', async (name, make, expected) => {
    const kept = await add(name, await make());
    expect(kept.ok && [kept.value.width, kept.value.height, kept.value.format]).toEqual(expected);
  });

  test.each<[string, () => Promise<Buffer>, RegExp]>([
    [
      'a drawing with a script',
      () =>
        Promise.resolve(
          Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><script>alert(1)</script></svg>'),
        ),
      /no picture that can be read/,
    ],
    ['a page', () => Promise.resolve(Buffer.from('<html>not found</html>')), /no picture that can be read/],
    ['nothing', () => Promise.resolve(Buffer.alloc(0)), /is empty/],
    ['half a JPEG', async () => (await (await quarters(2000, 1400)).jpeg().toBuffer()).subarray(0, 9000), /damaged/],
    [
      'a small file of 3,600 million pixels',
      () => Promise.resolve(bomb(60_000, 60_000)),
      /60000 × 60000 pixels; at most 80 million/,
    ],
    ['a file of 21 MB', () => Promise.resolve(Buffer.alloc(21 * 1024 * 1024)), /21.0 MB; at most 20 MB/],
  ])('is not %s', async (name, make, why) => {
    const before = readdirSync(path.join(folder, 'pictures')).length;
    const kept = await add(name, await make());
    expect(kept.ok ? null : kept.error).toMatch(why);
    expect(kept.ok ? '' : kept.error).toContain(`“${name}”`);
    expect(readdirSync(path.join(folder, 'pictures')).length).toBe(before);
  });

  test('the same picture under two names is one file', async () => {
    const bytes = await plain(700, 500, '#b0492b').jpeg().toBuffer();
    const [result, other] = [await add('one.jpg', bytes), await add('other.jpg', bytes)];
    expect(result.ok && other.ok && [result.value.id === other.value.id, other.value.fileName]).toEqual([
      true,
      'one.jpg',
    ]);
  });
});

describe('a rendition', () => {
  /** The colour at a share of width and height, as three letters for what is strong in it. */
  async function colours(bytes: Uint8Array, points: [number, number][]) {
    const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true });
    return points.map(([x, y]) => {
      const at =
        (Math.min(info.height - 1, Math.floor(y * info.height)) * info.width +
          Math.min(info.width - 1, Math.floor(x * info.width))) *
        info.channels;
      return [...data.subarray(at, at + 3)].map((value, i) => (value > 128 ? 'rgb'[i] : '-')).join('');
    });
  }
  const corners: [number, number][] = [
    [0.1, 0.1],
    [0.9, 0.1],
    [0.1, 0.9],
    [0.9, 0.9],
  ];

  async function render(bytes: Buffer, ratio: [number, number], focal: { x: number; y: number }) {
    const kept = await add('q', bytes);
    if (!kept.ok) throw new Error(kept.error);
    const { window } = windowFor(newPicture(kept.value, { focal }), { ratio, minWidth: 300 });
    const width = Math.min(600, window.w);
    const height = Math.round((width * window.h) / window.w);
    const made = await makeRendition(folder, {
      kind: 'picture',
      name: `${kept.value.id.slice(0, 8)}-${ratio.join('x')}-${focal.x}-${focal.y}.jpg`,
      alt: '',
      source: { pictureId: kept.value.id, crop: window, width, height },
    });
    const meta = await sharp(made.bytes).metadata();
    expect([meta.format, meta.width, meta.height]).toEqual(['jpeg', width, height]);
    return colours(made.bytes, corners);
  }

  test('is cut where the window says', async () => {
    const bytes = await (await quarters(1600, 1200)).png().toBuffer();
    expect(await render(bytes, [4, 3], { x: 0.5, y: 0.5 })).toEqual(['r--', '-g-', '--b', 'rgb']);
    expect(await render(bytes, [1, 2], { x: 0.1, y: 0.5 })).toEqual(['r--', 'r--', '--b', '--b']);
    expect(await render(bytes, [5, 1], { x: 0.5, y: 1 })).toEqual(['--b', 'rgb', '--b', 'rgb']);
  });

  test('of a turned picture is cut from the picture as it is seen', async () => {
    // Stored lying down; seen a quarter turned clockwise: blue, red above white, green.
    const bytes = await sharp(await (await quarters(1600, 1200)).png().toBuffer())
      .jpeg({ quality: 95 })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    expect(await render(bytes, [3, 4], { x: 0.5, y: 0.5 })).toEqual(['--b', 'r--', 'rgb', '-g-']);
    expect(await render(bytes, [1, 4], { x: 0, y: 0.5 })).toEqual(['--b', '--b', 'rgb', 'rgb']);
  });

  test('of a picture with nothing behind it is white there, not black', async () => {
    const bytes = await sharp({
      create: { width: 800, height: 800, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .png()
      .toBuffer();
    expect(await render(bytes, [1, 1], { x: 0.5, y: 0.5 })).toEqual(Array(4).fill('rgb'));
  });

  test('is drawn once for its name, and not at all without its file; a preview is never enlarged', async () => {
    const kept = await add('once.jpg', await plain(500, 400, '#336').jpeg().toBuffer());
    if (!kept.ok) throw new Error(kept.error);
    const value = {
      kind: 'picture' as const,
      name: 'once.jpg',
      alt: '',
      source: { pictureId: kept.value.id, crop: { x: 0, y: 0, w: 500, h: 400 }, width: 100, height: 80 },
    };
    const first = await makeRendition(folder, value);
    rmSync(path.join(folder, 'pictures', kept.value.id));
    await expect(makeRendition(folder, { ...value, name: 'another.jpg' })).rejects.toMatchObject({
      kind: 'invalid',
      field: 'picture',
    });
    expect(first.bytes.length).toBeGreaterThan(200);
    const wide = await add('wide.jpg', await plain(300, 200, '#663').jpeg().toBuffer());
    const preview = wide.ok ? await sharp(await makePreview(folder, wide.value.id, 900)).metadata() : null;
    expect([
      preview?.width,
      readdirSync(path.join(folder, 'renditions')).some((name) => !name.endsWith('.jpg')),
    ]).toEqual([300, false]);
  });
});

describe('what is kept of a picture', () => {
  const kept = async (bytes: Buffer) => {
    const added = await add('harp', bytes);
    if (!added.ok) throw new Error(added.error);
    return { ...added.value, lies: readFileSync(path.join(folder, 'pictures', added.value.id)) };
  };
  const gps = { IFD0: { Copyright: 'Somebody' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '53/1 20/1 0/1' } };

  test.each([
    ['jpeg', (picture: Sharp) => picture.jpeg()],
    ['png', (picture: Sharp) => picture.png()],
    ['webp', (picture: Sharp) => picture.webp()],
    ['tiff', (picture: Sharp) => picture.tiff()],
    ['avif', (picture: Sharp) => picture.avif()],
  ] as const)(
    'of a %s is the picture alone: no place, no words of a camera, nothing behind it',
    async (format, written) => {
      const plainBytes = await written((await quarters(600, 400)).withExif(gps)).toBuffer();
      const before = await sharp(plainBytes).metadata();
      expect(before.exif !== undefined || format === 'tiff').toBe(true);
      const { lies, ...picture } = await kept(Buffer.concat([plainBytes, Buffer.from('what stands behind it')]));
      const after = await sharp(lies).metadata();
      expect([picture.format, picture.width, picture.height]).toEqual([format, 600, 400]);
      expect([after.exif, after.xmp, after.iptc]).toEqual([undefined, undefined, undefined]);
      expect([lies.includes('what stands behind it'), lies.includes('Somebody')]).toEqual([false, false]);
      // What is seen is as it was: red, green, blue, white.
      const { data } = await sharp(lies)
        .resize(2, 2, { fit: 'fill' })
        .removeAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const seen = [...data].map((value) => (value > 127 ? 1 : 0)).join('');
      expect(seen).toBe('100010001111');
    },
  );

  test('of a turned one stands upright, and of a moving one every picture of it', async () => {
    const turned = await (await quarters(800, 400)).jpeg().withMetadata({ orientation: 6 }).toBuffer();
    const upright = await kept(turned);
    expect([upright.width, upright.height, (await sharp(upright.lies).metadata()).orientation]).toEqual([
      400,
      800,
      undefined,
    ]);
    const frames = await Promise.all(['#f00', '#00f'].map((colour) => plain(40, 30, colour).png().toBuffer()));
    const moving = await sharp(frames, { join: { animated: true } })
      .gif()
      .toBuffer();
    const moves = await kept(moving);
    expect([moves.width, moves.height, (await sharp(moves.lies, { animated: true }).metadata()).pages]).toEqual([
      40, 30, 2,
    ]);
  });

  test('two are unpacked at once, the others wait their turn', async () => {
    let [now, most] = [0, 0];
    const one = () =>
      drawing(async () => {
        most = Math.max(most, (now += 1));
        await new Promise((done) => setTimeout(done, 5));
        now -= 1;
      });
    await Promise.all(Array.from({ length: 9 }, one));
    expect([most, now]).toEqual([2, 0]);
  });
});

test('a rendition holds no place, even of a picture that an earlier program kept as it came', async () => {
  const added = await add('old.jpg', await (await quarters(600, 400)).jpeg().toBuffer());
  if (!added.ok) throw new Error(added.error);
  const gps = { IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '53/1 20/1 0/1' } };
  const asItCame = await (await quarters(600, 400)).withExif(gps).jpeg().toBuffer();
  expect((await sharp(asItCame).metadata()).exif).toBeDefined();
  writeFileSync(path.join(folder, 'pictures', added.value.id), asItCame);
  const crop = { x: 0, y: 0, w: 600, h: 400 };
  const source = { pictureId: added.value.id, crop, width: 300, height: 200 };
  const drawn = await makeRendition(folder, { kind: 'picture', name: 'old-drawn.jpg', source } as never);
  const shown = await makePreview(folder, added.value.id, 300);
  for (const bytes of [drawn.bytes, shown]) {
    const { exif, xmp, iptc, width } = await sharp(bytes).metadata();
    expect([exif, xmp, iptc, width]).toEqual([undefined, undefined, undefined, 300]);
  }
});
