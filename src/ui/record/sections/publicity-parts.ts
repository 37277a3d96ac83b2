/** What of a record the section on publicity is about. */
export const publicityParts = [
  'publicity',
  'leftOff',
  'audience',
  'unlistedOn',
  'draftOn',
  'oneLineOn',
  'linkChoices',
  'notices',
  'links',
  'leadsAway',
  'after',
  'guests',
  'pictures',
] as const;
