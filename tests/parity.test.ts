import sharp from 'sharp';
import { unitOf, type FieldRow } from '@/core/listing/channel-rules';
import { countIn } from '@/core/words/fit';
import { facts } from '@/core/facts/facts';
import { writeListing } from '@/core/listing/listing-codec';
import { proof } from '@/core/listing/proof';
import type { Shown, ShownValue } from '@/core/listing/shown';
import { codedVenues, sample, suited } from '@/core/testing/samples';
import { answered, asOf, channelById, channels, clientOf, outside, sending, shownBy, untilShown } from './stand-ins';

/*
 * What a kind's rules say of its place holds there: each limit at its edge, the moment as an instant and by the wall
 * clock, the picture to its last byte, and what its page says to programs.
 */

const listing = channels.filter(({ rules }) => rules.notice === null && rules.mirrors === null);
const link = { kind: 'known' as const, href: 'https://tickets.example/' };

/** What the sample shows on a channel, under a title. */
function shownOn(id: string, title: string): Shown {
  const said = facts(suited(id, sample({ title })), { code: 'X', venues: codedVenues, now: asOf });
  return proof(channelById(id).rules, { ...said, link }, ['p1'], asOf).shown;
}

const limited = (row: FieldRow): row is FieldRow & { limit: number } =>
  row.each === 'event' && row.kind === 'text' && row.limit !== undefined;

/** What a place cannot do, by its rules, and the word that its habits tell it with. */
function cannot({ rules }: (typeof channels)[number]): [string, RegExp][] {
  const start = rules.rows.find((row) => row.each === 'performance' && row.kind === 'instant');
  const far: ShownValue = { kind: 'instant', at: asOf, zone: 'Pacific/Auckland' };
  const back = start?.take(start.put(far));
  const closes = rules.operations.some(({ leadsTo }) => leadsTo?.includes('closed'));
  return [
    ...(rules.mirrors === null && !closes ? [['take anything down', /taken? (back|down)|called off/] as const] : []),
    ...(rules.mirrors === null && rules.notice === null && rules.mostPerformances === 1
      ? [['hold two dates in one entry', /\bone date\b/i] as const]
      : []),
    ...(back?.kind === 'instant' && back.zone !== far.zone ? [['say a zone', /\btimes are those of\b/] as const] : []),
  ].map(([what, word]) => [what, word]);
}

test('what a place cannot do is told in its habits', () => {
  const told = channels.flatMap((channel) =>
    cannot(channel).map(([what, word]) => [
      channel.row.id,
      what,
      channel.rules.habits.some((habit) => word.test(habit)),
    ]),
  );
  expect(told.length).toBeGreaterThan(4);
  expect(told.filter(([, , is]) => is !== true)).toEqual([]);
});

/** The steps of a door that an operation of its kind goes by. */
const steps = {
  unpublish: 'unpublish',
  remove: 'remove',
  cancel: 'cancel',
  reschedule: 'reschedule',
  correct: 'correct',
} as const;

test.each(channels.filter(({ rules }) => rules.mirrors === null).map(({ row }) => row.id))(
  '%s has a step of its door for every operation that its rules name, and no other',
  (id) => {
    const ops = new Set<string>(channelById(id).rules.operations.map((row) => row.op));
    const client = clientOf(id);
    for (const [op, step] of Object.entries(steps)) expect([op, client[step] !== undefined]).toEqual([op, ops.has(op)]);
  },
);

describe.each(listing.map(({ rules }) => rules.id))('%s', (id) => {
  const { rules } = channelById(id);
  const place = async (shown: Shown, pictures = sending().pictures) =>
    answered(id, clientOf(id).place(writeListing(rules, shown), { ...sending(), pictures }));
  const readBack = async (shown: Shown): Promise<Shown> => {
    const placed = await place(shown);
    const answer = await clientOf(id).fetch(placed, { page: false });
    return answer ? shownBy(id)(answer) : {};
  };
  /** A text that is just so long as the place counts, and that it does not trim. */
  const filled = (row: FieldRow, n: number, of: string): ShownValue => {
    const each = countIn(of, unitOf(row));
    return { kind: 'text', text: of.repeat(Math.floor(n / each)) + 'x'.repeat(n % each) };
  };

  test.each([
    ['letters', 'x'],
    ['letters with marks', 'é'],
    ['pictures of several signs', '👩‍🚀'],
  ])('each limit holds at its edge, in %s, and comes back whole', async (_, of) => {
    const rows = rules.rows.filter(limited);
    const shown = { ...shownOn(id, 'Edge') };
    for (const row of rows) shown[row.field] = filled(row, row.limit, of);
    const back = await readBack(shown);
    expect(rows.filter(({ field }) => back[field] !== undefined).length).toBeGreaterThan(0);
    for (const { field } of rows)
      if (back[field] !== undefined) expect([field, back[field]]).toEqual([field, shown[field]]);
  });

  test('one more than a limit is never cut behind our back: it is refused, or kept whole', async () => {
    // A place that cuts says so in its habits.
    const cuts = rules.habits.some((habit) => /\bcuts?\b/.test(habit));
    for (const row of rules.rows.filter(limited)) {
      const { field, limit } = row;
      const shown = { ...shownOn(id, 'Beyond'), [field]: filled(row, limit + 1, 'x') };
      const back = await readBack(shown).catch(() => null);
      if (!cuts && back?.[field] !== undefined) expect([field, back[field]]).toEqual([field, shown[field]]);
    }
  });

  test('words of signs that count for several are cut to what the place takes, and taken', async () => {
    const shown = shownOn(id, '👩‍🚀'.repeat(60));
    const back = await readBack(shown);
    expect([back.title, shown.title?.kind === 'text' && shown.title.text !== '']).toEqual([shown.title, true]);
  });

  test('its page says the moment as an instant, and the hour of the place', async () => {
    const placed = await place(shownOn(id, 'Moment'));
    await untilShown(id);
    const answer = await clientOf(id).fetch(placed, { page: true });
    if (answer?.page == null) return;
    const said = [...answer.page.matchAll(/"startDate":\s*"([^"]+)"/g)];
    const marked = [...answer.page.matchAll(/itemprop="startDate"[^>]*\bdatetime="([^"]+)"/g)];
    const moments = [...said, ...marked].map(([, text = '']) => Date.parse(text));
    expect([new Set(moments), answer.page.replace(/<script.*?<\/script>/gs, '').includes('19:30')]).toEqual([
      new Set([Date.parse('2027-03-14T19:30:00Z')]),
      true,
    ]);
  });

  test('its picture is served to the last byte', async () => {
    const row = rules.rows.find(({ field, kind }) => field === 'picture' && kind === 'picture');
    if (!row || rules.picture === null) return;
    const [width, height] = [
      rules.picture.minWidth,
      Math.round((rules.picture.minWidth * rules.picture.ratio[1]) / rules.picture.ratio[0]),
    ];
    const bytes = new Uint8Array(
      await sharp({ create: { width, height, channels: 3, background: '#7b2d4c' } })
        .jpeg()
        .toBuffer(),
    );
    const shown = shownOn(id, 'Picture');
    const picture = shown.picture;
    if (picture?.kind !== 'picture') throw new Error('the sample has no picture here');
    const placed = await place(shown, [{ name: picture.name, bytes }]);
    await untilShown(id);
    const answer = await clientOf(id).fetch(placed, { page: true });
    const src = [...(answer?.page ?? '').matchAll(/src="([^"]+)"/g)]
      .map(([, href = '']) => href)
      .find((href) => href.includes(picture.name));
    const there = await fetch(new URL(src ?? 'nowhere', outside.base));
    expect(there.headers.get('content-type')).toBe('image/jpeg');
    expect(Buffer.from(await there.arrayBuffer()).equals(Buffer.from(bytes))).toBe(true);
  });
});
