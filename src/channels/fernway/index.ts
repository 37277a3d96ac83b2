import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules, settingsSchema } from './rules';

/** The register of tour dates. */
export const fernway: Kind = {
  id: 'fernway',
  group: 'artists',
  name: 'Fernway',
  shortName: 'Fernway',
  settings: settingsSchema,
  settingFields: [
    { name: 'act', label: 'The artist', about: 'As the line-up names them: only their dates are wanted there.' },
  ],
  rules,
  steps: [
    'Sign in there as the artist, or as whom they allowed.',
    'The profile id stands at the foot of the artist’s page.',
    'Make a key under “Feeds and keys”: each artist has one of their own.',
  ],
  credentials: [
    {
      name: 'profile',
      label: 'Profile id',
      secret: false,
      about: 'Begins with fw-. It must be the one that the key is for.',
    },
    { name: 'key', label: 'The artist’s key', secret: true },
  ],
  connectionSchema: z.object({ profile: z.string().min(1), key: z.string().min(1) }),
};
