import type { Kind } from '../kit/kind';
import { z } from 'zod';
import { rules, settingsSchema } from './rules';

/** The professional network: events. */
export const concourse: Kind = {
  id: 'concourse',
  group: 'social',
  name: 'Concourse',
  shortName: 'Concourse',
  settings: settingsSchema,
  settingFields: [
    {
      name: 'kinds',
      label: 'Kinds of event',
      about: 'Only these are wanted there, with commas between them: talk, workshop. Leave it empty for all.',
    },
  ],
  rules,
  steps: [
    'Open the organisation’s page there, not your own, and go to “Programs that act for us”.',
    'Make a key for the organisation and paste it here.',
  ],
  credentials: [
    {
      name: 'key',
      label: 'The organisation’s key',
      secret: true,
      about: 'One of a person works too, and posts in that person’s name: it is refused here.',
    },
  ],
  connectionSchema: z.object({ key: z.string().min(1) }),
};
