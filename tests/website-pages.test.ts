import sharp from 'sharp';
import { newPicture } from '@/core/record/new-record';
import { by } from '@/core/testing/doers';
import { addPicture } from '@/desk/records/add-picture';
import { makeRig, type Rig } from './rig';

/* The website's pages of one category and of one act are really there, and say what was sent. */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern']);
});
afterAll(() => rig.end());

const titlesOn = async (page: string) => {
  const answer = await fetch(`${rig.base}/lectern/${page}`);
  const text = await answer.text();
  return answer.status === 200 ? [...text.matchAll(/<b>([^<]+)<\/b>/g)].map((match) => match[1]) : answer.status;
};

test('an event stands on the page of each of its categories and acts, and leaves the one it is no more of', async () => {
  const id = rig.make({ title: 'Two Kinds', eventType: 'concert', categories: ['family'] });
  rig.make({ title: 'One Kind', eventType: 'film', lineUp: [] });
  rig.send();
  await rig.settle();
  expect([await titlesOn('in/music'), await titlesOn('in/family'), await titlesOn('in/screen')]).toEqual([
    ['Two Kinds'],
    ['Two Kinds'],
    ['One Kind'],
  ]);
  expect([await titlesOn('acts/tin-meridian'), await titlesOn('acts/nobody'), await titlesOn('in/late')]).toEqual([
    ['Two Kinds'],
    404,
    404,
  ]);
  const content = rig.record(id);
  if (!content) throw new Error('no record');
  rig.save(id, 1, { ...content, categories: ['dance'] });
  rig.send();
  await rig.settle();
  expect([await titlesOn('in/family'), await titlesOn('in/stage'), rig.standings(id)['lectern.0']]).toEqual([
    404,
    ['Two Kinds'],
    'instep',
  ]);
});

test('the picture on a public page holds no place, whatever the camera noted in it', async () => {
  const gps = { IFD0: { Copyright: 'Somebody' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '53/1 20/1 0/1' } };
  const bytes = await sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#553311' } })
    .withExif(gps)
    .jpeg()
    .toBuffer();
  const added = await addPicture(rig.house, by('Maren'), 'seen.jpg', bytes);
  if (!added.ok) throw new Error(added.error);
  const id = rig.make({ title: 'Seen There', pictures: [newPicture(added.value, { alt: 'Brown', credit: 'us' })] });
  rig.send();
  await rig.settle();
  const address = rig.listings(id)[0]?.publicUrl ?? '';
  const page = await (await fetch(address)).text();
  const picture = /<img[^>]+src="([^"]+)"/.exec(page)?.[1] ?? '';
  const shown = Buffer.from(await (await fetch(new URL(picture, address))).arrayBuffer());
  const { exif, xmp, iptc, format } = await sharp(shown).metadata();
  expect([exif, xmp, iptc, format]).toEqual([undefined, undefined, undefined, 'jpeg']);
});
