import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules } from './rules';

/** The social page: posts. */
export const hearthsidePosts: Kind = {
  id: 'hearthside-posts',
  group: 'social',
  name: 'Hearthside posts',
  shortName: 'H. posts',
  settings: z.object({}),
  rules,
  steps: ['Connect the page’s events: its posts come along with them.'],
  connectsAs: 'hearthside',
  credentials: [],
  connectionSchema: z.object({ token: z.string().min(1) }),
};
