import type { Kind } from '../kit/kind';
import { z } from 'zod';
import { rules, settingsSchema } from './rules';

/** The mailing list. */
export const postbag: Kind = {
  id: 'postbag',
  group: 'calendars',
  name: 'Postbag',
  shortName: 'Postbag',
  settings: settingsSchema,
  settingFields: [
    {
      name: 'segment',
      label: 'To whom letters go',
      about:
        'One of the list’s segments, as it is called there. A letter may name another. Left empty, each letter must name one.',
    },
  ],
  rules,
  steps: [
    'Make a key there under “Sending by program”, with the right to send.',
    'The user is the list’s own address.',
  ],
  credentials: [
    { name: 'user', label: 'The list’s address', secret: false, about: 'Letters come from it.' },
    { name: 'key', label: 'Key', secret: true },
  ],
  connectionSchema: z.object({ user: z.string().min(3), key: z.string().min(1) }),
};
