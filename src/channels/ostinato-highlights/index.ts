import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules } from './rules';

/** The highlight on an artist's page. */
export const ostinatoHighlights: Kind = {
  id: 'ostinato-highlights',
  group: 'artists',
  name: 'Ostinato highlight',
  shortName: 'O. highlight',
  settings: z.object({}),
  rules,
  connectsAs: 'ostinato',
  credentials: [],
  connectionSchema: z.object({ profile: z.string().min(1), token: z.string().min(1) }),
};
