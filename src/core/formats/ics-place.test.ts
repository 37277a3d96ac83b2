import { placeOfLocation } from './ics-place';

test.each([
  ['Tallow Yard', { name: 'Tallow Yard', room: '', address: '', town: '', country: '' }],
  ['Tallow Yard, Marrowby', { name: 'Tallow Yard', town: 'Marrowby', country: '' }],
  // Of two parts the second is the town, whatever it is called.
  ['Tallow Yard, Ireland', { name: 'Tallow Yard', town: 'Ireland', country: '' }],
  ['Tallow Yard, Marrowby, Ireland', { name: 'Tallow Yard', town: 'Marrowby', country: 'Ireland' }],
  ['The Vat, Tallow Yard, Marrowby', { name: 'Tallow Yard', room: 'The Vat', town: 'Marrowby' }],
  [
    'Tallow Yard, 9 Wicker Lane, Marrowby',
    { name: 'Tallow Yard', room: '', address: '9 Wicker Lane', town: 'Marrowby' },
  ],
])('%s', (location, place) => expect(placeOfLocation(location)).toMatchObject(place));
