import { z } from 'zod';
import * as ids from '../base/ids';
import * as directory from './directory';
import * as houseOwn from './house-own';
import * as record from './record';
import * as tickets from './ticket-schema';
import * as tour from './tour';

/** A schema as lines, one for each place at which it says anything: its path, and all that is asked of a value there. */
function lines(schema: unknown, at: string): string[] {
  if (schema === null || typeof schema !== 'object') return [];
  const {
    properties,
    items,
    anyOf,
    oneOf,
    additionalProperties,
    propertyNames,
    $schema: _,
    ...own
  } = schema as Record<string, unknown>;
  return [
    `${at || '.'} ${JSON.stringify(own)}`,
    ...Object.entries((properties ?? {}) as object).flatMap(([key, inner]) => lines(inner, `${at}.${key}`)),
    ...lines(items, `${at}[]`),
    ...lines(additionalProperties, `${at}.*`),
    ...lines(propertyNames, `${at}.?`),
    ...[anyOf ?? oneOf ?? []].flat().flatMap((inner, i) => lines(inner, `${at}|${i}`)),
  ];
}

test.each(
  Object.entries({ ids, directory, houseOwn, record, tickets, tour }).flatMap(([file, all]) =>
    Object.entries(all).flatMap(([name, schema]) =>
      schema instanceof z.ZodType ? [[`${file} ${name}`, schema] as const] : [],
    ),
  ),
)('%s asks what it asked', (_, schema) => {
  expect(lines(z.toJSONSchema(schema, { unrepresentable: 'any', io: 'input' }), '')).toMatchSnapshot();
});
