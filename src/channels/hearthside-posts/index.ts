import { z } from 'zod';
import type { Channel } from '../kit/channel';
import { client } from './client';
import { read } from './read';
import { rules } from './rules';

export const hearthsidePosts: Channel = {
  rules,
  read,
  client,
  connectsAs: 'hearthside',
  credentials: [],
  connectionSchema: z.object({ token: z.string().min(1) }),
};
