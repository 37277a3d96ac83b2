import { door as gatefold } from './gatefold/door';
import { door as hearthside } from './hearthside/door';
import { door as hearthsidePosts } from './hearthside-posts/door';
import type { Door } from './kit/kind';
import { door as lectern } from './lectern/door';

/** The doors of all kinds: what goes over the wire. */
export const doors: Readonly<Record<string, Door>> = {
  lectern,
  gatefold,
  hearthside,
  'hearthside-posts': hearthsidePosts,
};
