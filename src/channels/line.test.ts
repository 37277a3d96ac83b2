import fc from 'fast-check';
import { readListing, writeListing } from '@/core/listing/listing-codec';
import { newNotice } from '@/core/record/new-record';
import type { PlannedErrand } from '@/core/errands/plan';
import type { Change } from '@/core/errands/steps';
import { sells } from '@/core/listing/channel-rules';
import type { RecordContent } from '@/core/record/record';
import { stops } from '@/core/findings/finding';
import { record, several, words } from '@/core/testing/any-record';
import { isOff, listedField, splitKey, takenDown, type Shown } from '@/core/listing/shown';
import { tracked } from '@/core/listing/ticket-link';
import { bareListing, channelById, planOf, surveyOf } from './testing/fixture';
import type { Survey } from './survey';
import type { KnownListing } from './survey-shapes';

/*
 * The whole line, with channels that do just what they are told: what is wanted is planned, the plan is carried out
 * through each channel's own wire format and read back, and then the channels show what is wanted and nothing is to
 * send.
 */

/** Before every performance of these records, so that no lock of the last hours is closed. */
const start = Date.parse('2026-12-20T10:20Z');
const hourMs = 3_600_000;

/** Everything outside, as the house knows it. */
class Outside {
  known = new Map<string, KnownListing>();
  now = start;

  survey(content: RecordContent): Survey {
    const listings = [...this.known.values()].sort((a, b) => a.part - b.part);
    return surveyOf({ content, listings, now: this.now });
  }

  planned(survey: Survey) {
    return planOf(survey);
  }

  /** Carries out an errand on a channel that takes it as it is, and reads the listing back. */
  carryOut(errand: PlannedErrand, survey: Survey): void {
    const listing = survey.listings.find((listing) => listing.id === errand.listing);
    if (!listing) throw new Error(`no listing ${errand.listing}`);
    const { rules } = channelById(errand.channel);
    const before = this.known.get(errand.listing);
    // How a run was shared out is kept, for the parts that do not go yet too.
    for (const { id, channel, part, performanceIds } of survey.listings)
      if (channel === errand.channel && !this.known.has(id))
        this.known.set(id, bareListing(channel, part, { performanceIds }));
    const changes = errand.changes.map((change) => this.filled(change));
    const sent = laidOver(before?.sent ?? {}, changes);
    const standing = errand.op === 'place' ? {} : writeListing(rules, before?.observed ?? {});
    const wire = {
      ...standing,
      ...writeListing(
        rules,
        laidOver(before?.observed ?? {}, changes),
        changes.map((change) => change.key),
      ),
    };
    for (const key of Object.keys(wire)) if (wire[key] === null) delete wire[key];
    this.now += 1000;
    const link = sells(rules) ? 'https://tickets.example/e/77' : null;
    const items = [...Object.keys(sent), ...Object.keys(before?.sent ?? {})].map((key) => splitKey(key).item ?? '');
    const ours = new Set([...listing.performanceIds, ...survey.facts.levels.map((level) => level.id), ...items]);
    this.known.set(
      errand.listing,
      bareListing(errand.channel, listing.part, {
        performanceIds: listing.performanceIds,
        link,
        publicUrl: `https://${errand.channel}.example/${listing.part}`,
        sent,
        previous: sent,
        observed: errand.op === 'unpublish' ? takenDown : readListing(rules, wire, ours),
        sentAt: this.now,
        observedAt: this.now + 1,
      }),
    );
  }

  filled(change: Change): Change {
    if (change.after?.kind !== 'awaited') return change;
    const { from, gift } = change.after;
    const giver = [...this.known.values()].find((listing) => listing.channel === from);
    const link = gift === 'ticket link' ? giver?.link : giver?.publicUrl;
    if (!link) throw new Error('a link is awaited that nobody gave');
    const { track } = change.after;
    return { ...change, after: { kind: 'url', href: track === null ? link : tracked(link, track.name, track.value) } };
  }

  /** Sends all that can go, in order; gives the number of errands. */
  send(content: RecordContent): number {
    const survey = this.survey(content);
    const { errands } = this.planned(survey);
    for (const errand of errands) this.carryOut(errand, survey);
    return errands.length;
  }
}

function laidOver(shown: Shown, changes: readonly Change[]): Shown {
  const out: Shown = { ...shown };
  for (const { key, after } of changes) {
    if (after === null) delete out[key];
    else out[key] = after;
  }
  return out;
}

/** Nothing that could go is left, and every listing that stands shows what is wanted. */
function settled(outside: Outside, content: RecordContent): void {
  const survey = outside.survey(content);
  const { errands, held } = outside.planned(survey);
  const waits = new Set(held.map((listing) => listing.listing));
  expect(
    errands.map((errand) => [
      errand.channel,
      errand.op,
      errand.changes.slice(0, 3).map((change) => [change.key, change.before, change.after]),
    ]),
  ).toEqual([]);
  for (const listing of survey.listings) {
    if (listing.state.sent === null || stops(listing.findings) || waits.has(listing.id)) continue;
    expect([
      listing.channel,
      listing.comparison.filter(
        (field) => field.outcome !== 'same' && !listing.steps.locked.some((locked) => locked.key === field.key),
      ),
    ]).toEqual([listing.channel, []]);
    if (listing.steps.locked.length === 0) expect(['instep', 'withdrawn']).toContain(listing.standing);
  }
}

const notices = several(
  (n) =>
    fc
      .record({ words: fc.oneof(fc.constant(''), words, fc.constant('{{ title }} on {{ date }}')), pin: fc.boolean() })
      .map((part) => newNotice(`n${n}`, 'hearthside-posts', part)),
  2,
);
/** A record that may go out, as far as its facts allow. */
const open = fc.tuple(record, notices).map(([content, posts]): RecordContent => ({
  ...content,
  notices: posts,
  stage: 'confirmed',
  publicity: { visibility: 'public', announce: null },
  pictures: content.pictures.map((picture) => ({ ...picture, alt: 'Alt', credit: 'Us' })),
  performances: content.performances.map((performance) => ({
    ...performance,
    precision: 'exact' as const,
    turn: 'none' as const,
  })),
}));

test('a plan carried out gives what is wanted, and leaves nothing to send: from nothing, after every change, and when it is taken down', () => {
  let errands = 0;
  fc.assert(
    fc.property(fc.array(open, { minLength: 1, maxLength: 3 }), (versions) => {
      const outside = new Outside();
      for (const content of versions) {
        errands += outside.send(content);
        settled(outside, content);
        expect(outside.send(content)).toBe(0);
      }
      const last = versions[versions.length - 1];
      if (!last) return;
      const gone: RecordContent = { ...last, publicity: { visibility: 'private', announce: null } };
      outside.send(gone);
      settled(outside, gone);
      // What was a draft there already needs no taking down.
      for (const listing of outside.known.values())
        if (listing.sent) expect(isOff(listing.observed?.[listedField])).toBe(true);
      outside.send(last);
      settled(outside, last);
    }),
    { numRuns: 120 },
  );
  expect(errands).toBeGreaterThan(200);
});

test('a run longer than a listing holds: what stands where is kept, whatever is dropped or added', () => {
  fc.assert(
    fc.property(
      open,
      fc.uniqueArray(fc.integer({ min: 1, max: 28 }), { minLength: 5, maxLength: 14 }),
      fc.uniqueArray(fc.integer({ min: 1, max: 28 }), { minLength: 1, maxLength: 14 }),
      (base, before, after) => {
        const [pattern] = base.performances;
        if (!pattern) return;
        const run = (days: number[]): RecordContent => ({
          ...base,
          oneLineOn: [],
          performances: days.map((day) => ({
            ...pattern,
            id: `d${day}`,
            date: `2027-05-${String(day).padStart(2, '0')}`,
          })),
        });
        const outside = new Outside();
        outside.send(run(before));
        const where = (id: string) =>
          [...outside.known.values()].find(
            (listing) => listing.channel === 'hearthside' && listing.performanceIds.includes(id),
          )?.part;
        const stood = new Map(before.map((day) => [`d${day}`, where(`d${day}`)]));
        outside.send(run(after));
        settled(outside, run(after));
        if (
          stops(outside.survey(run(after)).listings.find((listing) => listing.channel === 'hearthside')?.findings ?? [])
        )
          return;
        for (const day of after)
          if (stood.get(`d${day}`) !== undefined) expect(where(`d${day}`)).toBe(stood.get(`d${day}`));
      },
    ),
    { numRuns: 60 },
  );
});

test('edited there by hand: it is never sent over unasked, and other fields still go', () => {
  fc.assert(
    fc.property(open, words, (content, theirs) => {
      const outside = new Outside();
      outside.send(content);
      const edited = [...outside.known.values()].filter((listing) => listing.observed?.title !== undefined);
      for (const listing of edited)
        outside.known.set(listing.id, {
          ...listing,
          observed: { ...listing.observed, title: { kind: 'text', text: `${theirs} by hand` } },
          observedAt: outside.now + hourMs,
        });
      outside.now += 2 * hourMs;
      expect(outside.send(content)).toBe(0);
      outside.send({ ...content, words: { ...content.words, full: '<p>Another text.</p>' } });
      for (const listing of edited)
        expect([
          outside.known.get(listing.id)?.observed?.title,
          outside.survey(content).listings.find((l) => l.id === listing.id)?.standing,
        ]).toEqual([{ kind: 'text', text: `${theirs} by hand` }, expect.stringMatching(/drifted|atodds/)]);
    }),
    { numRuns: 60 },
  );
});
