import { fail } from '@/core/base/result';

/** What is said where the house gives no answer at all: it is not there, or a mistake of ours stopped it. */
export const noAnswer = 'The house did not answer, and nothing was kept. Do it once more.';

/** An answer of a form that has none, told at the field of the name. */
export const noFormAnswer = () => fail<Record<string, string>>({ name: noAnswer });
