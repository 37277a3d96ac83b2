import { AsyncLocalStorage } from 'node:async_hooks';
import {
  isOutsideError,
  OutsideError,
  tells,
  waitOf,
  writes,
  type Http,
  type HttpAnswer,
  type HttpLine,
} from '@/channels/kit/http';
import type { Mail, MailLine } from '@/channels/kit/mail';
import type { Instant } from '@/core/base/zones';
import { answered, boundedWait, calmAccount, failed, type AccountState } from '@/core/errands/retry';
import { filled, untilNext } from '@/core/errands/pace';
import type { KindRules } from '@/core/listing/channel-rules';
import { allAccounts, putAccount } from '@/store/channels';
import { transaction, type Db, type Tx } from '@/store/database';

/**
 * On whose behalf something leaves: an errand, which is asked before each thing that tells something of ours, or a
 * reading, which tells nothing.
 */
export interface Going {
  sort: 'errand' | 'reading';
  /**
   * Asked, inside a transaction, before anything leaves that tells something; throws where it may not. `writes`: its
   * outcome will not be known before its answer.
   */
  before?(tx: Tx, how: { writes: boolean }): void;
  /** Told when a writing was answered well. */
  done?(): void;
}

const going = new AsyncLocalStorage<Going>();

/** Does work whose requests go out on this behalf. */
export function goingOut<T>(behalf: Going, work: () => Promise<T>): Promise<T> {
  return going.run(behalf, work);
}

type Budget = KindRules['budget'];

interface Waiting {
  sort: Going['sort'];
  go(): void;
}

/** One account's requests: a bucket that fills with time, and who waits for it. */
interface Bucket {
  budget: Budget;
  tokens: number;
  at: number;
  waiting: Waiting[];
  timer: ReturnType<typeof setTimeout> | null;
  granted: number;
}

/** Of so many requests one is a reading's, where readings wait. */
const readingShare = 4;
/** What was asked longer ago than this is asked again before anything leaves, in milliseconds. */
const staleMs = 1_000;

/** The one way out: by account, within its budget, with what is known of how it fails. */
export interface OutsideDoor {
  /** Requests of an account. */
  http(account: string, budget: Budget): Http;
  /** Letters of an account. */
  mail(account: string, budget: Budget): Mail;
  /** Lays something where others read it: asked about like a request, in the transaction that writes it. */
  shelve(put: (tx: Tx) => void): void;
  state(account: string): AccountState;
  /** Accounts that fail, and since when. */
  failing(): ReadonlyMap<string, AccountState>;
  /** Writes down what the buckets hold. */
  keep(): void;
}

const noMail: MailLine = () => Promise.reject(new OutsideError('our-fault', 'no way out for mail'));

/** What is known of the accounts: how each does, and what its bucket holds. */
class Accounts {
  private readonly states = new Map<string, AccountState>();
  private readonly buckets = new Map<string, Bucket>();
  private readonly known: ReturnType<typeof allAccounts>;

  constructor(
    private readonly db: Db,
    private readonly monotonic: () => Instant,
  ) {
    this.known = allAccounts(db);
    for (const [id, { failures, failingSince, blockedUntil }] of this.known)
      this.states.set(id, { failures, failingSince, blockedUntil });
  }

  state(account: string): AccountState {
    return this.states.get(account) ?? calmAccount;
  }
  failing(): ReadonlyMap<string, AccountState> {
    return new Map([...this.states].filter(([, state]) => state.failures > 0));
  }
  /** Writes down what the buckets hold. */
  keep(): void {
    for (const account of this.buckets.keys()) this.put(account);
  }

  /** It answered as it should. */
  calm(account: string): void {
    this.change(account, answered(this.state(account)));
  }
  /** It did not; `waitMs`: it said for how long, `null`: it did not. */
  fail(account: string, waitMs: number | null): void {
    this.change(account, failed(this.state(account), this.monotonic(), waitMs));
  }

  bucket(account: string, budget: Budget): Bucket {
    let bucket = this.buckets.get(account);
    if (!bucket) {
      const kept = this.known.get(account);
      const tokens = Math.min(budget.burst, kept?.tokens ?? budget.burst);
      const at = Math.min(kept?.tokensAt ?? Date.now(), Date.now());
      bucket = { budget, tokens, at, waiting: [], timer: null, granted: 0 };
      this.buckets.set(account, bucket);
    }
    return bucket;
  }

  private put(account: string): void {
    const bucket = this.buckets.get(account);
    putAccount(this.db, account, {
      ...this.state(account),
      tokens: bucket?.tokens ?? null,
      tokensAt: bucket?.at ?? null,
    });
  }
  private change(account: string, next: AccountState): void {
    const before = this.state(account);
    if (before === next) return;
    this.states.set(account, next);
    try {
      // Screens show that an account fails, and that it answers again; not each knock between.
      const quiet = (before.failures === 0) === (next.failures === 0);
      transaction(this.db, () => this.put(account), { quiet });
    } catch (error) {
      // It is known here all the same, and written down with the next change.
      console.error('accounts:', error);
    }
  }
}

/**
 * The one gate in the way out. What tells something of ours leaves on behalf of somebody who can say that it may;
 * nothing else does.
 */
function pass(db: Db, how: { writes: boolean }, put?: (tx: Tx) => void): void {
  const before = going.getStore()?.before;
  if (!before) throw new OutsideError('our-fault', 'something of ours was about to leave that nobody answers for');
  transaction(
    db,
    (tx) => {
      before(tx, how);
      put?.(tx);
    },
    { quiet: true },
  );
}

/**
 * Asks now, and gives what asks once more where it took long until the line stood: this process may have slept
 * meanwhile.
 */
function passed(db: Db, how: { writes: boolean }): () => void {
  pass(db, how);
  let asked = Date.now();
  return () => {
    const since = Date.now() - asked;
    if (since >= 0 && since < staleMs) return;
    pass(db, how);
    asked = Date.now();
  };
}

/** True where an answer says that the account is to be left in peace for a while. */
function isBusy({ status }: HttpAnswer): boolean {
  return status === 429 || status === 408 || status === 425 || status >= 500;
}

/** Makes the way out on `db`. `monotonic` is the monotonic clock; buckets go by the machine's own. */
export function makeOutsideDoor(
  db: Db,
  base: HttpLine,
  monotonic: () => Instant,
  post: MailLine = noMail,
): OutsideDoor {
  const accounts = new Accounts(db, monotonic);
  return {
    http: (account, budget) => async (request) => {
      // A page for the public is no part of the interface, and has no such limit.
      if (request.follow) return base(request);
      await admission(accounts.bucket(account, budget), going.getStore()?.sort ?? 'reading');
      const behalf = going.getStore();
      const lastly = tells(request) ? passed(db, { writes: writes(request) }) : undefined;
      try {
        const answer = await base(request, lastly);
        if (isBusy(answer)) accounts.fail(account, boundedWait(waitOf(answer)));
        else accounts.calm(account);
        if (writes(request) && answer.status < 300) behalf?.done?.();
        return answer;
      } catch (error) {
        // What we ourselves did not let go is no failing of theirs.
        if (isOutsideError(error) && error.kind !== 'stopped') accounts.fail(account, null);
        throw error;
      }
    },
    mail: (account, budget) => async (mail) => {
      await admission(accounts.bucket(account, budget), going.getStore()?.sort ?? 'reading');
      const behalf = going.getStore();
      // A letter is a writing like any other: it is asked about before it leaves.
      const lastly = passed(db, { writes: true });
      try {
        await post(mail, lastly);
        accounts.calm(account);
        behalf?.done?.();
      } catch (error) {
        if (isOutsideError(error) && (error.kind === 'again-later' || error.kind === 'unknown-outcome'))
          accounts.fail(account, null);
        throw error;
      }
    },
    shelve: (put) => pass(db, { writes: false }, put),
    state: (account) => accounts.state(account),
    failing: () => accounts.failing(),
    keep: () => accounts.keep(),
  };
}

/** Waits for a request's turn. */
function admission(bucket: Bucket, sort: Going['sort']): Promise<void> {
  return new Promise((resolve) => {
    bucket.waiting.push({ sort, go: resolve });
    pump(bucket, bucket.waiting.length > 1);
  });
}

/** Gives out turns. `waited`: somebody was waiting already. */
function pump(bucket: Bucket, waited: boolean): void {
  Object.assign(bucket, filled(bucket, bucket.budget, Date.now(), waited));
  while (bucket.tokens >= 1 && bucket.waiting.length > 0) {
    bucket.tokens -= 1;
    bucket.granted += 1;
    const wanted = bucket.granted % readingShare === 0 ? 'reading' : 'errand';
    const i = Math.max(
      0,
      bucket.waiting.findIndex((candidate) => candidate.sort === wanted),
    );
    bucket.waiting.splice(i, 1)[0]?.go();
  }
  if (bucket.waiting.length === 0 || bucket.timer !== null) return;
  bucket.timer = setTimeout(
    () => {
      bucket.timer = null;
      pump(bucket, bucket.waiting.length > 0);
    },
    untilNext(bucket, bucket.budget),
  );
}
