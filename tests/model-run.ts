import { by } from '@/core/testing/doers';
import fc from 'fast-check';
import { kinds } from '@/channels/kinds-rules';
import { standsBeyond } from '@/core/errands/narrowing';
import { listedState, type ShownValue } from '@/core/listing/shown';
import { asksPerson } from '@/core/listing/standing';
import { mergeVersions } from '@/core/record/merge';
import type { RecordContent } from '@/core/record/record';
import { type Service } from '../outside/stand-in';
import { Board } from './scripted/board';
import { scripted } from './scripted/kinds';
import type { Fate, Thing } from './scripted/place';
import { realWorld } from './scripted/real-world';
import { first, step, type Step } from './model-steps';
import { callsOf, StandIn } from './scripted/stand-in';
import { World, type KindName } from './scripted/world';

/*
 * A house and a channel, and anything that may happen between them, in any order: with a scripted board for each way of
 * answering, and with every real kind and its own stand-in. After every step: never two listings of one reference (but
 * where a placing came that everybody had given up: then it is told), and nothing came to be seen that the record did
 * not allow at that moment; of two that change a record at once, neither's change is lost. In the end a quiet house
 * comes to rest with a bounded number of requests and receipts; what rests is in step by the place's own data, or asks
 * a person; and nothing that somebody wrote there by hand is lost without a reading that holds it.
 */

/** A run of the model: the world, and what is remembered of it to judge by. */
export class Run {
  readonly wrong: string[] = [];
  private count = 0;
  private plugged = true;
  /** What somebody wrote by hand, as long as it stands there. */
  private byHand = new Map<string, string>();

  /** A placing may come that was given up. */
  private slow = false;
  private readonly calls: { all: string[]; first: string[] };

  constructor(
    readonly name: string,
    readonly world: World,
  ) {
    this.calls = this.place instanceof Board ? boardCalls(name) : callsOf(name);
  }
  get place() {
    return this.world.place(this.name);
  }

  /** A house with a scripted board. */
  static scripted(name: KindName): Run {
    const run = new Run(name, new World([name]));
    // It keeps its word: by its own delay it has answered.
    run.world.board(name).answersAfter = scripted[name].rules({}).delayMs;
    run.begin();
    return run;
  }

  /** A house with a real kind and its stand-in, and an event that the kind takes. */
  static async real(name: string, services: ReadonlyMap<string, Service>): Promise<Run> {
    const { world, part } = await realWorld(name, services);
    const run = new Run(name, world);
    run.begin(part);
    return run;
  }

  private begin(part: Partial<RecordContent> = {}): void {
    this.world.make(part);
    this.place.onSeen = (thing) => this.judge(thing);
  }

  async end(): Promise<void> {
    await this.world.end();
    if (this.place instanceof StandIn) this.place.end();
  }

  /** The first placing goes wrong so. */
  firstFate({ fate, call }: { fate: Fate; call: number }): void {
    const name = this.calls.first[call % this.calls.first.length] ?? '';
    if (fate === 'late') this.slow = true;
    this.place.fates.push([name, fate]);
  }

  /** Two change the record from one revision: the second is told so, and puts both together. */
  private merge(): void {
    const { world } = this;
    const n = (this.count += 1);
    const before = world.record;
    world.save((c) => ({ ...c, title: `First ${n}` }), by('Dov'));
    const mine = { ...before.content, subtitle: `Second ${n}` };
    const told = world.saveOn(before.revision, mine);
    if (told.kind !== 'merge') throw new Error(`a save on an older revision was ${told.kind}`);
    const put = world.saveOn(told.revision, mergeVersions(told.base, mine, told.theirs, new Set()));
    const { title, subtitle } = world.record.content;
    if (put.kind !== 'saved' || title !== `First ${n}` || subtitle !== `Second ${n}`)
      this.wrong.push(`a merge lost something: ${put.kind} ${title} ${subtitle}`);
  }

  /** What is seen now must be allowed now: by the record as it is at this very moment. */
  private judge(thing: Thing): void {
    const { content } = this.world.record;
    const announce = content.publicity.announce;
    const embargoed = announce !== null && Date.parse(`${announce.date}T${announce.time}Z`) > this.world.now;
    const { wire } = thing;
    // What a person edits by hand there is not ours to answer for, nor when it carries out what it was told.
    if (this.place.belated) this.stood.add(thing.id);
    if (this.editing || this.place.belated) return;
    const { visibility } = content.publicity;
    const unlistedToo = this.rules?.states.includes('unlisted') ?? false;
    if (visibility === 'private' || (visibility === 'unlisted' && !unlistedToo))
      this.wrong.push(`seen while ${visibility}`);
    if (content.audience.who !== 'everyone') this.wrong.push('seen while it is for some');
    if (content.stage === 'pencilled') this.wrong.push('seen while pencilled');
    if (content.leftOff.includes(this.name)) this.wrong.push('seen while left off');
    if (embargoed) this.wrong.push('seen under embargo');
    if (this.drafts && content.draftOn.includes(this.name)) this.wrong.push('seen while a draft');
    const held = new Set(
      content.performances.filter((performance) => performance.pencilled).map((performance) => performance.id),
    );
    const free = content.performances.some((performance) => !performance.pencilled);
    const shown = ((wire.dates as { ref?: string }[] | undefined) ?? []).map((date) => date.ref ?? '');
    // A date that is only held beside others is told to nobody anew.
    if (free && shown.some((ref) => held.has(ref)) && !this.stood.has(thing.id))
      this.wrong.push('a held date was seen');
    this.stood.add(thing.id);
  }
  /** Somebody at the channel lets through what was handed in. That it is seen is their doing, and at their moment. */
  private letThrough(): void {
    if (!(this.place instanceof Board)) return;
    this.editing = true;
    this.place.letThrough();
    this.editing = false;
  }
  /** It can keep something as a draft. */
  private get drafts(): boolean {
    return this.rules?.states.includes('draft') ?? false;
  }
  private get rules() {
    return this.world.house.kinds.find((kind) => kind.id === this.name)?.rules({});
  }
  private editing = false;
  private stood = new Set<string>();

  /** The record came to say less while something of it was out, and says so still. */
  private narrowed = false;

  private change(what: Extract<Step, { do: 'save' }>['what'], meanwhile = false): void {
    const n = (this.count += 1);
    this.narrowed = meanwhile;
    const toggled = (list: string[], text: string) =>
      list.includes(text) ? list.filter((candidate) => candidate !== text) : [...list, text];
    this.world.save((c): RecordContent => {
      switch (what) {
        case 'title':
          return { ...c, title: `Title ${n}` };
        case 'subtitle':
          return { ...c, subtitle: n % 3 === 0 ? '' : `Under ${n}` };
        case 'pencil':
          return { ...c, stage: c.stage === 'pencilled' ? 'confirmed' : 'pencilled' };
        case 'hold':
          return {
            ...c,
            performances: c.performances.map((performance, i) =>
              i === 1 ? { ...performance, pencilled: !performance.pencilled } : performance,
            ),
          };
        case 'off':
          return { ...c, leftOff: toggled(c.leftOff, this.name) };
        case 'draft':
          return { ...c, draftOn: toggled(c.draftOn, this.name) };
        case 'some':
          return { ...c, audience: c.audience.who === 'everyone' ? { who: 'members' } : { who: 'everyone' } };
        case 'unlisted':
          return {
            ...c,
            publicity: { ...c.publicity, visibility: c.publicity.visibility === 'public' ? 'unlisted' : 'public' },
          };
        case 'private':
          return {
            ...c,
            publicity: { ...c.publicity, visibility: c.publicity.visibility === 'public' ? 'private' : 'public' },
          };
        case 'embargo':
          return {
            ...c,
            publicity: {
              ...c.publicity,
              announce: {
                date: `2027-02-${String(3 + (n % 9)).padStart(2, '0')}`,
                time: '09:00',
                zone: 'Europe/Dublin',
              },
            },
          };
        case 'lift':
          return { ...c, publicity: { ...c.publicity, announce: null } };
        case 'cut':
          return {
            ...c,
            performances: c.performances.map((performance, i) =>
              i === 0 ? { ...performance, start: n % 2 === 0 ? '20:15' : '19:30' } : performance,
            ),
          };
      }
    });
  }

  private hand(what: Extract<Step, { do: 'hand' }>['what']): void {
    const board = this.place;
    const [thing] = board.things;
    if (!thing) return;
    const value = `hand ${(this.count += 1)}`;
    this.editing = true;
    if (what === 'remove') {
      board.remove(thing.id);
      this.byHand.clear();
    } else if (what === 'close') board.close(thing.id);
    else if (what === 'dates')
      board.edit(thing.id, { dates: ((thing.wire.dates as unknown[] | undefined) ?? []).slice(1) });
    else {
      board.edit(thing.id, { [what]: value });
      // Where there is no second line, it is the first that was edited.
      this.byHand.set(board.things[0]?.wire.under === value ? 'under' : 'name', value);
    }
    this.editing = false;
  }

  async take(step: Step): Promise<void> {
    const { world } = this;
    const first = () =>
      world.listing(this.name).comparison.find((field) => field.outcome === 'drifted' || field.outcome === 'at-odds')
        ?.key;
    switch (step.do) {
      case 'save':
        return this.change(step.what);
      case 'send':
        return void world.sendAll();
      case 'beat':
        return void ((await world.beat()) === 'asleep' && world.restart());
      case 'read':
        return void ((await world.readOne()) === 'asleep' && world.restart());
      case 'restart':
        return world.restart();
      case 'wake':
        return world.wake();
      case 'settle':
        return void (await world.settle());
      case 'unplug':
        if (this.plugged) world.disconnect(this.name);
        else world.connect(this.name);
        this.plugged = !this.plugged;
        return;
      case 'theirs':
      case 'here': {
        const key = first();
        if (key !== undefined) void (step.do === 'theirs' ? world.theirs(this.name, key) : world.here(this.name, key));
        return;
      }
      case 'ours': {
        const key = first();
        if (key !== undefined) void world.ours(this.name, [key]);
        return;
      }
      case 'decide': {
        const some = world.errands();
        if (some.length > 0) world.decide(some[step.which % some.length]?.id ?? 0, step.verdict);
        return;
      }
      case 'fate':
        return void this.place.fates.push([this.calls.all[step.call % this.calls.all.length] ?? '', step.fate]);
      case 'meanwhile': {
        const call = this.calls.all[step.call % this.calls.all.length] ?? '';
        this.place.meanwhile.push([call, () => this.change(step.what, true)]);
        return;
      }
      case 'merge':
        return this.merge();
      case 'answer':
      case 'turn down':
        if (this.place instanceof Board) this.place.answerLots(step.do === 'turn down');
        return;
      case 'let through':
        this.letThrough();
        return;
      case 'one down': {
        const [twin] = world.listing(this.name).findings.flatMap((f) => (f.code === 'twice-there' ? [f.id] : []));
        if (twin !== undefined) void world.oneDown(this.name, twin);
        return;
      }
      case 'hand':
        return this.hand(step.what);
      case 'pass':
        // However slow a place is, it has done within the hour what it was told.
        if (Math.abs(step.ms) >= 3_600_000) await world.wake();
        return world.pass(step.ms);
    }
  }

  /** What must hold after every step. */
  holds(after: string): void {
    const references = this.place.things.map((thing) => thing.reference);
    if (!this.slow) expect([after, references.length]).toEqual([after, new Set(references).size]);
    expect([after, this.wrong]).toEqual([after, []]);
    const [thing] = this.place.things;
    for (const [field, value] of this.byHand) {
      if (!thing || thing.wire[field] === value) continue;
      // It stands there no more: somebody read it before it was gone over.
      const kept = this.world.house.db
        .all<{ observed: string }>('SELECT observed FROM readings')
        .some((candidate) => candidate.observed.includes(value));
      expect([after, field, value, kept]).toEqual([after, field, value, true]);
      this.byHand.delete(field);
    }
  }

  /** Where answers come later, they come now. */
  patiently(): void {
    const later = this.place instanceof Board ? this.place.answersAfter : this.takesItsTime;
    if (later < Infinity) this.world.pass(later);
  }
  private get takesItsTime(): number {
    const rules = kinds.find((kind) => kind.id === this.name)?.rules({});
    return rules && (rules.answers !== 'at once' || rules.delayMs > 3_600_000) ? rules.delayMs + 3_600_000 : Infinity;
  }

  /** In the end it is quiet: nothing works any more, and what rests is in step or asks somebody. */
  async rests(): Promise<void> {
    const { world } = this;
    if (!this.plugged) await this.take({ do: 'unplug' });
    this.place.fates = [];
    this.place.meanwhile = [];
    await world.wake();
    for (let round = 0; round < 3; round += 1) {
      await world.settle();
      this.patiently();
      this.letThrough();
    }
    // What everybody has given up is looked for still.
    if (this.slow) world.pass(5 * 3_600_000);
    await world.settle();
    // Somebody presses "read everything back now": what is known is what stands there.
    world.house.db.run('UPDATE listings SET read_at = 0 WHERE remote IS NOT NULL');
    await world.settle();
    const [receipts, requests] = [world.receipts(), this.place.calls.length];
    await world.settle();
    world.pass(60_000);
    await world.settle();
    expect(world.receipts()).toBe(receipts);
    // A reading is three calls at most; a minute later nothing more is due than what is looked at often.
    expect(this.place.calls.length - requests).toBeLessThan(9);
    expect(world.errands().filter((errand) => errand.state === 'running')).toEqual([]);
    const listing = world.listing(this.name);
    const { open } = this.place;
    if (open.length > 1) {
      const codes = listing.findings.map((finding) => finding.code);
      // What cannot be taken back there is told, and asks nobody.
      const told = codes.includes('twice-sent');
      expect([this.slow, told || codes.includes('twice-there')]).toEqual([true, true]);
      if (!told) expect(listing.standing).not.toBe('instep');
      return;
    }
    const waits = world.errands().some((errand) => errand.state === 'waiting' && errand.notBefore !== null);
    if (listing.standing === 'underway') expect(waits).toBe(true);
    if (listing.standing === 'instep' && this.drafts && this.world.record.content.draftOn.includes(this.name)) {
      // What stays a draft stands there with all that it says, and nobody sees it.
      expect(open).toEqual([]);
      expect(
        listing.comparison.filter((field) => field.outcome !== 'same' && field.outcome !== 'already-there'),
      ).toEqual([]);
    } else if (listing.standing === 'instep' && listedState(listing.wanted) === 'cancelled') {
      // Where nothing is taken down, what must not be seen says that it is off.
      expect([open, this.place.things.map(({ state }) => state)]).toEqual([[], ['cancelled']]);
    } else if (listing.standing === 'instep') {
      const said = (value: ShownValue | undefined) =>
        value?.kind === 'text' ? value.text : value?.kind === 'url' ? value.href : null;
      const { title, body, subtitle } = listing.proof;
      const says = this.place instanceof StandIn ? this.place.shelf.says : undefined;
      const under = this.place.things[0]?.wire.under === undefined ? null : said(subtitle);
      expect(open.map((thing) => [thing.wire.name, thing.wire.under ?? null])).toEqual([
        [said(says === undefined ? (title ?? body) : listing.wanted[says]), under],
      ]);
    }
    if (listing.standing === 'withdrawn') expect(open).toEqual([]);
    // What was narrowed while something of it was out is gone by itself, or asks somebody.
    if (this.narrowed && listing.down !== null && open.length > 0)
      expect([standsBeyond(listing) || asksPerson(listing.standing), listing.down, listing.standing]).toEqual([
        true,
        listing.down,
        listing.standing,
      ]);
    // What stands in public and should not is to be sent, or asks: the house knows of it.
    if (open.length > 0 && listing.down !== null)
      expect(['due', 'refused', 'drifted', 'atodds', 'late', 'underway']).toContain(listing.standing);
  }
}

/** The calls of a scripted board. */
function boardCalls(name: string) {
  const open = name === 'twostep' ? ['POST /open/:id'] : [];
  const first = ['POST /things', ...open];
  return { first, all: [...first, 'PATCH /things/:id', 'GET /things/:id', 'GET /find', 'GET /lot'] };
}

/** Runs whatever may happen, from its beginning to its rest. */
export function whatever(begin: () => Run | Promise<Run>, numRuns: number, maxLength: number) {
  return fc.assert(
    fc.asyncProperty(fc.option(first), fc.array(step, { minLength: 4, maxLength }), async (fate, steps) => {
      const run = await begin();
      try {
        // The first placing is where most can go wrong: most runs begin with its answer lost, or its process.
        if (fate !== null) run.firstFate(fate);
        for (const step of [{ do: 'send' as const }, { do: 'beat' as const }, ...steps]) {
          await run.take(step);
          run.holds(JSON.stringify(step));
        }
        await run.rests();
      } finally {
        await run.end();
      }
    }),
    { numRuns },
  );
}

/** So many runs are drawn; fewer where the time for them is short. */
export const runs = Number(process.env.MODEL_RUNS ?? 40);
