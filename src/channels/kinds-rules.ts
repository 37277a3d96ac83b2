import { gatefold } from './gatefold';
import { hearthside } from './hearthside';
import { hearthsidePosts } from './hearthside-posts';
import type { Kind } from './kit/kind';
import { lectern } from './lectern';

/** Every kind there is, in the order in which they are offered: the pure half. */
export const kinds: readonly Kind[] = [lectern, gatefold, hearthside, hearthsidePosts];
