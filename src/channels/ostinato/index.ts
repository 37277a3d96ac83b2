import type { Kind } from '../kit/kind';
import { z } from 'zod';
import { rules, settingsSchema } from './rules';

/** The streaming service's artist page. */
export const ostinato: Kind = {
  id: 'ostinato',
  group: 'artists',
  name: 'Ostinato',
  shortName: 'Ostinato',
  settings: settingsSchema,
  settingFields: [
    {
      name: 'act',
      label: 'The artist',
      about: 'As the line-up names them, and as for the register whose dates it shows.',
    },
  ],
  rules,
  steps: [
    'Claim the artist’s page there.',
    'Link it to the artist’s profile in Fernway, or no date ever shows.',
    'Make a token under “Page and people”.',
  ],
  credentials: [
    { name: 'profile', label: 'Page id', secret: false, about: 'Begins with os-.' },
    { name: 'token', label: 'Token', secret: true },
  ],
  connectionSchema: z.object({ profile: z.string().min(1), token: z.string().min(1) }),
};
