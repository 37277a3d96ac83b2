import fc from 'fast-check';
import type { Fate } from './scripted/place';

export type Step =
  | {
      do: 'save';
      what:
        | 'title'
        | 'subtitle'
        | 'pencil'
        | 'hold'
        | 'off'
        | 'draft'
        | 'private'
        | 'embargo'
        | 'lift'
        | 'cut'
        | 'some'
        | 'unlisted';
    }
  | { do: 'send' | 'beat' | 'read' | 'restart' | 'wake' | 'settle' | 'unplug' | 'theirs' | 'ours' | 'here' }
  | { do: 'merge' | 'answer' | 'turn down' | 'let through' | 'one down' }
  | { do: 'decide'; which: number; verdict: 'again' | 'drop' | 'without' }
  | { do: 'fate'; call: number; fate: Fate }
  | {
      do: 'meanwhile';
      call: number;
      what: 'private' | 'off' | 'pencil' | 'embargo' | 'some' | 'unlisted' | 'draft' | 'hold';
    }
  | { do: 'hand'; what: 'name' | 'under' | 'dates' | 'remove' | 'close' }
  | { do: 'pass'; ms: number };

const fates = fc.constantFrom<Fate>(
  'lose',
  'crash-before',
  'crash-after',
  { status: 503 },
  { status: 429, headers: { 'retry-after': '20' } },
  { status: 422 },
  { status: 409 },
);
export const step: fc.Arbitrary<Step> = fc.oneof(
  {
    arbitrary: fc.record({
      do: fc.constant('save' as const),
      what: fc.constantFrom(
        'title' as const,
        'subtitle' as const,
        'pencil' as const,
        'hold' as const,
        'off' as const,
        'draft' as const,
        'private' as const,
        'embargo' as const,
        'lift' as const,
        'cut' as const,
        'some' as const,
        'unlisted' as const,
      ),
    }),
    weight: 6,
  },
  { arbitrary: fc.record({ do: fc.constant('send' as const) }), weight: 5 },
  { arbitrary: fc.record({ do: fc.constantFrom('beat' as const, 'read' as const) }), weight: 8 },
  {
    arbitrary: fc.record({
      do: fc.constantFrom(
        'restart' as const,
        'wake' as const,
        'settle' as const,
        'unplug' as const,
        'theirs' as const,
        'ours' as const,
        'here' as const,
      ),
    }),
    weight: 5,
  },
  {
    arbitrary: fc.record({
      do: fc.constantFrom(
        'merge' as const,
        'answer' as const,
        'turn down' as const,
        'let through' as const,
        'one down' as const,
      ),
    }),
    weight: 4,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('decide' as const),
      which: fc.nat(),
      verdict: fc.constantFrom('again' as const, 'drop' as const, 'without' as const),
    }),
    weight: 2,
  },
  {
    arbitrary: fc.record({ do: fc.constant('fate' as const), call: fc.nat({ max: 9 }), fate: fates }),
    weight: 4,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('meanwhile' as const),
      call: fc.nat({ max: 9 }),
      what: fc.constantFrom(
        'private' as const,
        'off' as const,
        'pencil' as const,
        'embargo' as const,
        'some' as const,
        'unlisted' as const,
        'draft' as const,
        'hold' as const,
      ),
    }),
    weight: 4,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('hand' as const),
      what: fc.constantFrom('name' as const, 'under' as const, 'dates' as const, 'remove' as const, 'close' as const),
    }),
    weight: 3,
  },
  {
    arbitrary: fc.record({
      do: fc.constant('pass' as const),
      ms: fc.constantFrom(1_000, 12_000, 70_000, 3_600_000, 2 * 86_400_000, -3_600_000),
    }),
    weight: 3,
  },
);

export const first = fc.record({
  fate: fc.constantFrom<Fate>('lose', 'crash-before', 'crash-after', 'late'),
  call: fc.nat({ max: 3 }),
});
