import type { Doer } from '@/core/people/doer';
import { listingIdSchema } from '@/core/base/ids';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { fieldOf } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import { fail, ok, type Result } from '@/core/base/result';
import { importEvents } from '../files/import-events';
import { decideErrand } from '../dispatch/decide-errand';
import { makeDispatch } from '../dispatch/make-dispatch';
import { sendOursAgain, takeIntoRecord } from '../drift/decide-drift';
import { saveRecord } from '../records/save-record';
import { letInAnew } from '../people/invitations';
import { channelsOf, type House } from '@/house/house';
import { surveyAll, type SurveyedRecord } from '@/house/survey';
import { plan } from '@/core/errands/plan';
import { accountOf, connectionOf } from '@/store/channels';
import { errandsWhere } from '@/store/errands';
import { leaseNow } from '@/store/lease';
import { recordAt, recordOfCode, type RecordAt } from '@/store/records';

/** What a verb gives: lines of JSON, or a word on what is wrong. */
export type Lines = Result<object[], string>;

interface Verb {
  usage: string;
  /** Something may be to send afterwards. */
  sends?: boolean;
  run(house: House, args: readonly string[], doer: Doer): Lines;
}

const usage = (verb: string) => fail<string>(`Write: npm run house -- ${verbs[verb]?.usage ?? verb}`);

/** The record with this code. */
function coded(house: House, code: string | undefined): Result<RecordAt, string> {
  const known = code === undefined ? null : recordOfCode(house.db, code.toUpperCase());
  const record = known && recordAt(house.db, known.id);
  return record ? ok(record) : fail(`There is no record ${code ?? ''}.`);
}

/** A typed value, by what stands at its place now: numbers, yes and no, and JSON as such. */
function typed(text: string, now: unknown): unknown {
  if (text === 'null') return null;
  if (/^[[{"]/.test(text)) return JSON.parse(text) as unknown;
  if (typeof now === 'number' && /^-?\d+(\.\d+)?$/.test(text)) return Number(text);
  if (typeof now === 'boolean' && (text === 'true' || text === 'false')) return text === 'true';
  return text;
}

/** A content with a value put at a path: `performances.0.start`. The error says where the path ends. */
function withValue(content: unknown, steps: readonly string[], text: string, at = ''): Result<unknown, string> {
  const [step, ...rest] = steps;
  if (step === undefined) {
    try {
      return ok(typed(text, content));
    } catch {
      return fail(`${at}: “${text.slice(0, 60)}” is no JSON.`);
    }
  }
  if (content === null || typeof content !== 'object' || !Object.hasOwn(content, step))
    return fail(`${at === '' ? step : `${at}.${step}`}: the record has no such field.`);
  const inner = withValue((content as Record<string, unknown>)[step], rest, text, at === '' ? step : `${at}.${step}`);
  if (!inner.ok) return inner;
  return ok(
    Array.isArray(content)
      ? content.map((item: unknown, i) => (String(i) === step ? inner.value : item))
      : { ...content, [step]: inner.value },
  );
}

function save(house: House, record: RecordAt, content: unknown, doer: Doer, reason: string): Lines {
  const saved = saveRecord(house, doer, { id: record.id, base: record.revision, content, reason });
  if (saved.kind === 'stopped')
    return fail(saved.findings.map((finding) => `${fieldOf(finding)}: ${findingWords(finding)}`).join(' '));
  if (saved.kind === 'merge') return fail(`${saved.actor} saved it meanwhile. Look again.`);
  if (saved.kind === 'missing') return fail('The record is not there any more.');
  return ok([{ code: record.code, id: record.id, revision: saved.revision, saved: saved.kind === 'saved' }]);
}

function recordOfListing(house: House, listing: string): SurveyedRecord | undefined {
  return surveyAll(house).find(({ survey }) =>
    survey.listings.some((surveyedListing) => surveyedListing.id === listing),
  );
}

const verbs: Record<string, Verb> = {
  read: {
    usage: 'read FILE',
    run(house, [file], doer) {
      if (file === undefined) return usage('read');
      const report = importEvents(
        house,
        doer,
        path.basename(file),
        readFileSync(file, 'utf8'),
        process.env.NUNTIAX_ZONE ?? null,
      );
      if (!report.ok) return fail(report.error);
      const { made, broken, asked } = report.value;
      return ok([
        ...made.map((readRow) => ({ made: readRow })),
        ...broken.map((brokenRow) => ({ broken: brokenRow })),
        ...asked.map((askedRow) => ({ asked: askedRow })),
      ]);
    },
  },
  set: {
    usage: 'set CODE field=value …   (a field by its path: performances.0.start=20:30)',
    run(house, [code, ...pairs], doer) {
      const record = coded(house, code);
      if (!record.ok) return record;
      if (pairs.length === 0 || pairs.some((pair) => !pair.includes('='))) return usage('set');
      let content: unknown = record.value.content;
      for (const pair of pairs) {
        const at = pair.indexOf('=');
        const next = withValue(content, pair.slice(0, at).split('.'), pair.slice(at + 1));
        if (!next.ok) return next;
        content = next.value;
      }
      return save(
        house,
        record.value,
        content,
        doer,
        `set ${pairs.map((pair) => pair.slice(0, pair.indexOf('='))).join(', ')}`,
      );
    },
  },
  private: {
    usage: 'private CODE',
    sends: true,
    run(house, [code], doer) {
      const record = coded(house, code);
      if (!record.ok) return record;
      const { content } = record.value;
      return save(
        house,
        record.value,
        { ...content, publicity: { ...content.publicity, visibility: 'private' } },
        doer,
        'made private',
      );
    },
  },
  send: {
    usage: 'send [CODE …]',
    sends: true,
    run(house, codes, doer) {
      const ids = new Set<string>();
      for (const code of codes) {
        const record = coded(house, code);
        if (!record.ok) return record;
        ids.add(record.value.id);
      }
      // What is under embargo goes along where it is named; without names, what can go now goes.
      const only =
        codes.length === 0
          ? null
          : new Set(
              surveyAll(house)
                .filter((record) => ids.has(record.record.id))
                .flatMap((record) => plan(record.survey.listings).errands.map((errand) => errand.listing)),
            );
      const made = makeDispatch(house, doer, only, { seen: 'all', givers: 'along' });
      return made.ok ? ok([made.value]) : made;
    },
  },
  drop: { usage: 'drop ID', run: (house, [id], doer) => decide(house, doer, id, 'drop') },
  again: { usage: 'again ID', sends: true, run: (house, [id], doer) => decide(house, doer, id, 'again') },
  theirs: {
    usage: 'theirs LISTING KEY',
    run(house, [listing, key], doer) {
      if (listing === undefined || key === undefined) return usage('theirs');
      const record = recordOfListing(house, listing);
      const taken = record
        ? takeIntoRecord(house, doer, record.record.id, listingIdSchema.parse(listing), [{ key }])
        : fail(`There is no listing ${listing}.`);
      return taken.ok ? ok([{ listing, key, revision: taken.value }]) : taken;
    },
  },
  ours: {
    usage: 'ours LISTING KEY',
    sends: true,
    run(house, [listing, key], doer) {
      if (listing === undefined || key === undefined) return usage('ours');
      const record = recordOfListing(house, listing);
      const sent = record
        ? sendOursAgain(house, doer, record.record.id, listingIdSchema.parse(listing), [{ key }])
        : fail(`There is no listing ${listing}.`);
      return sent.ok ? ok([{ listing, key, dispatchId: sent.value }]) : sent;
    },
  },
  standings: {
    usage: 'standings [CODE]',
    run(house, [code]) {
      const record = code === undefined ? null : coded(house, code);
      if (record !== null && !record.ok) return record;
      const all = surveyAll(house).filter(
        (surveyedRecord) => record === null || surveyedRecord.record.id === record.value.id,
      );
      return ok(
        all.flatMap(({ record: { code: own, content }, survey }) =>
          survey.listings
            .filter((listing) => listing.standing !== null)
            .map((listing) => ({
              code: own,
              title: content.title,
              channel: listing.channel,
              listing: listing.id,
              standing: listing.standing,
              publicUrl: listing.publicUrl,
              fields: listing.comparison.map(({ key, wanted, sent, observed, outcome, late }) => ({
                key,
                wanted: wanted ?? null,
                sent: sent ?? null,
                observed: observed ?? null,
                outcome,
                late,
              })),
            })),
        ),
      );
    },
  },
  errands: {
    usage: 'errands',
    run: (house) =>
      ok(
        errandsWhere(house.db, {}).map(
          ({ id, dispatchId, listingId, channel, op, state, tries, awaits, notBefore, lastError }) => ({
            id,
            dispatch: dispatchId,
            listing: listingId,
            channel,
            op,
            state,
            tries,
            awaits,
            notBefore,
            error: lastError,
          }),
        ),
      ),
  },
  channels: {
    usage: 'channels',
    run: (house) =>
      ok(
        channelsOf(house, house.db).map(({ row, rules }) => ({
          ...row,
          trade: rules.trade,
          knownAs: connectionOf(house.db, row.id)?.knownAs ?? null,
          account: house.outside.state(accountOf(row)),
        })),
      ),
  },
  'let-in': {
    usage: 'let-in ADDRESS   (a way in anew, for who lost password or second factor)',
    run(house, [email], doer) {
      if (email === undefined) return usage('let-in');
      const out = letInAnew(house, doer, email);
      return out.ok ? ok([out.value]) : out;
    },
  },
  clock: {
    usage: 'clock',
    run: (house) =>
      ok([
        {
          now: new Date(house.clock.now()).toISOString(),
          monotonic: house.monotonic(),
          clock: house.clock.kind,
          lease: leaseNow(house.db),
        },
      ]),
  },
};

function decide(house: House, doer: Doer, id: string | undefined, verdict: 'again' | 'drop'): Lines {
  if (id === undefined || !/^\d+$/.test(id)) return fail(`Write: npm run house -- ${verdict} ID`);
  const changed = decideErrand(house, doer, Number(id), verdict);
  return changed === 0
    ? fail(`Errand ${id} is not there, or it is neither refused nor waiting.`)
    : ok([{ errand: Number(id), verdict }]);
}

/** Carries out one verb of a script; the error is a word for the person who runs it. */
export function doVerb(house: House, verb: string | undefined, args: readonly string[], doer: Doer): Lines {
  const known = verb === undefined || !Object.hasOwn(verbs, verb) ? undefined : verbs[verb];
  if (!known)
    return fail(
      `Write npm run house -- and one of: ${Object.values(verbs)
        .map((verb) => verb.usage)
        .join(' · ')}`,
    );
  return known.run(house, args, doer);
}

/** True for a verb after which something may be to send. */
export function verbSends(verb: string | undefined): boolean {
  return verb !== undefined && verbs[verb]?.sends === true;
}
