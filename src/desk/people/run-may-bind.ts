import { existsSync } from 'node:fs';
import path from 'node:path';
import { isLoopback, ownAddress } from '@/house/front-door';
import { dataFolder } from '@/house/house';
import { openDatabase } from '@/store/database';
import { hasAccount } from '@/store/persons';

/** Whether an application may answer beyond this machine: 0 where it may, 1 with a word on what is missing. */
function main(host: string): number {
  if (isLoopback(host)) return 0;
  const folder = dataFolder();
  const somebody = existsSync(path.join(folder, 'nuntiax.sqlite')) && withHouse(folder);
  if (!somebody)
    return say(
      `NUNTIAX_HOST=${host} would answer beyond this machine, and nobody can sign in yet. Start it without NUNTIAX_HOST, come in as the first keeper, and start it again.`,
    );
  const { origin } = ownAddress(process.env);
  if (origin === null)
    return say(`NUNTIAX_HOST=${host} answers beyond this machine: say by NUNTIAX_ORIGIN under which address.`);
  if (origin.protocol !== 'https:')
    console.error(
      `${origin.origin} is not https: passwords and sessions can be read on the way. Stand behind a proxy with https.`,
    );
  console.log(`Others reach this house at ${origin.origin}.`);
  return 0;
}

function withHouse(folder: string): boolean {
  const db = openDatabase(folder);
  try {
    return hasAccount(db);
  } finally {
    db.close();
  }
}

function say(words: string): number {
  console.error(words);
  return 1;
}

process.exit(main(process.argv[2] ?? ''));
