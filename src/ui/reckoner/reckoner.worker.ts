import { zoneSource } from '#zone-source';
import type { ZoneClock } from '@/core/base/zone-source/zone-source';
import { answer, type Piece, type Question } from './answer';

/** A question with its number, with the clocks of zones that were not told before; and a piece of its answer. */
export interface Asked {
  id: number;
  question: Question;
  zones: readonly (readonly [name: string, clock: ZoneClock])[];
}
export interface Told {
  id: number;
  piece: Piece;
}

/** Of each kind, only the newest question is answered: whoever asked before no longer wants to know. */
const newest = new Map<Question['kind'], Asked>();
const tell = (told: Told) => self.postMessage(told);

self.addEventListener('message', ({ data }: MessageEvent<Asked>) => {
  const { kind } = data.question;
  zoneSource.give(new Map(data.zones));
  const before = newest.get(kind);
  if (before) tell({ id: before.id, piece: { kind: 'passed over' } });
  newest.set(kind, data);
  // Whatever else has come in meanwhile is read first.
  setTimeout(() => {
    if (newest.get(kind) !== data) return;
    newest.delete(kind);
    for (const piece of answer(data.question)) tell({ id: data.id, piece });
  }, 0);
});
