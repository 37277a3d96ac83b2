import { byHand } from './by-hand';
import { calendarFeed } from './calendar-feed';
import { concourse } from './concourse';
import { fernway } from './fernway';
import { gatefold } from './gatefold';
import { hearthside } from './hearthside';
import { hearthsidePosts } from './hearthside-posts';
import type { Kind } from './kit/kind';
import { lectern } from './lectern';
import { marrowbyDiary } from './marrowby-diary';
import { murmurline } from './murmurline';
import { ostinato } from './ostinato';
import { ostinatoHighlights } from './ostinato-highlights';
import { pennyseat } from './pennyseat';
import { postbag } from './postbag';
import { siteSnippet } from './site-snippet';
import { vestibule } from './vestibule';

/** Every kind there is, in the order in which they are offered: the pure half. */
export const kinds: readonly Kind[] = [
  lectern,
  gatefold,
  pennyseat,
  vestibule,
  hearthside,
  hearthsidePosts,
  murmurline,
  concourse,
  fernway,
  ostinato,
  ostinatoHighlights,
  calendarFeed,
  marrowbyDiary,
  postbag,
  byHand,
  siteSnippet,
];
