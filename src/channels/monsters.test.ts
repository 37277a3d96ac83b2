import fc from 'fast-check';
import { lenientContent, readDraft, toDraft, type RecordDraft } from '@/core/record/draft';
import { checkRecord } from '@/core/record/check-record';
import { newEntry, newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { record } from '@/core/testing/any-record';
import { performance, sample, venues } from '@/core/testing/samples';
import { surveyOf } from './testing/fixture';

const moment = { date: '2027-02-03', time: '10:00', zone: 'Europe/Dublin' };
const rich = sample({
  performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15', { link: 'https://x.example/' })],
  online: { keep: 'https://a.example/k', join: 'https://a.example/j' },
  lineUp: [newEntry('e', 'X', 'headliner', { setTime: '20:00' })],
  radius: { km: 50, days: 30 },
  video: 'https://v.example/',
  tickets: newTickets({
    levels: [newLevel('a', 'A', 100, { opens: { kind: 'at', ...moment }, words: 'x', covers: { kind: 'any', n: 2 } })],
    total: 100,
    mostPerOrder: 5,
    showLeft: 10,
    closes: { kind: 'at', ...moment },
    closesWhy: 'so',
    membersProof: 'by card',
    extras: [{ id: 'x', name: 'Supper', price: 100, quantity: 4, words: 'y' }],
    coupons: [
      {
        id: 'c',
        code: 'C',
        off: { kind: 'percent', percent: 5 },
        uses: 3,
        from: '2027-02-03',
        until: '2027-02-04',
        levels: [],
      },
    ],
    questions: [{ id: 'f', ask: 'Q', answer: 'one of', choices: ['a'], needed: true, of: 'both', consent: 'z' }],
    outlets: [newOutlet('o', 'Box', { fee: { mode: 'added', basisPoints: 450, fixed: 60, cap: 900 } })],
    pools: [{ id: 'q', name: 'Box', seats: 12 }],
    holds: [{ id: 'h', name: 'house', seats: 6 }],
  }),
  notices: [newNotice('n', 'hearthside-posts', { notBefore: moment })],
  publicity: { visibility: 'public', announce: moment },
  audience: { who: 'group', name: 'Friends' },
  hashtags: ['Harp'],
  links: [
    { id: 'k', use: 'more', label: 'More', to: { kind: 'address', href: 'https://m.example/' }, newWindow: false },
  ],
  linkChoices: [
    { id: 'w', channel: 'lectern', noticeId: null, to: { kind: 'address', href: 'https://m.example/' }, reason: 'so' },
  ],
  documents: [
    {
      id: 'd',
      fileId: 'ab'.repeat(32),
      name: 'a.pdf',
      type: 'application/pdf',
      bytes: 1,
      title: 'A',
      who: 'anyone',
      from: moment,
    },
  ],
  programme: [
    {
      id: 'g',
      start: '20:00',
      end: '21:00',
      title: 'Talk',
      names: 'W',
      role: 'speaker',
      room: 'foyer',
      performanceId: null,
    },
  ],
  after: {
    recording: { href: 'https://w.example/', shown: true },
    pictures: { ids: [], shown: false },
    setList: { text: 'a', shown: true },
  },
  toFollow: { date: 'soon', place: 'somewhere' },
});

/** What a person types: never the ids, the choices and the marks that the screen itself sets. */
const typed =
  /(?:^|\.)(?:title|shortTitle|subtitle|hashtags|tags|start|end|doors|date|lastDate|note|link|lineUpExtra|name|price|quantity|least|most|admits|code|allocation|trackAs|basisPoints|fixed|cap|seats|refunds|setTime|keep|join|video|km|days|line|teaser|short|full|access|age|time|alt|credit|words|limit|contact|total|mostPerOrder|showLeft|closesWhy|membersProof|uses|from|until|ask|choices|consent|label|href|reason|title|names|role|room|text|place)(?:\.\d+)?$/;

function pathsOf(value: unknown, path: string[] = []): string[][] {
  if (typeof value === 'string') return typed.test(path.join('.')) ? [path] : [];
  return value !== null && typeof value === 'object'
    ? Object.entries(value).flatMap(([key, item]) => pathsOf(item, [...path, key]))
    : [];
}

function withText(draft: RecordDraft, path: readonly string[], text: string): RecordDraft {
  const next = structuredClone(draft) as unknown as Record<string, unknown>;
  const at = path
    .slice(0, -1)
    .reduce<Record<string, unknown>>((item, key) => item[key] as Record<string, unknown>, next);
  at[path[path.length - 1] ?? ''] = text;
  return next as unknown as RecordDraft;
}

const monster = fc.oneof(
  fc.constantFrom(
    '25:00',
    '19:99',
    '24:00',
    '99:99',
    '-1',
    '1e999',
    'NaN',
    '{{',
    '{{ title }}'.repeat(40),
    '\u0000\u0007',
    '👩‍👩‍👧‍👦'.repeat(200),
    '\ud800',
    '<script>',
    '9'.repeat(400),
    ' ',
    '0000-00-00',
    '2027-13-45',
    '{{ (1..500000) | find: "x" }}',
    '__proto__',
    'constructor',
    '€5,5,5',
    '\u202e',
    'Ω'.repeat(3_000),
  ),
  fc.string({ unit: 'binary', maxLength: 40 }),
);
const survey = (content: typeof rich) => surveyOf({ content });

test('whatever is typed into any fields of a record, it is told or taken, and the proof shows what held last', () => {
  fc.assert(
    fc.property(
      fc.oneof(fc.constant(rich), record),
      fc.array(fc.tuple(fc.nat(), monster), { minLength: 1, maxLength: 4 }),
      (content, edits) => {
        const draft = toDraft(content);
        const paths = pathsOf(draft);
        const next = edits.reduce((at, [pick, text]) => withText(at, paths[pick % paths.length] ?? [], text), draft);
        const read = readDraft(next, venues);
        const shown = read.ok ? read.value : lenientContent(next, content, venues);
        expect(checkRecord(shown, venues).ok).toBe(true);
        survey(shown);
        if (read.ok) return;
        // Each complaint names a field that is there.
        for (const finding of read.error)
          expect([
            finding.path,
            finding.path.reduce<unknown>(
              (at, key) =>
                at !== null && typeof at === 'object' ? ((at as Record<string, unknown>)[key] ?? null) : null,
              next,
            ) !== undefined,
          ]).toEqual([finding.path, true]);
      },
    ),
    { numRuns: 400 },
  );
});
