import { listWords } from '@/core/base/list-words';
import type { Wire } from '@/core/listing/channel-rules';
import { accepted, isOutsideError, type Http } from '../http';
import { heldAgainst, type Typed } from './held-against';
import { readPage, type PageRead } from './read-page';

/** What is seen on a page of what was typed there, and how it was understood, in words. */
export interface SeenOnPage {
  wire: Wire;
  note: string;
}

/**
 * Reads the page at `address` and holds it against what was typed there. A page that is gone shows nothing any more; one
 * that lets nobody read it, or does not speak of the event, tells nothing: what was typed stands by the word of who
 * typed it. Throws an `OutsideError` where it cannot be reached.
 */
export async function seenOnPage(http: Http, address: string, typed: Typed): Promise<SeenOnPage> {
  const page = await pageAt(http, address);
  if (page.is === 'gone') return { wire: { ...typed.wire, shown: 'no' }, note: 'Its page is not there any more.' };
  if (page.is === 'shut')
    return { wire: typed.wire, note: `It stands by the word of who typed it: its page cannot be read (${page.why}).` };
  const read = readPage(page.html, address);
  const { wire, speaks, unsure } = heldAgainst(read, typed);
  return { wire, note: speaks ? readNote(read, unsure) : silentNote(typed) };
}

type PageThere = { is: 'there'; html: string } | { is: 'gone' } | { is: 'shut'; why: string };

/** What lies at an address. What will not be read the next time either is shut; what may be, is thrown. */
async function pageAt(http: Http, address: string): Promise<PageThere> {
  try {
    const answer = await http({ method: 'GET', url: address, follow: true });
    const { status } = answer;
    if (status === 404 || status === 410) return { is: 'gone' };
    if (status === 401 || status === 403) return { is: 'shut', why: `it answers ${status} to programs` };
    return { is: 'there', html: accepted(answer, false).text };
  } catch (error) {
    if (isOutsideError(error) && error.kind === 'invalid') return { is: 'shut', why: error.message };
    throw error;
  }
}

/** How a page was understood, and what it leaves open. */
function readNote({ means }: Pick<PageRead, 'means'>, unsure: readonly string[]): string {
  const by = `Its page was read by ${means}.`;
  return unsure.length === 0 ? by : `${by} Not to be found on it: ${listWords(unsure)}.`;
}

/** A page that does not speak of it: as it should be where it was taken down. */
function silentNote({ wire }: Typed): string {
  return wire.shown === 'no'
    ? 'Its page does not speak of it any more.'
    : 'Its page does not speak of it: whether it stands there, nobody can tell. Look at the address.';
}
