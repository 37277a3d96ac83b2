import type { ActFacts, Facts, ProgrammeFacts } from '../facts/facts';
import type { PerformanceFacts } from '../facts/performance-facts';
import type { CouponFacts, ExtraFacts, LevelFacts } from '../facts/sale';
import type { LabelledLink, PictureUse, RecordDocument } from '../record/record';
import type { Question } from '../record/ticket-schema';

/** What an event has several of, each with an id of its own: a channel may list them, each with fields of its own. */
export interface GroupItems {
  performance: PerformanceFacts;
  level: LevelFacts;
  extra: ExtraFacts;
  coupon: CouponFacts;
  question: Question;
  link: LabelledLink;
  document: RecordDocument;
  item: ProgrammeFacts;
  act: ActFacts;
  shot: Shot;
}

/** A picture of the night itself. */
export interface Shot extends PictureUse {
  id: string;
}
export type Group = keyof GroupItems;

/** Where the facts hold the items of each group, in their order. */
export const groupItems: { [G in Group]: (facts: Facts) => readonly GroupItems[G][] } = {
  performance: (f) => f.performances,
  level: (f) => f.levels,
  extra: (f) => f.extras,
  coupon: (f) => f.coupons,
  question: (f) => f.questions,
  link: (f) => f.links,
  document: (f) => f.documents,
  item: (f) => f.programme,
  act: (f) => f.acts,
  shot: (f) => f.after.pictures.map((picture) => ({ ...picture, id: picture.pictureId })),
};

/** Every group there is. */
export const groupNames = Object.keys(groupItems) as Group[];
