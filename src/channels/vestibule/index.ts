import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { sourcesAt } from '../kit/counts';
import { sales } from './read';
import { rules } from './rules';

/** The online room. */
export const vestibule: Kind = {
  id: 'vestibule',
  group: 'sale',
  name: 'Vestibule',
  shortName: 'Vestibule',
  settings: z.object({}),
  rules,
  sales,
  sources: sourcesAt('sources'),
  steps: ['Open the room’s settings there and go to “Keys”.', 'Make a key that may make rooms, and paste it here.'],
  credentials: [
    { name: 'key', label: 'Key', secret: true, about: 'Begins with vk-. One that may only read is refused here.' },
  ],
  connectionSchema: z.object({ key: z.string().min(1) }),
};
