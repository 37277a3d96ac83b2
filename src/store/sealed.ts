import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** A key that credentials are sealed with, and what it is known by. */
export interface SealKey {
  id: string;
  bytes: Buffer;
}

const keyBytes = 32;
const nonceBytes = 12;
const tagBytes = 16;
const form = /^v1\.([0-9a-f]{8})\.([\w-]+)$/;

/** Where the key of a data folder lies: where the environment says, else beside the folder and never in it. */
export function keyFile(folder: string, env: Readonly<Record<string, string | undefined>> = process.env): string {
  const named = env.NUNTIAX_KEY_FILE;
  return named === undefined || named === '' ? `${path.resolve(folder)}.key` : path.resolve(named);
}

function readKey(file: string): SealKey {
  const open = statSync(file).mode & 0o077;
  if (open !== 0) throw new Error(`Others can read the key ${file}. Close it: chmod 600 ${file}`);
  const bytes = Buffer.from(readFileSync(file, 'utf8').trim(), 'base64');
  if (bytes.length !== keyBytes) throw new Error(`${file} is no key: it holds ${keyBytes} bytes in base64.`);
  return { id: createHash('sha256').update(bytes).digest('hex').slice(0, 8), bytes };
}

/**
 * The key in a file, which is made where there is none: 256 random bits, for the owner alone. Of two that make it at
 * once both get the same. Throws where others can read it, or it is no key.
 */
export function openKey(file: string): SealKey {
  try {
    return readKey(file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
  const made = `${file}.${randomBytes(4).toString('hex')}`;
  writeFileSync(made, `${randomBytes(keyBytes).toString('base64')}\n`, { mode: 0o600, flag: 'wx' });
  try {
    linkSync(made, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    rmSync(made);
  }
  return readKey(file);
}

/** True where a text is sealed, by whichever key. */
export function isSealed(text: string): boolean {
  return form.test(text);
}

/**
 * A text that only the key opens, and only as that of `owner` (AES-256-GCM, NIST SP 800-38D, with a fresh nonce): put
 * in another's place it opens for nobody.
 */
export function seal(key: SealKey, owner: string, text: string): string {
  const nonce = randomBytes(nonceBytes);
  const cipher = createCipheriv('aes-256-gcm', key.bytes, nonce, { authTagLength: tagBytes });
  cipher.setAAD(Buffer.from(owner, 'utf8'));
  const body = Buffer.concat([nonce, cipher.update(text, 'utf8'), cipher.final(), cipher.getAuthTag()]);
  return `v1.${key.id}.${body.toString('base64url')}`;
}

/** The text again; `null`: another key sealed it, or it was changed, or belongs to another. */
export function unseal(key: SealKey, owner: string, sealed: string): string | null {
  const [, id, body] = form.exec(sealed) ?? [];
  if (id !== key.id || body === undefined) return null;
  const bytes = Buffer.from(body, 'base64url');
  if (bytes.length < nonceBytes + tagBytes) return null;
  const opened = createDecipheriv('aes-256-gcm', key.bytes, bytes.subarray(0, nonceBytes), { authTagLength: tagBytes });
  opened.setAAD(Buffer.from(owner, 'utf8'));
  opened.setAuthTag(bytes.subarray(bytes.length - tagBytes));
  try {
    return Buffer.concat([opened.update(bytes.subarray(nonceBytes, bytes.length - tagBytes)), opened.final()]).toString(
      'utf8',
    );
  } catch {
    return null;
  }
}
