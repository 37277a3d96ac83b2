import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { mayDo, mayNotWords, reaches, rights, rightsOf, roles, whoMay, type Right } from '@/core/people/doer';
import { person } from '@/core/testing/doers';
import { rightsOfVerbs } from '@/desk/people/rights-of-verbs';
import { isOpen } from '@/house/open-routes';

/*
 * Every way into the house is listed from its source, and each must ask: a page, an action and a route who it is, a verb
 * whether that doer may.
 */

const files = (folder: string, wanted: RegExp) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => wanted.test(file))
    .map((file) => path.join(folder, file));
const parsed = (file: string) =>
  ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
const isExported = (node: ts.Node) =>
  ts.canHaveModifiers(node) && ts.getModifiers(node)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword) === true;
const functionsOf = (file: string) =>
  parsed(file).statements.filter(
    (node): node is ts.FunctionDeclaration => ts.isFunctionDeclaration(node) && isExported(node),
  );

/** What the desk gives to pages and routes that is no verb, and why it asks nothing. */
const noVerbs: Record<string, string> = {
  theHouse: 'opens the house; does nothing in it',
  orRefused: 'puts refusals into words',
  orRefusedLater: 'puts refusals into words',
  refusalWords: 'puts refusals into words',
  houseZone: 'a name of a zone',
  zonesOf: 'zone data, the same for everybody',
  tourMap: 'draws outlines of land',
  areaMap: 'draws outlines of land',
  health: 'ok and nothing else',
  doerOf: 'finds out who asks',
  meOf: 'tells a doer of itself',
  signIn: 'a way in: what is given is asked about',
  secondFactor: 'a way in: what is given is asked about',
  signOut: 'ends the session that is given',
  lookAtCode: 'a way in: what is given is asked about',
  join: 'a way in: what is given is asked about',
  feedOf: 'by an address that cannot be guessed',
  takeCall: 'by a signature',
};

/** The functions that pages, actions, routes and scripts import of the desk. */
function importedOfDesk(): Map<string, string> {
  const found = new Map<string, string>();
  for (const file of [...files('src/app', /\.tsx?$/), 'src/proxy.ts', 'src/desk/house/verbs.ts'])
    for (const node of parsed(file).statements) {
      if (!ts.isImportDeclaration(node) || node.importClause?.phaseModifier === ts.SyntaxKind.TypeKeyword) continue;
      const from = (node.moduleSpecifier as ts.StringLiteral).text;
      const desk = from.startsWith('@/desk/')
        ? `src/desk/${from.slice('@/desk/'.length)}.ts`
        : file.startsWith('src/desk') && from.startsWith('.')
          ? `${path.join(path.dirname(file), from)}.ts`
          : null;
      const names = node.importClause?.namedBindings;
      if (desk === null || !names || !ts.isNamedImports(names)) continue;
      for (const element of names.elements)
        if (!element.isTypeOnly) found.set((element.propertyName ?? element.name).text, desk);
    }
  return found;
}

const imported = [...importedOfDesk()].flatMap(([name, file]) => {
  const declared = existsSync(file) ? functionsOf(file).find((node) => node.name?.text === name) : undefined;
  return declared ? [{ name, file, declared }] : [];
});

test('there is a good number of verbs to look at', () => {
  expect(imported.length).toBeGreaterThan(80);
});

test.each(imported.filter(({ name }) => !Object.hasOwn(noVerbs, name)))(
  'the verb $name takes a doer and asks its own right before anything else',
  ({ name, declared }) => {
    expect(declared.parameters.map((parameter) => parameter.type?.getText())).toContain('Doer');
    expect(declared.body?.statements[0]?.getText()).toBe(`asks(doer, '${name}');`);
    expect(Object.keys(rightsOfVerbs)).toContain(name);
  },
);

test('what asks nothing is named with its reason, and is all there', () => {
  const there = new Set(imported.map(({ name }) => name));
  expect(Object.keys(noVerbs).filter((name) => !there.has(name))).toEqual([]);
});

test('no right stands in the table for a verb that there is not', () => {
  const declared = new Set(
    files('src/desk', /(?<!\.test)\.ts$/).flatMap((file) => functionsOf(file).map((node) => node.name?.text)),
  );
  expect(Object.keys(rightsOfVerbs).filter((verb) => !declared.has(verb))).toEqual([]);
});

const actions = files('src/app', /action[^/]*\.ts$/).flatMap((file) =>
  functionsOf(file).map((declared) => ({ file, name: declared.name?.text ?? '', declared })),
);
test.each(actions)('the action $name asks who it is, first', ({ declared }) => {
  expect(actions.length).toBeGreaterThan(40);
  expect(declared.body?.statements[0]?.getText()).toMatch(/^const doer = await theDoer\(\);/);
});

const methods = /^(?:GET|POST|PUT|PATCH|DELETE|HEAD|OPTIONS)$/;
const routes = files('src/app', /route\.ts$/).flatMap((file) => {
  const address = path
    .dirname(file)
    .replace('src/app', '')
    .replaceAll(/\[\w+\]/g, 'x');
  const plain = functionsOf(file).map((node) => ({ file, address, method: node.name?.text ?? '', made: '' }));
  const given = parsed(file)
    .statements.filter((node) => ts.isVariableStatement(node) && isExported(node))
    .flatMap((node) =>
      (node as ts.VariableStatement).declarationList.declarations.map(({ name, initializer }) => ({
        file,
        address,
        method: name.getText(),
        made: initializer?.getText() ?? '',
      })),
    );
  return [...plain, ...given].filter(({ method }) => methods.test(method));
});
test.each(routes)(
  'the route $method $address asks who it is, or stands in the list of those that are open',
  (route) => {
    expect(routes.length).toBeGreaterThan(15);
    // The ways in are one route: each of them is told apart by its name, and the rest asks in its first line.
    const open = isOpen(route.address) || route.address === '/api/door/x';
    expect(route.made.startsWith('answered(') || open).toBe(true);
  },
);

const pages = files('src/app', /page\.tsx$/).map((file) => ({
  address: path.dirname(file).replace('src/app', ''),
  text: readFileSync(file, 'utf8'),
}));
test.each(pages)(
  'the page $address asks who it is, or stands in the list of those that are open',
  ({ address, text }) => {
    expect(text.includes('await theDoer(') || isOpen(address)).toBe(true);
  },
);

describe('the list of what is open', () => {
  test.each([
    ['/season', false],
    ['/', false],
    ['/api/pulse', false],
    ['/api/pictures', false],
    ['/api/pictures/x', false],
    ['/api/documents/x', false],
    ['/api/health', true],
    ['/api/health/more', false],
    ['/api/door/sign-in', true],
    ['/api/door/password', false],
    ['/api/door/factor', false],
    ['/sign-in', true],
    ['/sign-in/x', false],
    ['/feeds/k3y', true],
    ['/feeds', false],
    ['/api/hooks/k3y', true],
    ['/e/an-event', false],
  ])('%s: %s', (address, open) => {
    expect(isOpen(address)).toBe(open);
  });
});

describe('roles', () => {
  const able = (role: (typeof roles)[number]) => rights.filter((right) => mayDo(person(role), right)).join(' ');

  test('each may what it may, and nothing else', () => {
    expect(Object.fromEntries(roles.map((role) => [role, able(role)]))).toEqual({
      reader: 'look browse export',
      writer: 'look browse export correct write',
      sender: 'look browse export correct write send',
      'box office': 'look browse export count',
      keeper: 'look browse export correct write count send keep',
    });
  });

  test('let in for some events alone one sends nothing and sees nothing of the house', () => {
    const only = { tours: ['t1'], records: ['r9'] };
    expect(roles.map((role) => rightsOf(role, only).join(' '))).toEqual([
      'look',
      'look correct count',
      '',
      'look count',
      '',
    ]);
    const guest = person('writer', { only });
    expect(
      [
        { id: 'r9', tourId: null },
        { id: 'r1', tourId: 't1' },
        { id: 'r1', tourId: 't2' },
        { id: 't1', tourId: null },
      ].map((record) => reaches(guest, record)),
    ).toEqual([true, true, false, false]);
    expect(reaches(person('reader'), { id: 'r1', tourId: null })).toBe(true);
  });

  test.each<[Right, string]>([
    ['keep', 'keepers'],
    ['send', 'senders and keepers'],
    ['count', 'the box office and keepers'],
    ['write', 'writers, senders and keepers'],
  ])('who may %s is told: %s', (right, words) => {
    expect(whoMay(right)).toBe(words);
    expect(mayNotWords(person('reader'), right)).toBe(`As reader, the reader may not do this; ${words} may.`);
    expect(mayNotWords(person('keeper'), right)).toBeNull();
  });

  test('what waits for a second factor is told as that', () => {
    const keeper = { ...person('keeper'), withheld: ['keep'] as const };
    expect(mayNotWords(keeper, 'keep')).toMatch(/second factor/);
    expect(mayNotWords(keeper, 'send')).toBeNull();
  });

  test('a guest who asks for more is told that it is for some events alone', () => {
    const guest = person('writer', { only: { tours: [], records: ['r1'] } });
    expect(mayNotWords(guest, 'write')).toMatch(/for some events alone/);
    expect(mayNotWords(guest, 'keep')).toMatch(/^As writer/);
  });
});
