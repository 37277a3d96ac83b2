import { tracked } from './ticket-link';

test.each([
  ['https://seller.example/e/1', 'via', 'lectern', 'https://seller.example/e/1?via=lectern'],
  ['https://seller.example/e/1?a=b', 'via', 'lectern', 'https://seller.example/e/1?a=b&via=lectern'],
  ['https://seller.example/e/1?via=us', 'via', 'lectern', 'https://seller.example/e/1?via=us'],
  ['https://seller.example/e/1', '', 'lectern', 'https://seller.example/e/1'],
  ['https://seller.example/e/1', 'via', '', 'https://seller.example/e/1'],
  ['no address', 'via', 'lectern', 'no address'],
])('%s, counted as %s=%s', (href, name, source, link) => expect(tracked(href, name, source)).toBe(link));
