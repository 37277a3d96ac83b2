import { readFileSync } from 'node:fs';
import { picturePath } from '@/house/renditions';
import { by, keeper } from '@/core/testing/doers';
import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { newPicture } from '@/core/record/new-record';
import { findingWords } from '@/core/findings/finding-words';
import { performance } from '@/core/testing/samples';
import { keepPicture, offeredPictures, pictureShelf } from '@/desk/directory/picture-shelf';
import { addPicture } from '@/desk/records/add-picture';
import { makeRig, type Rig } from './rig';

/* Pictures are kept once: named, credited, with a last day, and told where that has come before the event. */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern']);
});
afterAll(() => rig.end());

const draw = async (name: string, background: string) => {
  const bytes = await sharp({ create: { width: 1500, height: 1000, channels: 3, background } })
    .jpeg()
    .toBuffer();
  const added = await addPicture(rig.house, by('Maren'), name, bytes);
  if (!added.ok) throw new Error(added.error);
  // It is known by what is kept of it.
  const kept = readFileSync(picturePath(rig.house.folder, added.value.id));
  expect(added.value.id).toBe(createHash('sha256').update(kept).digest('hex'));
  return added.value;
};
const kept = (id: string) => pictureShelf(rig.house, keeper).find((picture) => picture.id === id);

test('a file is kept once, by a name that a person reads, and learns what is first said of it', async () => {
  const one = await draw('odalys-quarry_press-2.JPG', '#803020');
  const again = await draw('the same file.jpg', '#803020');
  expect([again.id, kept(one.id)?.name, kept(one.id)?.uses]).toEqual([one.id, 'odalys quarry press 2', []]);
  const use = newPicture(one, { alt: 'A harp', credit: 'Mette Holm' });
  const id = rig.make({ title: 'With It', pictures: [use] });
  rig.make({ title: 'With It Too', pictures: [{ ...use, alt: 'Another word', credit: 'Somebody' }] });
  expect(kept(one.id)).toMatchObject({ alt: 'A harp', credit: 'Mette Holm', uses: [{ id, title: 'With It' }, {}] });
});

test('it is found by name, credit and description, and narrowed at most', async () => {
  const one = await draw('ropewalk.jpg', '#102030');
  expect(
    keepPicture(rig.house, keeper, { id: one.id, name: 'The long floor', credit: 'Tollen', alt: 'A hall', until: null })
      .ok,
  ).toBe(true);
  const ids = (find: string, most?: number) => pictureShelf(rig.house, keeper, find, most).map((picture) => picture.id);
  expect([ids('LONG floor'), ids('tollen'), ids('a hall'), ids('ropewalk')]).toEqual(Array(4).fill([one.id]));
  expect(offeredPictures(rig.house, keeper, 'long floor')).toEqual([
    expect.objectContaining({ id: one.id, name: 'The long floor' }),
  ]);
  expect([ids('nothing like it'), ids('', 1).length, ids('%')]).toEqual([[], 1, []]);
});

test.each([
  [{ id: 'x' }, 'id'],
  [{ name: 'n'.repeat(121) }, 'name'],
  [{ until: '2027-02-30' }, 'until'],
  [{ id: 'ab'.repeat(32) }, 'name'],
])('%j is refused at its field, and nothing of it is kept', async (part, field) => {
  const one = await draw('kept.jpg', '#405060');
  const before = kept(one.id);
  const answer = keepPicture(rig.house, keeper, { id: one.id, name: 'N', credit: '', alt: '', until: null, ...part });
  expect([answer.ok ? [] : Object.keys(answer.error), kept(one.id)]).toEqual([[field], before]);
});

test('a picture whose last day comes before the event’s is told, at once and only then', async () => {
  const one = await draw('borrowed.jpg', '#708090');
  const nights = [performance('p1', '2027-03-14'), performance('p2', '2027-03-20')];
  const id = rig.make({ title: 'Borrowed', performances: nights, pictures: [newPicture(one, { alt: 'x' })] });
  const told = () =>
    (rig.listings(id)[0]?.findings ?? []).flatMap((finding) =>
      finding.code === 'picture-ends' ? [`${finding.weight} ${findingWords(finding)}`] : [],
    );
  const until = (day: string | null) =>
    keepPicture(rig.house, keeper, { id: one.id, name: 'Loan', credit: '', alt: '', until: day });
  expect(told()).toEqual([]);
  until('2027-03-20');
  expect(told()).toEqual([]);
  until('2027-03-19');
  expect(told()).toEqual([expect.stringMatching(/^warns “Loan” may be used until Fri 19 Mar only/)]);
  until(null);
  expect(told()).toEqual([]);
});
