import { z } from 'zod';
import { unsaidLevel } from '@/core/facts/tickets/seats';
import type { Answer } from '../kit/kind';

const countsSchema = z.looseObject({
  sold: z.number().int().min(0),
  shows: z.array(z.looseObject({ tag: z.string() })).min(1),
});

/** What its box offices sold of the performance; they do not say at which price. */
export function sales({ wire }: Pick<Answer, 'wire'>) {
  const read = countsSchema.safeParse(wire);
  const [show] = read.success ? read.data.shows : [];
  return read.success && show ? [{ performanceId: show.tag, levelId: unsaidLevel, sold: read.data.sold }] : [];
}
