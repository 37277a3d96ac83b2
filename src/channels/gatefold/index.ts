import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { sales } from './read';
import { rules } from './rules';

/** The ticketing marketplace; it gives the ticket link. */
export const gatefold: Kind = {
  id: 'gatefold',
  group: 'sale',
  name: 'Gatefold',
  shortName: 'Gatefold',
  settings: z.object({}),
  rules,
  sales,
  credentials: [
    { name: 'clientId', label: 'Client id', secret: false },
    { name: 'clientSecret', label: 'Client secret', secret: true },
  ],
  connectionSchema: z.object({ clientId: z.string().min(1), clientSecret: z.string().min(1) }),
};
