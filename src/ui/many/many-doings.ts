import type { ManyChoices, ManySaved } from '@/views/many';

export type { Typed } from './edits';

/** What the house does for many at once. */
export interface ManyDoings {
  choices: () => Promise<ManyChoices>;
  save: (wish: unknown) => Promise<ManySaved>;
}
