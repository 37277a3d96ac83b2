import { door as byHand } from './by-hand/door';
import { door as calendarFeed } from './calendar-feed/door';
import { door as concourse } from './concourse/door';
import { door as fernway } from './fernway/door';
import { door as gatefold } from './gatefold/door';
import { door as hearthside } from './hearthside/door';
import { door as hearthsidePosts } from './hearthside-posts/door';
import type { Door } from './kit/kind';
import { door as lectern } from './lectern/door';
import { door as marrowbyDiary } from './marrowby-diary/door';
import { door as murmurline } from './murmurline/door';
import { door as ostinato } from './ostinato/door';
import { door as ostinatoHighlights } from './ostinato-highlights/door';
import { door as pennyseat } from './pennyseat/door';
import { door as postbag } from './postbag/door';
import { door as siteSnippet } from './site-snippet/door';
import { door as vestibule } from './vestibule/door';

/** The doors of all kinds: what goes over the wire. */
export const doors: Readonly<Record<string, Door>> = {
  lectern,
  gatefold,
  pennyseat,
  vestibule,
  hearthside,
  'hearthside-posts': hearthsidePosts,
  murmurline,
  concourse,
  fernway,
  ostinato,
  'ostinato-highlights': ostinatoHighlights,
  'calendar-feed': calendarFeed,
  'marrowby-diary': marrowbyDiary,
  postbag,
  'by-hand': byHand,
  'site-snippet': siteSnippet,
};
