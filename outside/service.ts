import { readdirSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import type { Service } from './stand-in';

const folder = path.join(process.cwd(), 'outside', 'services');
const moduleSchema = z.object({
  service: z.custom<Service>((item) => typeof (item as Service | null)?.make === 'function'),
});

/** Every stand-in, by the name of its folder. */
export async function findServices(): Promise<Map<string, Service>> {
  const names = readdirSync(folder, { withFileTypes: true }).filter((file) => file.isDirectory());
  const found = new Map<string, Service>();
  for (const { name } of names) {
    const loaded: unknown = await import(path.join(folder, name, 'index.ts'));
    found.set(name, moduleSchema.parse(loaded).service);
  }
  return found;
}
