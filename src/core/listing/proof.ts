import { unitOf, type ChannelRules, type FieldRow } from './channel-rules';
import { renditionSize } from '../pictures/crop';
import { categoriesThere } from './categories-there';
import type { Facts } from '../facts/facts';
import { nextOf, type PerformanceFacts } from '../facts/performance-facts';
import { holdsSecret } from '../facts/secrets';
import { fieldOf, finding, type Finding, type FindingFact } from '../findings/finding';
import { mayHoldFigures, shownFigures } from '../words/figures';
import { cleanHtml, readMarkup, softBreaks, withoutFigures, writeHtml } from '../words/markup';
import { choosePicture } from '../pictures/picture-choice';
import type { Override, PictureUse } from '../record/record';
import { groupItems, type Group, type GroupItems } from './groups';
import { leftOut } from './left-out';
import { isOff, listedField, shownKey, splitKey, type Shown, type ShownValue } from './shown';
import { tracked } from './ticket-link';
import { countAs, cutAs, fit, fitWords } from '../words/fit';
import { noticeLength, writeNotice } from '../words/notice';
import { fillTokens } from '../words/tokens';
import type { Instant } from '../base/zones';

/** A listing as the channel will show it, with what was noticed about it. */
export interface Proof {
  shown: Shown;
  findings: Finding[];
  /** What the record itself says where a field is worded by hand. */
  beneath: Record<string, string>;
}

/**
 * What `rules`' channel will show of an event: the performances named in `part`, words filled, every field fitted to
 * the channel, fields worded by hand in their place. Pure and total: what is missing or does not fit is a finding.
 */
export function proof(rules: ChannelRules, facts: Facts, part: readonly string[], now: Instant): Proof {
  const shown: Shown = {};
  const findings: Finding[] = [];
  const beneath: Record<string, string> = {};
  const scoped = scopedTo(rules, facts, part, now, findings);
  const into: Making = { rules, scoped, shown, findings };
  for (const row of rules.rows) {
    const usual = row.usual?.(scoped) ?? null;
    if (usual !== null) findings.push(finding([row.field], 'notes', usual));
    if (row.field === 'picture' && row.each === 'event')
      put(into, row, pictureValue(rules, row, scoped.pictures, findings));
    else if (row.each === 'event')
      put(
        into,
        row,
        awaitsLink(rules, row, scoped, facts) ??
          byHand(rules, row, row.from(scoped), { facts: scoped, now }, findings, beneath),
      );
    else if (row.each === 'performance')
      for (const performance of scoped.performances)
        put(into, row, filledFor(row, row.from(performance, scoped), performance, scoped, findings), performance.id);
    else if (row.each === 'level' && scoped.levels.length === 0) findings.push(...missing(row, rules, scoped));
    else for (const [id, value] of itemValues(row, scoped)) put(into, row, value, id);
  }
  findings.push(...categoryFindings(rules, scoped));
  findings.push(
    ...linkFindings(rules, scoped),
    ...leftOut(rules, scoped),
    ...secretsShown(rules, shown, facts.secrets),
  );
  return { shown, findings: unique(findings), beneath };
}

/** A proof in the making. */
interface Making {
  rules: ChannelRules;
  scoped: Facts;
  shown: Shown;
  findings: Finding[];
}

/** Puts one value into a proof, as far as the channel's row takes it. */
function put({ rules, scoped, shown, findings }: Making, row: FieldRow, value: ShownValue | null, item?: string): void {
  const drawn =
    row.field === listedField && scoped.keptDraft && !isOff(value ?? undefined)
      ? draft
      : value?.kind === 'rich'
        ? richValue(rules, row, value, scoped, findings)
        : value;
  const fitted = drawn === null ? null : fitValue(row, drawn, scoped, findings);
  if (fitted === null) findings.push(...missing(row, rules, scoped));
  else shown[shownKey(row.field, item)] = fitted;
}

/**
 * A rich text as the channel takes it: its soft breaks made into what they become there, pictures named by their files,
 * or left out.
 */
function richValue(
  { softBreak }: ChannelRules,
  { field, figures }: FieldRow,
  value: Extract<ShownValue, { kind: 'rich' }>,
  { pictures }: Facts,
  findings: Finding[],
): ShownValue {
  let { html } = value;
  if (softBreak !== 'kept' && html.includes('<br')) html = writeHtml(softBreaks(readMarkup(html), softBreak));
  if (!mayHoldFigures(html)) return html === value.html ? value : { kind: 'rich', html };
  if (figures !== true) return { kind: 'rich', html: writeHtml(withoutFigures(readMarkup(html))) };
  const { html: drawn, files, used, gone } = shownFigures(html, pictures);
  if (gone > 0) findings.push(finding([field], 'warns', { code: 'figure-gone' }));
  if (used.some((picture) => picture.alt.trim() === ''))
    findings.push(finding([field], 'stops', { code: 'alt-empty' }));
  return { kind: 'rich', html: drawn, figures: files };
}

const draft: ShownValue = { kind: 'state', is: 'draft' };

/** The link leads elsewhere than a person chose, or could never be had. */
function linkFindings({ rows, notice }: ChannelRules, facts: Facts): Finding[] {
  const { linkUnmet, linkCircle, link, giverDraft, keptDraft } = facts;
  const found: Finding[] = [];
  if (keptDraft) found.push(finding([listedField], 'notes', { code: 'kept-draft' }));
  const links = rows.some((row) => row.field === 'link');
  if ((links || notice !== null) && giverDraft !== null && link.kind === 'none')
    found.push(
      finding(['link'], keptDraft ? 'notes' : 'warns', { code: 'giver-draft', name: giverDraft, asks: !keptDraft }),
    );
  if (!links) return found;
  if (linkUnmet !== null)
    found.push(
      finding(['link'], 'warns', {
        code: 'link-unmet',
        wanted: linkUnmet,
        instead: link.kind === 'none' ? 'nothing' : 'where tickets are',
      }),
    );
  if (linkCircle.length > 0) found.push(finding(['link'], 'stops', { code: 'link-circle', names: [...linkCircle] }));
  return found;
}

/** What a row says of each item of its group. */
function itemValues(row: Exclude<FieldRow, { each: 'event' }>, facts: Facts): [id: string, value: ShownValue | null][] {
  // A row's `from` takes the items of the row's own group; TypeScript cannot follow the pairing through an index.
  const items: readonly GroupItems[Group][] = groupItems[row.each](facts);
  const from = row.from as (item: GroupItems[Group], facts: Facts) => ShownValue | null;
  return items.map((item) => [item.id, from(item, facts)]);
}

/** The text of a shown value in which something may stand that is for some alone. */
function textOf(value: ShownValue): string {
  switch (value.kind) {
    case 'text':
      return value.text;
    case 'rich':
      return value.html;
    case 'url':
      return value.href;
    case 'picture':
      return value.alt;
    case 'price':
      return value.name;
    default:
      return '';
  }
}

/** What is for some alone: nothing that a channel shows may hold it. */
function secretsShown({ rows }: ChannelRules, shown: Shown, secrets: Facts['secrets']): Finding[] {
  if (secrets.length === 0) return [];
  return Object.entries(shown).flatMap(([key, value]) => {
    const text = textOf(value);
    const { field } = splitKey(key);
    const row = rows.find((row) => row.field === field);
    if (row?.seenBy === 'holders') return [];
    const label = row?.label ?? field;
    return secrets
      .filter((secret) => holdsSecret(text, secret))
      .map(({ what }) =>
        finding([field], 'stops', { code: what === 'recording' ? 'recording-public' : 'join-public', field: label }),
      );
  });
}

/** The facts as one listing tells them: its performances, its link, its words filled from its next performance. */
function scopedTo(
  rules: ChannelRules,
  facts: Facts,
  part: readonly string[],
  now: Instant,
  findings: Finding[],
): Facts {
  const performances = inOrder(facts.performances, part);
  const own = performances[0]?.ownLink ?? null;
  const link =
    own !== null && performances.every((performance) => performance.ownLink === own)
      ? { kind: 'known' as const, href: tracked(own, facts.outlets[0]?.trackAs ?? 'via', rules.id) }
      : facts.link;
  const scoped: Facts = { ...facts, performances, link, here: rules.id };
  const fill = filler(scoped, now, findings);
  const filled: Facts = !hasTokens(facts)
    ? scoped
    : {
        ...scoped,
        title: fill('title', facts.title, 'plain'),
        subtitle: fill('subtitle', facts.subtitle, 'plain'),
        line: fill('teaser', facts.line, 'plain'),
        access: fill('good-to-know', facts.access, 'plain'),
        age: fill('good-to-know', facts.age, 'plain'),
        teaser: fill('teaser', facts.teaser, 'plain'),
        short: fill('body', facts.short, 'plain'),
        full: fill('body', facts.full, 'rich'),
        refunds: fill('refunds', facts.refunds, 'plain'),
        letter: {
          words: fill('letter', facts.letter.words, 'plain'),
          several: fill('letter-several', facts.letter.several, 'plain'),
        },
      };
  if (facts.notice === null || rules.notice === null) return filled;
  const words =
    facts.notice.words.trim() === ''
      ? writtenNotice(rules, rules.notice, filled, findings)
      : tagged(fill('body', facts.notice.words, 'plain'), filled, rules, findings);
  return { ...filled, notice: { ...facts.notice, words } };
}

/** Words of a notice by hand, with the hashtags behind them that are wanted there, do not stand there yet and fit. */
function tagged(
  words: string,
  { notice, hashtags }: Facts,
  { rows, notice: place }: ChannelRules,
  findings: Finding[],
): string {
  if (place === null || notice?.hashtags !== true || words.trim() === '') return words;
  const { limit, linkLength } = place;
  const unit = unitOf(rows.find((row) => row.field === 'body'));
  const there = new Set(words.toLowerCase().match(/#[\p{L}\p{N}_]+/gu));
  const out: string[] = [];
  let text = words.trimEnd();
  for (const tag of hashtags.map((hashtag) => `#${hashtag}`)) {
    if (there.has(tag.toLowerCase())) continue;
    const longer = `${text} ${tag}`;
    if (countAs(longer, linkLength, unit) <= limit) text = longer;
    else out.push(tag);
  }
  if (out.length > 0) findings.push(finding(['body'], 'notes', { code: 'hashtags-out', out: out.join(' '), limit }));
  return text;
}

/** Whether anything in the words is to be filled in. */
function hasTokens({ title, subtitle, line, access, age, teaser, short, full, refunds, letter }: Facts): boolean {
  return [title, subtitle, line, access, age, teaser, short, full, refunds, letter.words, letter.several].some((text) =>
    text.includes('{{'),
  );
}

/** Fills words from the next performance of `facts`; what cannot be filled is a finding at the field. */
function filler(
  facts: Facts,
  now: Instant,
  findings: Finding[],
): (field: string, text: string, kind: 'plain' | 'rich') => string {
  const next = nextOf(facts.performances, now);
  return (field, text, kind) => {
    const { text: filled, unknown, empty, broken } = fillTokens(text, facts, next, kind);
    if (broken !== null) findings.push(finding([field], 'stops', { code: 'token-broken', detail: broken }));
    for (const token of unknown) findings.push(finding([field], 'stops', { code: 'token-unknown', token }));
    for (const token of empty) findings.push(finding([field], 'warns', { code: 'token-empty', token }));
    return filled;
  };
}

/** A line of one performance, its tokens filled from that performance. */
function filledFor(
  { field }: FieldRow,
  value: ShownValue | null,
  performance: PerformanceFacts,
  facts: Facts,
  findings: Finding[],
): ShownValue | null {
  if (value?.kind !== 'text' || !value.text.includes('{{')) return value;
  const text = filler({ ...facts, performances: [performance] }, performance.at, findings)(field, value.text, 'plain');
  return text.trim() === '' ? null : { kind: 'text', text };
}

/** Words of a notice that hold the link wait for it: without it they would go out as something else than was meant. */
function awaitsLink(
  { rows, notice }: ChannelRules,
  { field }: FieldRow,
  { link }: Facts,
  said: Facts,
): ShownValue | null {
  if (notice === null || field !== 'body' || link.kind !== 'awaited' || rows.some((row) => row.field === 'link'))
    return null;
  const words = said.notice?.words ?? '';
  if (words.trim() !== '' && !/\{\{\s{0,20}link\s{0,20}\}\}/.test(words)) return null;
  const { from, name, gift = 'ticket link', track } = link;
  return { kind: 'awaited', from, name, gift, track };
}

/**
 * A notice as the facts give it: the worthiest parts that fit. A link has a place of its own where the channel has one.
 */
function writtenNotice(
  { rows }: ChannelRules,
  { limit, linkLength }: NonNullable<ChannelRules['notice']>,
  facts: Facts,
  findings: Finding[],
): string {
  const withLink = !rows.some((row) => row.field === 'link');
  const unit = unitOf(rows.find((row) => row.field === 'body'));
  const fitted = writeNotice(facts, { limit, linkLength, unit, withLink });
  if (!fitted.ok) findings.push(finding(['body'], 'stops', { code: 'notice-unfit', needs: fitted.needs, limit }));
  else if (fitted.dropped.length > 0)
    findings.push(
      finding(['body'], 'notes', {
        code: 'shown-fitted',
        length: noticeLength(facts, withLink, unit),
        limit,
        how: fitWords(fitted),
      }),
    );
  return fitted.ok ? fitted.text : '';
}

const places = new WeakMap<readonly PerformanceFacts[], ReadonlyMap<string, number>>();

/** The performances named in `part`, in order of time. Places are looked up once for all the listings of a long run. */
function inOrder(performances: PerformanceFacts[], part: readonly string[]): PerformanceFacts[] {
  if (part.length === performances.length) return performances;
  let known = places.get(performances);
  if (!known) places.set(performances, (known = new Map(performances.map((performance, i) => [performance.id, i]))));
  const at = part
    .map((id) => known.get(id))
    .filter((candidate) => candidate !== undefined)
    .sort((a, b) => a - b);
  return at.flatMap((i) => performances[i] ?? []);
}

/** A field worded by hand, where there is such an override; it is filled like other words. */
function byHand(
  rules: ChannelRules,
  row: FieldRow,
  value: ShownValue | null,
  { facts, now }: { facts: Facts; now: Instant },
  findings: Finding[],
  beneath: Record<string, string>,
): ShownValue | null {
  const override = facts.overrides.find((override) => override.channel === rules.id && override.field === row.field);
  if (!override || (row.kind !== 'text' && row.kind !== 'rich')) return value;
  const record = overridable(value);
  beneath[row.field] = record;
  if (moved(override, record, row.kind))
    findings.push(finding([row.field], 'warns', { code: 'override-behind', from: override.from, now: record }));
  else findings.push(finding([row.field], 'notes', { code: 'override' }));
  const text = filler(facts, now, findings)(row.field, override.value, row.kind === 'rich' ? 'rich' : 'plain');
  if (row.among && !onList(text, row.among)) {
    findings.push(
      finding([row.field], 'stops', {
        code: 'not-on-list',
        text: text.slice(0, 80),
        words: row.among.words.join(', '),
      }),
    );
    return value;
  }
  return row.kind === 'rich' ? { kind: 'rich', html: cleanHtml(text) } : { kind: 'text', text };
}

/** Whether a text is made of words of a closed list, each once and not too many. */
function onList(text: string, { words, most }: NonNullable<FieldRow['among']>): boolean {
  const said = text.trim() === '' ? [] : text.split(', ');
  return said.length <= most && new Set(said).size === said.length && said.every((word) => words.includes(word));
}

/** What an override remembers of the record's value. */
export function overridable(value: ShownValue | null | undefined): string {
  return value?.kind === 'text' ? value.text : value?.kind === 'rich' ? value.html : '';
}

function moved({ from }: Override, record: string, kind: 'text' | 'rich'): boolean {
  const folded = (text: string) => (kind === 'rich' ? cleanHtml(text) : text.replace(/\s+/g, ' ').trim());
  return folded(from) !== folded(record);
}

function fitValue(row: FieldRow, value: ShownValue, facts: Facts, findings: Finding[]): ShownValue | null {
  if (value.kind === 'awaited')
    findings.push(finding([row.field], 'notes', { code: 'link-awaited', from: value.name }));
  if (value.kind !== 'text') return value;
  if (value.text.trim() === '') return null;
  // A grapheme is one unit at least: what has no more units than fit need not be counted, but where links count as
  // longer than they are.
  if (row.limit === undefined) return value;
  if (value.text.length <= row.limit && (row.linkLength === undefined || !value.text.includes('://'))) return value;
  const unit = unitOf(row);
  const length = countAs(value.text, row.linkLength ?? null, unit);
  if (length <= row.limit) return value;
  const parts = row.parts?.(facts) ?? null;
  const fitted = parts && fit(parts.parts, { limit: row.limit, linkLength: null, unit, joint: parts.joint });
  if (fitted?.ok && fitted.text !== '') {
    findings.push(
      finding([row.field], 'notes', { code: 'shown-fitted', length, limit: row.limit, how: fitWords(fitted) }),
    );
    return { kind: 'text', text: fitted.text };
  }
  findings.push(finding([row.field], 'warns', { code: 'shown-shorter', length, limit: row.limit }));
  return { kind: 'text', text: cutAs(value.text, row.limit, row.linkLength ?? null, unit) };
}

function missing(row: FieldRow, rules: ChannelRules, facts: Facts): Finding[] {
  if (row.need === undefined) return [];
  return [finding([row.field], row.need === 'must' ? 'stops' : 'warns', missingFact(row, rules, facts))];
}

/** Categories that an event stands in by its kinds, and that the channel does not take beside the first ones. */
function categoryFindings(rules: ChannelRules, facts: Facts): Finding[] {
  if (!rules.categories) return [];
  const { out } = categoriesThere(facts, rules.categories);
  return out.length === 0
    ? []
    : [finding(['category'], 'notes', { code: 'categories-cut', most: rules.categories.most, out: out.join(', ') })];
}

function missingFact(row: FieldRow, rules: ChannelRules, facts: Facts): FindingFact {
  switch (row.field) {
    case 'picture':
      return { code: 'picture-none', ratio: rules.picture?.ratio.join(':') ?? '' };
    case 'price':
      return { code: 'price-none' };
    case 'place':
      return { code: 'venue-none' };
    case 'category':
      return { code: 'category-unmapped', eventType: facts.eventType };
    case 'start': {
      const open = facts.performances.find((performance) => performance.precision !== 'exact');
      return open ? { code: 'date-imprecise', known: open.dateNote } : { code: 'needed-empty', label: row.label };
    }
    default:
      return { code: 'needed-empty', label: row.label };
  }
}

function pictureValue(
  rules: ChannelRules,
  row: FieldRow,
  pictures: readonly PictureUse[],
  findings: Finding[],
): ShownValue | null {
  const shape = rules.picture;
  if (shape === null) return null;
  const choice = choosePicture(pictures, shape);
  if (choice === null) return null;
  const { picture, window, cuts, kept } = choice;
  const size = renditionSize(window, shape);
  const ratio = shape.ratio.join(':');
  if (choice.enlarged)
    findings.push(
      finding([row.field], row.need === 'must' ? 'stops' : 'warns', {
        code: 'picture-small',
        have: window.w,
        need: shape.minWidth,
      }),
    );
  if (cuts.w + cuts.h > 0)
    findings.push(finding([row.field], 'warns', { code: 'picture-cuts', px: Math.max(cuts.w, cuts.h), ratio }));
  else if (kept < 0.5)
    findings.push(
      finding([row.field], 'warns', {
        code: pictures.every((picture) => picture.height > picture.width) ? 'picture-portrait' : 'picture-shape',
        kept: Math.round(kept * 100),
        ratio,
      }),
    );
  if (picture.alt.trim() === '') findings.push(finding([row.field], 'stops', { code: 'alt-empty' }));
  if (picture.credit.trim() === '') findings.push(finding([row.field], 'stops', { code: 'credit-empty' }));
  const name = `${picture.pictureId.slice(0, 16)}-${window.x}.${window.y}.${window.w}x${window.h}-${size.width}.jpg`;
  return {
    kind: 'picture',
    name,
    alt: picture.alt.trim(),
    source: { pictureId: picture.pictureId, crop: window, ...size },
  };
}

/** Repeated groups give the same finding once for each item; one says it. */
function unique(findings: readonly Finding[]): Finding[] {
  const seen = new Set<string>();
  return findings.filter((finding) => {
    const key = `${fieldOf(finding)} ${finding.code} ${'token' in finding ? finding.token : 'level' in finding ? finding.level : ''}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
