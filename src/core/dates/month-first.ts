/**
 * `March 14`, month first: the British reading takes the day for a year. Written small, `may` and `march` are verbs.
 */
export const monthFirst =
  /(?:\b(?:Mon|Tues?|Wed(?:nes)?|Thu(?:rs?)?|Fri|Sat(?:ur)?|Sun)(?:day)?\.?,?\s+)?\b(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)[a-z]*\.?\s+\d{1,2}(?!\d|[:.]\d|st|nd|rd|th)(?:,?\s+\d{4})?(?:,?\s+(?:at\s+)?\d{1,2}(?:[:.]\d{2})?\s*(?:[ap]m)?\b)?/g;
