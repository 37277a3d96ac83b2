/** Hours of the day that can be set on many events at once. */
export const manyHours = { start: 'Start', doors: 'Doors', end: 'End' } as const;
/** Facts of one line that can. */
export const manyLines = {
  subtitle: 'Subtitle',
  eventType: 'Kind of event',
  age: 'Age',
  note: 'Note on the date',
} as const;
/** Texts that can be replaced, or have something put before or behind them. */
export const manyTexts = {
  line: 'Line',
  teaser: 'Teaser',
  short: 'Short text',
  full: 'Full text',
  access: 'Access',
} as const;
/** Turns that can befall many events at once, in one way for all of them. */
export const manyTurns = {
  postpone: 'Postpone, date to follow',
  move: 'Move to another room',
  cancel: 'Cancel',
  soldOut: 'Sold out',
} as const;
