import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules, settingsSchema } from './rules';

/** The venue's website. */
export const lectern: Kind = {
  id: 'lectern',
  group: 'own',
  name: 'Lectern',
  shortName: 'Lectern',
  settings: settingsSchema,
  rules,
  steps: [
    'Sign in there with a name that may publish.',
    'Open “Your account”, then “App passwords”, and make one for this house alone: it can be taken back by itself.',
    'Copy it at once: it is shown only then.',
  ],
  credentials: [
    {
      name: 'user',
      label: 'User',
      secret: false,
      about: 'The short name that stands beside your own, under “Your account”.',
    },
    { name: 'password', label: 'App password', secret: true, about: 'Not the password that you sign in with.' },
  ],
  connectionSchema: z.object({ user: z.string().min(1), password: z.string().min(1) }),
};
