import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules, settingsSchema } from './rules';

/** A calendar that anybody subscribes to by its address. */
export const calendarFeed: Kind = {
  id: 'calendar-feed',
  group: 'calendars',
  name: 'Calendar feed',
  shortName: 'Feed',
  ours: true,
  settings: settingsSchema,
  settingFields: [
    {
      name: 'holds',
      label: 'What it holds',
      about: 'The whole house, or what takes place in one room, with one act, on one tour, of one kind.',
      choices: 'parts of the house',
    },
  ],
  rules,
  steps: [
    'Say what it holds: its address is made at once, and nobody can guess it.',
    'Give the address to whoever is to have it: in a calendar program it is added as a calendar by its address (“from URL”, “subscribe”).',
    'It can be taken back at any time: a new address is made, and the old one leads nowhere.',
  ],
  credentials: [],
  connectionSchema: z.object({}),
};
