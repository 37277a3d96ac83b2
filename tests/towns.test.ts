import { findTowns, placeFinder, placeKey, townAnswer } from '@/desk/files/towns';

const said = (town: string, country: string) => {
  const answer = townAnswer(town, country);
  return answer.kind === 'known'
    ? `${answer.zone} ${answer.by}${answer.point === null ? '' : ` ${Math.round(answer.point.lat)}`}`
    : answer.kind;
};

test.each<[string, string, string]>([
  ['Chicago', 'USA', 'America/Chicago town 42'],
  ['Chicago', '', 'America/Chicago town 42'],
  ['dublin', 'Ireland', 'Europe/Dublin town 53'],
  ['Dublin', '', 'several'],
  ['Springfield', 'US', 'several'],
  ['Portland, OR', '', 'America/Los_Angeles town 46'],
  ['Paris, France', '', 'Europe/Paris town 49'],
  ['Galway', 'IE', 'Europe/Dublin town 53'],
  ['Ghent', 'Belgium', 'Europe/Brussels town 51'],
  ['Gdansk', 'POL', 'Europe/Warsaw town 54'],
  ['REYKJAVIK', 'Iceland', 'Atlantic/Reykjavik town 64'],
  ["Saint John's", 'Canada', 'America/St_Johns town 48'],
  ['Las Palmas', 'Spain', 'Atlantic/Canary town 28'],
  // Of several in one zone the zone is known and the place is not; a town that is in no list lies in its country.
  ['Newcastle', 'United Kingdom', 'Europe/London town'],
  ['Marrowby', 'Ireland', 'Europe/Dublin country'],
  ['Marrowby', 'USA', 'none'],
  ['Marrowby', '', 'none'],
  ['', 'Ireland', 'Europe/Dublin country'],
  ['x'.repeat(100_000), '', 'none'],
])('%.20s, %s: %s', (town, country, expected) => expect(said(town, country)).toBe(expected));

test('the venues of the house are known first, then other venues of the town, then what a person said', () => {
  const venues = [
    { name: 'Tallow Yard', town: 'Marrowby', zone: 'Europe/Dublin' },
    { name: 'The Forum', town: 'Leeds', zone: 'Europe/London' },
    { name: 'The Forum', town: 'Port', zone: 'Europe/Paris' },
  ];
  const [first] = findTowns('Springfield', 'US');
  const find = placeFinder(
    venues,
    new Map([[placeKey('Springfield', 'United States'), { zone: first?.zone ?? '', point: first?.point ?? null }]]),
  );
  const zone = (venue: string, town: string, country = '') => {
    const found = find({ venue, town, country });
    return found.kind === 'known' ? `${found.zone} ${found.by}` : found.kind;
  };
  expect([
    zone('tallow yard', 'Marrowby'),
    zone('Tallow Yard', ''),
    zone('Another', 'Marrowby'),
    zone('The Forum', ''),
    zone('The Forum', 'Leeds'),
    zone('X', 'Springfield', 'USA'),
    zone('X', ''),
  ]).toEqual([
    'Europe/Dublin venue',
    'Europe/Dublin venue',
    'Europe/Dublin venue',
    'none',
    'Europe/London venue',
    `${first?.zone} town`,
    'none',
  ]);
});
