import { OutsideError, writes, type HttpAnswer, type HttpRequest } from '@/channels/kit/http';
import type { OutgoingMail } from '@/channels/kit/mail';
import type { Wire } from '@/core/listing/channel-rules';

/** One thing on a scripted board, as its public would see it. */
export interface Thing {
  id: string;
  reference: string;
  version: number;
  wire: Wire;
  /** `open`: the public sees it. */
  state: 'draft' | 'open' | 'closed' | 'cancelled';
}

/**
 * What is to befall the next call of a name: its answer is lost, the process ends before or after it, it is carried out
 * when nobody waits any more, or it is answered so.
 */
export type Fate =
  'lose' | 'crash-before' | 'crash-after' | 'late' | { status: number; headers?: Record<string, string> };

/**
 * A process that ended never hears an answer. `wake` lets those that waited hear it after all, as one does that only
 * slept.
 */
class Asleep {
  private waiting: (() => void)[] = [];
  /** How many calls ever fell asleep. */
  fell = 0;
  never<T>(then: () => T | Promise<T>): Promise<T> {
    this.fell += 1;
    return new Promise((resolve, reject) =>
      this.waiting.push(() => {
        try {
          resolve(then());
        } catch (error) {
          reject(error as Error);
        }
      }),
    );
  }
  wake(): void {
    for (const one of this.waiting.splice(0)) one();
  }
}

/** A place outside, as a test sees it: what stands there by its own data, and what is to befall its next calls. */
export abstract class Place {
  readonly asleep = new Asleep();
  fates: [string, Fate][] = [];
  /** What happens in the house while the next call of a name is out, and carried out already. */
  meanwhile: [string, () => void][] = [];
  calls: string[] = [];
  /** Every state in which the public ever saw something, to be judged against what was allowed. */
  onSeen: ((thing: Thing) => void) | null = null;

  /** It is carrying out just now what it was told long ago: when that is seen is its own doing. */
  belated = false;
  protected async belatedly<T>(work: () => T | Promise<T>): Promise<T> {
    this.belated = true;
    try {
      return await work();
    } finally {
      this.belated = false;
    }
  }

  abstract get things(): Thing[];
  /** What a request is called: method and path with ids left out, or the method of an interface that has one. */
  protected abstract nameOf(request: HttpRequest): string;
  /** The place's own side of a request. */
  protected abstract work(request: HttpRequest): HttpAnswer | Promise<HttpAnswer>;
  /** Somebody edits it there by hand. */
  abstract edit(id: string, part: Wire): void;
  abstract remove(id: string): void;
  /** Somebody takes it out of the public's sight. */
  abstract close(id: string): void;

  get open(): Thing[] {
    return this.things.filter((thing) => thing.state === 'open');
  }

  /** Takes a letter in. */
  protected takeMail(_: OutgoingMail): Promise<void> {
    throw new Error('no mail is taken here');
  }

  http(request: HttpRequest): Promise<HttpAnswer> {
    const answered = (status: number, headers?: Record<string, string>) => ({
      status,
      headers: new Headers(headers),
      text: '{}',
    });
    return this.meets(this.nameOf(request), writes(request), () => this.work(request), answered);
  }
  /** A letter handed in is a call like any other. */
  mail(letter: OutgoingMail): Promise<void> {
    const answered = (status: number) => {
      throw new OutsideError(status >= 500 || status === 429 ? 'again-later' : 'invalid', `answered ${status}`);
    };
    return this.meets('MAIL', true, () => this.takeMail(letter), answered);
  }

  private async meets<T>(
    call: string,
    isWrite: boolean,
    work: () => T | Promise<T>,
    answered: (status: number, headers?: Record<string, string>) => T,
  ): Promise<T> {
    this.calls.push(call);
    const i = this.fates.findIndex(([name]) => name === call);
    const fate = i < 0 ? null : (this.fates.splice(i, 1)[0]?.[1] ?? null);
    if (fate === 'late') return this.asleep.never(() => this.belatedly(work));
    if (fate === 'crash-before')
      return this.asleep.never(() => {
        throw new OutsideError('again-later', 'the process had ended');
      });
    if (fate !== null && typeof fate === 'object') return answered(fate.status, fate.headers);
    const answer = await work();
    const m = this.meanwhile.findIndex(([name]) => name === call);
    if (m >= 0) this.meanwhile.splice(m, 1)[0]?.[1]();
    if (fate === 'crash-after') return this.asleep.never(() => answer);
    if (fate === 'lose') throw new OutsideError(isWrite ? 'unknown-outcome' : 'again-later', 'the answer was lost');
    return answer;
  }
}
