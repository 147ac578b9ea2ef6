import { Lesson, type Problem, say } from '@viaticum/contract';
import type { TSchema } from 'typebox';
import { Errors } from 'typebox/value';

type Path = readonly (string | number)[];
type Shape = TSchema & {
  anyOf?: Shape[];
  items?: Shape | Shape[];
  properties?: Record<string, Shape>;
  minItems?: number;
  maxItems?: number;
};

/**
 * What the contract has against places of a document that were touched, as a validator's problems: each place with all that is in it,
 * and the length of every list on the way to it. Costs what the places hold, not what the document holds.
 */
export function problemsAt(document: unknown, touched: readonly Path[]): Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<string>();
  for (const path of touched) {
    let schema = Lesson as unknown as Shape;
    let value = document;
    const at: (string | number)[] = [];
    for (const key of path) {
      if (Array.isArray(value)) problems.push(...lengthProblems(schema, value, at));
      const inner = within(schema, key);
      const next = (value as Record<string | number, unknown> | undefined)?.[key];
      // Of a choice between shapes, of a field nobody knows and of one that was taken away the whole is looked at.
      if (!inner || next === undefined) break;
      at.push(key);
      [schema, value] = [inner, next];
    }
    const place = pointer(at);
    // A list whose length alone was touched has been looked at.
    const isLength = path.at(-1) === 'length' && Array.isArray(value);
    if (isLength || at.length === 0 || seen.has(place)) continue;
    seen.add(place);
    for (const { instancePath, ...problem } of Errors(schema, value))
      problems.push({ ...problem, instancePath: `${place}${instancePath}` });
  }
  return problems;
}

const pointer = (path: Path): string => path.map((key) => `/${key}`).join('');

function within(schema: Shape, key: string | number): Shape | null {
  if (schema.anyOf) return null;
  if (Array.isArray(schema.items)) return schema.items[Number(key)] ?? null;
  return schema.items ? (key === 'length' ? null : schema.items) : (schema.properties?.[key] ?? null);
}

function lengthProblems(schema: Shape, list: readonly unknown[], at: Path): Problem[] {
  const { maxItems = Number.POSITIVE_INFINITY, minItems = 0 } = schema;
  if (list.length > maxItems)
    return [{ instancePath: pointer(at), keyword: 'maxItems', message: say`must NOT have more than ${maxItems} items` }];
  return list.length < minItems
    ? [{ instancePath: pointer(at), keyword: 'minItems', message: say`must NOT have fewer than ${minItems} items` }]
    : [];
}
