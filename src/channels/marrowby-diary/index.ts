import type { Kind } from '../kit/kind';
import { rules, settingsSchema } from './rules';
import { z } from 'zod';

/** The town calendar. */
export const marrowbyDiary: Kind = {
  id: 'marrowby-diary',
  group: 'calendars',
  name: 'Marrowby Diary',
  shortName: 'Diary',
  settings: settingsSchema,
  rules,
  steps: [
    'Ask the calendar’s editor for a contributor’s key.',
    'The address of our feed is told to it with the first entry; nothing of it is typed there.',
  ],
  credentials: [{ name: 'key', label: 'Contributor’s key', secret: true }],
  connectionSchema: z.object({ key: z.string().min(1) }),
};
