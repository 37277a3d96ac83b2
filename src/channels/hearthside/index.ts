import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules, settingsSchema } from './rules';

/** The social page: events. */
export const hearthside: Kind = {
  id: 'hearthside',
  group: 'social',
  name: 'Hearthside',
  shortName: 'Hearthside',
  settings: settingsSchema,
  settingFields: [
    {
      name: 'act',
      label: 'Whose page it is',
      about: 'Only events that this act plays at are wanted there. Leave it empty for the house’s own page.',
    },
  ],
  rules,
  credentials: [{ name: 'token', label: 'Page token', secret: true }],
  connectionSchema: z.object({ token: z.string().min(1) }),
};
