import { zoneSource } from '#zone-source';
import { channelOf } from '@/channels/channels';
import type { Survey } from '@/channels/survey';
import type { SurveyInput } from '@/channels/survey-shapes';
import { neverSent } from '@/core/listing/compare';
import type { Mention, MentionContext } from '@/core/words/mention';
import { ends } from './pieces';
import type { Piece, Question } from './answer';
import type { Asked, Told } from './reckoner.worker';

/**
 * The worker of this window, with who waits for what; `null`: it could not be had, and the window reckons by itself.
 */
let worker: Worker | null | undefined;
let count = 0;
/** Zones that the worker knows: it has a memory of its own. */
const toldZones = new Set<string>();
const waiting = new Map<number, { question: Question; pieces: Piece[]; done: (pieces: Piece[]) => void }>();

function theWorker(): Worker | null {
  if (worker !== undefined) return worker;
  try {
    const made = new Worker(new URL('./reckoner.worker.ts', import.meta.url), { type: 'module', name: 'reckoner' });
    made.addEventListener('message', ({ data: { id, piece } }: MessageEvent<Told>) => {
      const item = waiting.get(id);
      item?.pieces.push(piece);
      if (!item || !ends(piece)) return;
      waiting.delete(id);
      item.done(item.pieces);
    });
    // Its file may be gone after the application was renewed: whoever waits is answered here.
    made.addEventListener('error', () => {
      worker = null;
      for (const item of waiting.values()) void answerHere(item.question).then(item.done);
      waiting.clear();
    });
    worker = made;
  } catch {
    worker = null;
  }
  return worker;
}

/** Answers in the window itself, where no worker can be had. */
async function answerHere(question: Question): Promise<Piece[]> {
  return [...(await import('./answer')).answer(question)];
}

function ask(question: Question): Promise<Piece[]> {
  const asked = theWorker();
  if (asked === null) return answerHere(question);
  return new Promise((done) => {
    const id = (count += 1);
    waiting.set(id, { question, pieces: [], done });
    const zones = [...zoneSource.given()].filter(([name]) => !toldZones.has(name));
    for (const [name] of zones) toldZones.add(name);
    asked.postMessage({ id, question, zones } satisfies Asked);
  });
}

/** Puts the pieces of a survey together; `null`: something newer was asked meanwhile. */
export function assemble(
  pieces: readonly Piece[],
  { listings: known, channels }: Pick<SurveyInput, 'listings' | 'channels'>,
): Survey | null {
  const head = pieces.find((piece) => piece.kind === 'survey');
  if (!head || pieces.some((piece) => piece.kind === 'passed over')) return null;
  const states = new Map(known.map((listing) => [listing.id, listing]));
  const rules = new Map(channels.map((row) => [row.id, channelOf(row).rules]));
  const listings = pieces
    .flatMap((piece) => (piece.kind === 'listings' ? piece.listings : []))
    .flatMap((listing) => {
      const own = rules.get(listing.channel);
      return own ? [{ ...listing, rules: own, state: states.get(listing.id) ?? neverSent }] : [];
    });
  return { facts: head.facts, links: head.links, listings };
}

/** Surveys a record beside the screen; `null`: something newer was asked meanwhile. */
export async function surveyBeside(input: SurveyInput): Promise<Survey | null> {
  return assemble(await ask({ kind: 'survey', input }), input);
}

/** Finds mentions beside the screen; `null`: something newer was asked meanwhile. */
export async function mentionsBeside(text: string, context: MentionContext): Promise<Mention[] | null> {
  const [piece] = await ask({ kind: 'mentions', text, context });
  return piece?.kind === 'mentions' ? piece.mentions : null;
}
