import type { Result } from '@/core/base/result';

type FieldErrors = Record<string, string>;
/** A way in that was made: its code is told once. */
export interface HandedOut {
  code: string;
  link: string;
  letter: 'sent' | 'none' | { failed: string };
}

export interface PeopleDoings {
  invite: (input: unknown) => Promise<Result<HandedOut, FieldErrors>>;
  takeBack: (hash: string) => Promise<Result<null, string>>;
  changeRole: (id: string, input: unknown) => Promise<Result<null, FieldErrors>>;
  takeOut: (id: string) => Promise<Result<null, string>>;
  endSession: (personId: string, session: string | null) => Promise<Result<null, string>>;
}
