import { withNeeded } from './needed';

test.each<[string, string[], boolean, string[]]>([
  ['what gives the link is ticked with what waits for it', ['page'], true, ['page', 'market']],
  ['and what waits for it is unticked with it', ['market'], false, ['market', 'page', 'post']],
  ['along a chain', ['post'], true, ['post', 'page', 'market']],
  ['what waits is not ticked with what gives', ['market'], true, ['market']],
  ['what gives is not unticked with what waits', ['post'], false, ['post']],
  ['what goes with nothing goes alone', ['diary'], false, ['diary']],
])('%s', (_, listings, on, expected) => {
  const errands = [
    { listing: 'post', needs: ['page'] },
    { listing: 'page', needs: ['market'] },
    { listing: 'market', needs: [] },
    { listing: 'diary', needs: [] },
  ];
  expect([...withNeeded(errands, listings, on)].sort()).toEqual(expected.sort());
});
