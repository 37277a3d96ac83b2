import type { z } from 'zod';

/**
 * What a schema found wrong with a value, in words for a person, with the way out. A schema's own words stand as they
 * are.
 */
export function issueWords({ code, message, ...more }: z.core.$ZodIssue): string {
  const said = /^(?:Invalid|Too|Unrecognized|Expected)\b/.test(message);
  if (!said) return message;
  const issue = more as {
    expected?: unknown;
    minimum?: unknown;
    maximum?: unknown;
    origin?: unknown;
    input?: unknown;
    values?: unknown;
  };
  switch (code) {
    case 'invalid_type':
      return message.includes('undefined') ? 'It is missing. Fill it in.' : `It has to be a ${String(issue.expected)}.`;
    case 'too_small':
      return issue.origin === 'string' || issue.origin === 'array'
        ? 'It is empty. Fill it in.'
        : `It has to be ${String(issue.minimum)} at least.`;
    case 'too_big':
      return issue.origin === 'string'
        ? `It has more than the ${String(issue.maximum)} characters that are kept. Shorten it.`
        : issue.origin === 'array'
          ? `It has more than ${String(issue.maximum)} entries. Take some out.`
          : `It has to be ${String(issue.maximum)} at most.`;
    case 'invalid_value':
      return `It has to be one of: ${Array.isArray(issue.values) ? issue.values.slice(0, 20).map(String).join(', ') : 'those that are known'}.`;
    default:
      return 'This value cannot be kept. Put it right, or leave it empty.';
  }
}

/** What a schema found wrong, by the field at the head of its path: the first of each, in words. */
export function fieldErrors({ issues }: Pick<z.ZodError, 'issues'>): Record<string, string> {
  const errors: Record<string, string> = {};
  for (const issue of issues) errors[String(issue.path[0] ?? '')] ??= issueWords(issue);
  return errors;
}
