import path from 'node:path';
import { existsSync, statSync } from 'node:fs';
import { dataFolder } from '@/house/house';
import { backUp, lastBackup, restore } from '@/store/backup';
import { openDatabase, transaction } from '@/store/database';
import { keyFile } from '@/store/sealed';

/** `backup [FILE]` and `restore FILE` on the data folder: 0 where it was done, 1 with a word where it was not. */
async function main(): Promise<number> {
  const [verb, given] = process.argv.slice(2);
  const folder = dataFolder();
  if (verb === 'restore') {
    if (given === undefined) return say('Name the backup: npm run restore -- FILE');
    const restored = await restore(given, folder);
    if (!restored.ok) return say(restored.error);
    console.log(`${restored.value.records} records of ${restored.value.madeAt} stand in ${folder}.`);
    console.log(
      `The key to the credentials is not in a backup. Lay it at ${keyFile(folder)}, or connect the channels anew.`,
    );
    return 0;
  }
  if (!existsSync(path.join(folder, 'nuntiax.sqlite')))
    return say(`There is no house in ${folder}: name its folder by NUNTIAX_DATA.`);
  const now = Date.now();
  const file = given ?? `${folder}-${new Date(now).toISOString().slice(0, 19).replaceAll(':', '')}.tar.gz`;
  const db = openDatabase(folder);
  try {
    const made = await backUp(db, folder, file, now);
    if (!made.ok) return say(made.error);
    const bytes = statSync(file).size;
    transaction(db, (tx) => lastBackup.put(tx, { at: now, file: path.resolve(file), bytes }), { quiet: true });
    console.log(
      `${made.value.records} records, ${made.value.files.pictures.length} pictures, ${made.value.files.documents.length} documents: ${file} (${bytes} bytes), opened and held against what it says.`,
    );
    if (made.value.lost.length > 0)
      console.log(
        `${made.value.lost.length} pictures are missing or damaged in the house itself, and not in it: ${made.value.lost.join(', ')}`,
      );
    console.log(`Keep the key apart from it: ${keyFile(folder)}.`);
    return 0;
  } finally {
    db.close();
  }
}

function say(words: string): number {
  console.error(words);
  return 1;
}

process.exit(await main().catch((error: unknown) => say(error instanceof Error ? error.message : String(error))));
