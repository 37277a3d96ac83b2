import { zonesOf } from './zones-of';

test('zones are found wherever a view names them, and nothing else is taken for one', () => {
  const view = {
    ...{ zone: 'Europe/Dublin', none: null, nothing: undefined, count: 3 },
    list: [{ zone: 'Pacific/Auckland' }, null, 'zone'],
    map: new Map([['a', { zone: 'America/Phoenix' }]]),
    set: new Set([{ zone: 'Asia/Tokyo' }]),
  };
  const found = JSON.stringify(zonesOf(view, null, 'zone'));
  for (const place of ['Dublin', 'Auckland', 'Phoenix', 'Tokyo']) expect(found).toContain(place);
  expect(JSON.stringify(zonesOf(null))).not.toContain('Dublin');
});
