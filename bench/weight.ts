import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import vm from 'node:vm';
import { gzipSync } from 'node:zlib';
import { z } from 'zod';

/*
 * How much script comes with each page of the built application, packed as it is sent (gzip), beside what the bare
 * framework brings to any page. What a page fetches when it is asked for something (an editor, a calendar, all zones)
 * is not counted here. Ends badly where a page weighs more than its limit.
 */

const dist = process.env.DIST ?? '.next';
/** Most kilobytes of script that come with a page, and with the one on which a record is written. */
const limits = { page: 110, record: 250 };

const buildSchema = z.object({ rootMainFiles: z.array(z.string()), polyfillFiles: z.array(z.string()) });
const pageSchema = z.object({ entryJSFiles: z.record(z.string(), z.array(z.string())) });

const sizes = new Map<string, number>();
/** Bytes of a script, packed. */
function packed(file: string): number {
  const known = sizes.get(file);
  if (known !== undefined) return known;
  const size = gzipSync(readFileSync(path.join(dist, decodeURIComponent(file)))).length;
  sizes.set(file, size);
  return size;
}
const kb = (files: Iterable<string>) => Math.round([...files].reduce((sum, file) => sum + packed(file), 0) / 100) / 10;

/** The scripts of a page: its manifest is a script that says them. */
function scriptsOf(manifest: string): string[] {
  const context: { globalThis: { __RSC_MANIFEST?: Record<string, unknown> } } = { globalThis: {} };
  vm.runInNewContext(readFileSync(manifest, 'utf8'), context);
  const [said] = Object.values(context.globalThis.__RSC_MANIFEST ?? {});
  return Object.values(pageSchema.parse(said).entryJSFiles).flat();
}

if (!existsSync(path.join(dist, 'BUILD_ID'))) {
  console.error(`There is no build in ${dist}: run npm run start or npm run check once.`);
  process.exit(1);
}
const build = buildSchema.parse(JSON.parse(readFileSync(path.join(dist, 'build-manifest.json'), 'utf8')));
const bare = new Set(build.rootMainFiles);
const app = path.join(dist, 'server', 'app');
const pages = readdirSync(app, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('page_client-reference-manifest.js') && !file.startsWith('_'))
  .map((file) => {
    const page = `/${file.replace(/\/?page_client-reference-manifest\.js$/, '')}`;
    const mine = new Set(scriptsOf(path.join(app, file)).filter((script) => !bare.has(script)));
    const limit = page.startsWith('/records/') ? limits.record : limits.page;
    return { page, kb: kb(mine), limit };
  })
  .sort((a, b) => b.kb - a.kb);
for (const { page, kb: size, limit } of pages)
  console.error(`${page.padEnd(20)} ${size.toFixed(1).padStart(6)} kB of ${limit}${size > limit ? '  TOO MUCH' : ''}`);
console.log(
  JSON.stringify({
    unit: 'kB gzip beside the bare framework',
    bare: kb(bare),
    pages: Object.fromEntries(pages.map(({ page, kb: size }) => [page, size])),
  }),
);
process.exit(pages.length > 0 && pages.every(({ kb: size, limit }) => size <= limit) ? 0 : 1);
