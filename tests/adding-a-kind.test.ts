import { readFileSync } from 'node:fs';
import path from 'node:path';
import * as wire from '@/core/listing/wire';
import * as rows from '@/channels/kit/common-rows';

/* The page on how a kind is added names what there is, and its example uses nothing that there is not. */

const root = path.join(__dirname, '..');
const page = readFileSync(path.join(root, 'docs/adding-a-kind.md'), 'utf8');
const files = [...page.matchAll(/^## \d\. [^\n]*`([^`]+\.ts)`\n+```ts\n([\s\S]*?)```/gm)].map(
  ([, file = '', code = '']) => ({
    file,
    code,
  }),
);
/** What a file imports by name as a value, and from where. */
const imported = (file: string, code: string) =>
  [...code.matchAll(/^import \{([^}]+)\} from '([^']+)';$/gm)]
    .filter(([, , from = '']) => /^(@\/|\.)/.test(from) && !from.startsWith('./'))
    .flatMap(([, names = '', from = '']) =>
      names
        .split(',')
        .map((name) => name.trim())
        .filter((name) => name !== '' && !name.startsWith('type '))
        .map(
          (name) =>
            [
              from.startsWith('@/') ? path.join(root, 'src', from.slice(2)) : path.join(root, path.dirname(file), from),
              name,
            ] as const,
        ),
    );

test('its example is four files, and every name that they take from the house is there', () => {
  expect(files.map(({ file }) => file)).toEqual([
    'src/channels/corkboard/rules.ts',
    'src/channels/corkboard/index.ts',
    'src/channels/corkboard/door.ts',
    'outside/services/corkboard/index.ts',
  ]);
  const used = files.flatMap(({ file, code }) => imported(file, code));
  expect(used.length).toBeGreaterThan(15);
  for (const [from, name] of used)
    expect([from, name, name in (jest.requireActual(from) as object)]).toEqual([from, name, true]);
});

test.each([
  ['codec', Object.keys(wire).filter((name) => name.endsWith('At'))],
  ['row', Object.keys(rows)],
])('every %s of the kit is named', (_, names) => {
  expect(names.length).toBeGreaterThan(10);
  expect(names.filter((name) => !new RegExp(`\\b${name}\\b`).test(page))).toEqual([]);
});
