import { z } from 'zod';
import { handRulesSchema } from '@/core/listing/hand-rules';
import type { Kind } from '../kit/kind';
import { rules } from './rules';

/** A place without any interface: a noticeboard, a magazine's form, a partner's page. A person fills it in. */
export const byHand: Kind = {
  id: 'by-hand',
  group: 'own',
  name: 'By hand',
  shortName: 'By hand',
  ours: true,
  byPerson: 'sheet',
  settings: handRulesSchema,
  rules,
  steps: [
    'Name the place: the magazine, the noticeboard, the partner.',
    'Then say on its card what it asks for, in its own order and with its own limits, and how early it wants it.',
    'What is sent there becomes a task for a person: a sheet to type from, with a key to copy each field.',
  ],
  credentials: [],
  connectionSchema: z.object({}),
};
