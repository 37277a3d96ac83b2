import type { Piece } from './answer';

/** Whether this piece ends its answer. */
export function ends(piece: Piece): boolean {
  return piece.kind === 'mentions' || piece.kind === 'passed over' || (piece.kind === 'listings' && piece.last);
}
