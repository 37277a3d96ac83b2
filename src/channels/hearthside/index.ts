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
  steps: [
    'Sign in there as somebody who keeps the page.',
    'Change to the page first, then open “Keys for programs”: a key that is made before that is a person’s, and posts in that person’s name.',
    'Copy the page’s token.',
  ],
  credentials: [
    { name: 'token', label: 'Page token', secret: true, about: 'The page’s, not your own: we ask it whose it is.' },
  ],
  connectionSchema: z.object({ token: z.string().min(1) }),
};
