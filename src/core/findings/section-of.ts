import type { FindingPath } from './finding';

/** Sections of a record's form, by their anchors. */
export type FormSection =
  'essentials' | 'dates' | 'line-up' | 'tickets' | 'words' | 'picture' | 'publicity' | 'notices' | 'top';

/** Where what a finding is about is put right: by the first part of its path, a field of the record or of a channel. */
const sections: readonly (readonly [RegExp, FormSection])[] = [
  [/^carried$/, 'top'],
  [
    /^(title|shortTitle|subtitle|eventType|stage|category|categories|tags?|hashtags?|radius|online|video|film|sound|logo|place|organiser|host|tour)/,
    'essentials',
  ],
  [
    /^(performances|start|end|doors|date|lastDate|zone|venue|room|note|venueId|roomId|setUpId|town|street|address|turn|befell|previous|series|repeat)/,
    'dates',
  ],
  [/^(line-?up|programme|set-times|artist|act)/i, 'line-up'],
  [
    /^(tickets|price|amount|level|link$|allocation|quantity|opens|closes|least|order|capacity|admits|covers|choose|code|hidden|extra|coupon|question|registration|asks|approval|waiting|answer|refunds|fee|service|tax|seats-left|letter|left|sheet|total|most)/,
    'tickets',
  ],
  [/^(words|teaser|line|short|full|about|access|age|good-to-know|preview|document|shot|toFollow)/, 'words'],
  [/^picture/, 'picture'],
  [
    /^(publicity|audience|guests|links|link-|linkChoices|unlistedOn|draftOn|oneLineOn|after|leadsAway|leads-away|recording|set-list|listed|channel)/,
    'publicity',
  ],
  [/^(notices|body|subject|segment|pinned|publisher)/, 'notices'],
];

/** The section in which what a finding is about can be put right; `null`: in none that is known. */
export function sectionOf(path: FindingPath): FormSection | null {
  const first = String(path[0] ?? '').replace(/@.*$/, '');
  return sections.find(([pattern]) => pattern.test(first))?.[1] ?? null;
}
