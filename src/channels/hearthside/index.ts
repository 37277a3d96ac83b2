import { z } from 'zod';
import type { Channel } from '../kit/channel';
import { client } from './client';
import { read } from './read';
import { rules } from './rules';

export const hearthside: Channel = {
  rules,
  read,
  client,
  credentials: [{ name: 'token', label: 'Page token', secret: true }],
  connectionSchema: z.object({ token: z.string().min(1) }),
};
