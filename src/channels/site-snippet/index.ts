import { z } from 'zod';
import type { Kind } from '../kit/kind';
import { rules, settingsSchema } from './rules';

/** A page that somebody keeps by hand: what is sent becomes a block to paste. */
export const siteSnippet: Kind = {
  id: 'site-snippet',
  group: 'own',
  name: 'Page kept by hand',
  shortName: 'Page',
  ours: true,
  byPerson: 'block',
  settings: settingsSchema,
  settingFields: [
    {
      name: 'where',
      label: 'Where the page is kept, or who keeps it',
      about: 'Whoever pastes the block reads it on the task.',
    },
  ],
  rules,
  steps: [
    'Name the page: the partner’s site, the festival’s list, a site without an interface.',
    'What is sent there becomes a task: a block of HTML, copied with one key and pasted into the page.',
    'Say that it is done, with the address of the page: it is read from then on.',
  ],
  credentials: [],
  connectionSchema: z.object({}),
};
