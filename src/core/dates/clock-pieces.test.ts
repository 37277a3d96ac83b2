import { clockPieces } from './clock-pieces';

test.each<[string, string[]]>([
  ['at 1', ['01:00', '13:00']],
  ['at 7.30', ['07:30', '19:30']],
  ['at 11', ['11:00', '23:00']],
  ['at 12', ['12:00', '00:00']],
  ['at 13:00', ['13:00']],
  ['at 0:15', ['00:15']],
  ['at 7pm', ['19:00']],
  ['at 12am', ['00:00']],
])('%s may be %j', (text, readings) => expect(clockPieces(text).map((piece) => piece.readings)).toEqual([readings]));
