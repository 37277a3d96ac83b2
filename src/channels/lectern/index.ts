import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules } from './rules';

/** The venue's website. */
export const lectern: Kind = {
  id: 'lectern',
  group: 'own',
  name: 'Lectern',
  shortName: 'Lectern',
  settings: z.object({}),
  rules,
  credentials: [
    { name: 'user', label: 'User', secret: false },
    { name: 'password', label: 'App password', secret: true },
  ],
  connectionSchema: z.object({ user: z.string().min(1), password: z.string().min(1) }),
};
