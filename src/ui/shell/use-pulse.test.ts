import { isPulse } from './use-pulse';

const pulse = {
  ...{ now: 1, clock: 'real', zone: 'Europe/Dublin', toSend: 0, asks: 0, beyond: 0 },
  ...{ held: 0, clashes: 0 },
  ...{ trouble: null, silent: [{ name: 'Gatefold', since: 1 }], mark: 'a' },
};

test.each([
  ['a pulse', pulse, true],
  ['one with trouble', { ...pulse, trouble: 'disk-full' }, true],
  ['one of a later version, with more', { ...pulse, more: 1 }, true],
  ['nothing', null, false],
  ['a text', 'stopped', false],
  ['a list', [], false],
  ['one without its mark', { ...pulse, mark: undefined }, false],
  ['a number as a text', { ...pulse, asks: '1' }, false],
  ['no list of silent channels', { ...pulse, silent: null }, false],
  ['something else as such a list', { ...pulse, silent: {} }, false],
])('%s', (_, said, is) => expect(isPulse(said)).toBe(is));
