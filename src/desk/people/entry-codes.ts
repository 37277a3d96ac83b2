import { createHash, randomBytes } from 'node:crypto';

/** Letters and digits that are not taken for each other when they are read out. */
const letters = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';
const length = 20;

/** A fresh code that lets somebody in once: 98 random bits, in groups of five. */
export function freshCode(): string {
  let code = '';
  while (code.length < length)
    for (const byte of randomBytes(length * 2))
      // What would fall unevenly on the letters is passed over.
      if (byte < 240 && code.length < length) code += letters[byte % letters.length];
  return code.replace(/(.{5})(?=.)/g, '$1-');
}

/** What is kept of a code: SHA-256 of its letters, in hexadecimal. Spaces, dashes and case make no difference. */
export function codeHash(code: string): string {
  return createHash('sha256')
    .update(code.toUpperCase().replace(/[^A-Z0-9]/g, ''))
    .digest('hex');
}
