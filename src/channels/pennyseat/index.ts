import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { sales } from './read';
import { rules } from './rules';

/** The regional network of box offices. */
export const pennyseat: Kind = {
  id: 'pennyseat',
  group: 'sale',
  name: 'Pennyseat',
  shortName: 'Pennyseat',
  settings: z.object({}),
  rules,
  sales,
  steps: ['Ask the network’s office for a member’s code and its word.', 'Give each venue its code in the Directory.'],
  credentials: [
    {
      name: 'member',
      label: 'Member’s code',
      secret: false,
      about: 'Four letters and two digits, from the network’s letter.',
    },
    { name: 'word', label: 'Word', secret: true },
  ],
  connectionSchema: z.object({ member: z.string().min(1), word: z.string().min(1) }),
};
