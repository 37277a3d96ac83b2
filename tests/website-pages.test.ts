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
