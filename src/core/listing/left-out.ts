import type { Facts } from '../facts/facts';
import { finding, type Finding } from '../findings/finding';
import { mayHoldFigures } from '../words/figures';
import { sells, type KindRules } from './channel-rules';
import type { Group } from './groups';

/** A fact that not every channel has a place for. */
interface Placeable {
  what: string;
  /** The record says something of it. */
  said: (facts: Facts) => boolean;
  /** Any row of this group, or with this field, is a place for it. */
  group?: Group;
  field?: string;
  /** A rich text with pictures in it is a place for it. */
  figures?: true;
  /** Only a channel that sells is asked for it. */
  selling?: true;
  /** Without it the public would be told, or sold, something else. */
  wrong?: true;
}

const placeables: readonly Placeable[] = [
  { what: 'labelled links', said: (f) => f.links.length > 0, group: 'link' },
  { what: 'pictures in the text', said: (f) => mayHoldFigures(f.full), figures: true },
  { what: 'documents', said: (f) => f.documents.length > 0, group: 'document' },
  { what: 'the programme', said: (f) => f.programme.length > 0, group: 'item', field: 'programme' },
  { what: 'the recording', said: (f) => f.after.recording !== null, field: 'recording' },
  { what: 'pictures of the night', said: (f) => f.after.pictures.length > 0, group: 'shot' },
  { what: 'the set list', said: (f) => f.after.setList !== '', field: 'set-list' },
  { what: 'the series as one line', said: (f) => f.asOneLine && f.series !== '', field: 'series' },
  { what: 'extras', said: (f) => f.extras.length > 0, group: 'extra', selling: true },
  { what: 'coupons', said: (f) => f.coupons.length > 0, group: 'coupon', selling: true },
  { what: 'questions', said: (f) => f.questions.length > 0, group: 'question', selling: true },
  {
    what: 'what price levels are',
    said: (f) => f.levels.some((level) => level.words !== ''),
    field: 'level-words',
    selling: true,
  },
  {
    what: 'price levels for several dates',
    said: (f) => f.levels.some((level) => level.covers !== null),
    field: 'covers',
    selling: true,
    wrong: true,
  },
];

const placeless = new WeakMap<KindRules['rows'], readonly Placeable[]>();

/** What a channel with these rows has no place for, whatever the record says. */
function withoutPlace({ rows, gives }: Pick<KindRules, 'rows' | 'gives'>): readonly Placeable[] {
  let found = placeless.get(rows);
  if (!found) {
    found = placeables.filter(
      ({ group, field, figures, selling }) =>
        (selling !== true || sells({ gives })) &&
        !rows.some((row) => row.each === group || row.field === field || (figures === true && row.figures === true)),
    );
    placeless.set(rows, found);
  }
  return found;
}

/** What the record says and a channel that lists events has no place for. */
export function leftOut(
  { rows, notice, gives }: Pick<KindRules, 'rows' | 'notice' | 'gives'>,
  facts: Facts,
): Finding[] {
  if (notice !== null) return [];
  const missing = withoutPlace({ rows, gives }).filter(({ said }) => said(facts));
  if (missing.length === 0) return [];
  const words = (wrong: boolean) =>
    missing.filter((candidate) => (candidate.wrong ?? false) === wrong).map((item) => item.what);
  return [
    ...(words(false).length > 0 ? [finding(['left-out'], 'notes', { code: 'left-out-here', what: words(false) })] : []),
    ...(words(true).length > 0 ? [finding(['left-out'], 'stops', { code: 'left-out-here', what: words(true) })] : []),
  ];
}
