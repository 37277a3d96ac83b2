import { z } from 'zod';
import type { Channel } from '../kit/channel';
import { client } from './client';
import { read, sales } from './read';
import { rules } from './rules';

export const gatefold: Channel = {
  rules,
  read,
  sales,
  client,
  credentials: [
    { name: 'clientId', label: 'Client id', secret: false },
    { name: 'clientSecret', label: 'Client secret', secret: true },
  ],
  connectionSchema: z.object({ clientId: z.string().min(1), clientSecret: z.string().min(1) }),
};
