import type { ChannelRules, FieldRow } from './channel-rules';
import { cropWindow, keptShare, renditionSize } from './crop';
import type { Facts } from './facts';
import { finding, type Finding, type FindingFact } from './finding';
import { countGraphemes, cutToFit } from './graphemes';
import type { PictureUse } from './record';
import { listedField, shownKey, type Shown, type ShownValue } from './shown';
import type { Instant } from './zones';

/** A listing as the channel will show it, with what was noticed about it. */
export interface Proof {
  shown: Shown;
  findings: Finding[];
}

/**
 * What `rules`' channel will show of an event: the performances named in `part`, every field fitted to the
 * channel. Pure and total: what is missing or does not fit is a finding.
 */
export function proof(rules: ChannelRules, facts: Facts, part: readonly string[]): Proof {
  const shown: Shown = {};
  const findings: Finding[] = [];
  const covered = facts.performances.filter((one) => part.includes(one.id));
  const scoped: Facts = { ...facts, performances: covered };
  const put = (row: FieldRow, value: ShownValue | null, item?: string) => {
    const fitted = value === null ? null : fitValue(row, value, findings);
    if (fitted === null) findings.push(...missing(row, rules, facts));
    else shown[shownKey(row.field, item)] = fitted;
  };
  for (const row of rules.rows) {
    if (row.kind === 'picture') put(row, pictureValue(rules, row, facts.picture, findings));
    else if (row.each === 'event') put(row, row.from(scoped));
    else if (row.each === 'performance') for (const one of covered) put(row, row.from(one, scoped), one.id);
    else if (facts.levels.length === 0) findings.push(...missing(row, rules, facts));
    else for (const one of facts.levels) put(row, row.from(one, scoped), one.id);
  }
  return { shown, findings: unique(findings) };
}

/** The listing that is wanted where an event must not stand: nothing but "not listed". */
export const takenDown: Shown = { [listedField]: { kind: 'flag', on: false } };

/** Findings that hold for every channel: what may not leave the house, or not yet. */
export function gate(facts: Facts, now: Instant): Finding[] {
  const found: Finding[] = [];
  if (facts.visibility === 'private') found.push(finding('publicity.visibility', 'stops', { code: 'not-public' }));
  else if (facts.pencilled) found.push(finding('stage', 'stops', { code: 'pencilled' }));
  if (facts.announceAt !== null && facts.announceAt > now) {
    found.push(finding('publicity.announce', 'notes', { code: 'embargoed', until: facts.announceAt, zone: facts.announceZone }));
  }
  const last = facts.performances[facts.performances.length - 1];
  if (last && (last.end ?? last.start) < now) found.push(finding('performances', 'warns', { code: 'all-past' }));
  return found;
}

function fitValue(row: FieldRow, value: ShownValue, findings: Finding[]): ShownValue | null {
  if (value.kind === 'awaited') findings.push(finding(row.field, 'notes', { code: 'link-awaited', from: value.from }));
  if (value.kind !== 'text') return value;
  if (value.text.trim() === '') return null;
  if (row.limit === undefined) return value;
  const length = countGraphemes(value.text);
  if (length <= row.limit) return value;
  findings.push(finding(row.field, 'warns', { code: 'shown-shorter', length, limit: row.limit }));
  return { kind: 'text', text: cutToFit(value.text, row.limit) };
}

function missing(row: FieldRow, rules: ChannelRules, facts: Facts): Finding[] {
  if (row.need === undefined) return [];
  return [finding(row.field, row.need === 'must' ? 'stops' : 'warns', missingFact(row, rules, facts))];
}

function missingFact(row: FieldRow, rules: ChannelRules, facts: Facts): FindingFact {
  switch (row.field) {
    case 'picture':
      return { code: 'picture-none', ratio: rules.picture.ratio.join(':') };
    case 'price':
      return { code: 'price-none' };
    case 'place':
      return { code: 'venue-none' };
    case 'category':
      return { code: 'category-unmapped', kind: facts.kind };
    default:
      return { code: 'needed-empty', label: row.label };
  }
}

function pictureValue(rules: ChannelRules, row: FieldRow, picture: PictureUse | null, findings: Finding[]): ShownValue | null {
  if (picture === null) return null;
  const shape = rules.picture;
  const window = cropWindow(picture, picture.focal, shape.ratio);
  const size = renditionSize(window, shape);
  const ratio = shape.ratio.join(':');
  if (window.w < shape.minWidth) {
    findings.push(finding(row.field, row.need === 'must' ? 'stops' : 'warns', { code: 'picture-small', have: window.w, need: shape.minWidth }));
  }
  const kept = keptShare(picture, window);
  if (kept < 0.5) findings.push(finding(row.field, 'warns', { code: 'picture-shape', kept: Math.round(kept * 100), ratio }));
  if (picture.alt.trim() === '') findings.push(finding(row.field, 'warns', { code: 'alt-empty' }));
  const name = `${picture.pictureId.slice(0, 16)}-${window.x}.${window.y}.${window.w}x${window.h}-${size.width}.jpg`;
  return { kind: 'picture', name, alt: picture.alt.trim(), source: { pictureId: picture.pictureId, crop: window, ...size } };
}

/** Repeated groups give the same finding once for each item; one says it. */
function unique(findings: readonly Finding[]): Finding[] {
  const seen = new Set<string>();
  return findings.filter((one) => {
    const key = `${one.field} ${one.code}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
