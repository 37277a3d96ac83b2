import { z } from 'zod';
import type { Channel } from '../kit/channel';
import { client } from './client';
import { read } from './read';
import { rules } from './rules';

export const lectern: Channel = {
  rules,
  read,
  client,
  credentials: [
    { name: 'user', label: 'User', secret: false },
    { name: 'password', label: 'App password', secret: true },
  ],
  connectionSchema: z.object({ user: z.string().min(1), password: z.string().min(1) }),
};
