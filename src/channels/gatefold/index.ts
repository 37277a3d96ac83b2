import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { sourcesAt } from '../kit/counts';
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
  sources: sourcesAt('by_source'),
  steps: [
    'Sign in there as the seller whose account is to sell.',
    'Open “Seller”, then “Programs”, and add one; it is given an id and a secret.',
    'Give the account a bank account there, or nothing can be sold for money.',
  ],
  credentials: [
    { name: 'clientId', label: 'Client id', secret: false, about: 'Stands beside the program’s name.' },
    {
      name: 'clientSecret',
      label: 'Client secret',
      secret: true,
      about: 'Shown once. Where it is lost, have a new one made.',
    },
  ],
  connectionSchema: z.object({ clientId: z.string().min(1), clientSecret: z.string().min(1) }),
};
