import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fail, ok, type Result } from '@/core/base/result';
import { documentEndings, isAsNamed, typeOfFile } from '@/core/record/document-types';
import type { RecordDocument } from '@/core/record/record';
import type { House } from '@/house/house';
import { documentPath } from '@/house/renditions';

/** Largest document, in bytes. */
export const mostDocumentBytes = 15 * 1024 * 1024;

/** Takes a document in under its content's hash. The error is for the user. */
export async function addDocument(
  house: House,
  doer: Doer,
  fileName: string,
  bytes: Buffer,
): Promise<Result<Pick<RecordDocument, 'fileId' | 'name' | 'type' | 'bytes'>, string>> {
  asks(doer, 'addDocument');
  const name = fileName
    .replace(/[\u0000-\u001f/\\]+/g, ' ')
    .trim()
    .slice(-120);
  const type = typeOfFile(name);
  if (bytes.length === 0) return fail(`“${name}” is empty. Choose the file again.`);
  if (bytes.length > mostDocumentBytes)
    return fail(`“${name}” is ${(bytes.length / 1_048_576).toFixed(1)} MB; at most 15 MB are taken. Make it smaller.`);
  if (type === null) return fail(`“${name}” is none of the documents that are taken. Add a ${documentEndings}.`);
  if (!isAsNamed(name, bytes))
    return fail(`“${name}” is not what its ending says. Export it anew as ${documentEndings}, and add it again.`);
  const fileId = createHash('sha256').update(bytes).digest('hex');
  const target = documentPath(house.folder, fileId);
  if (!existsSync(target)) {
    await mkdir(path.dirname(target), { recursive: true });
    await writeFile(`${target}.half`, bytes);
    await rename(`${target}.half`, target);
  }
  return ok({ fileId, name, type, bytes: bytes.length });
}

/** A document's bytes, for those who are at the desk; `null`: there is none. */
export async function documentBytes(house: House, doer: Doer, fileId: string): Promise<Uint8Array<ArrayBuffer> | null> {
  asks(doer, 'documentBytes');
  if (!/^[0-9a-f]{64}$/.test(fileId)) return null;
  const bytes = await readFile(documentPath(house.folder, fileId)).catch(() => null);
  return bytes && new Uint8Array(bytes);
}
