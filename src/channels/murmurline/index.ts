import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules } from './rules';

/** Short posts. */
export const murmurline: Kind = {
  id: 'murmurline',
  group: 'social',
  name: 'Murmurline',
  shortName: 'Murmurline',
  settings: z.object({}),
  rules,
  steps: [
    'Sign in there as the account that speaks for the house.',
    'Make a token under “Programs”, with the right to post.',
  ],
  credentials: [{ name: 'token', label: 'Token', secret: true, about: 'It acts for the account that made it.' }],
  connectionSchema: z.object({ token: z.string().min(1) }),
};
