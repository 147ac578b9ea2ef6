// Values as a schema of the contract describes them, and now and then as it does not: for fast-check.
import fc from 'fast-check';

/** What has hurt servers before. */
const nasty = [
  ...[
    '__proto__',
    'prototype',
    'constructor',
    'toString',
    'valueOf',
    'hasOwnProperty',
    '',
    ' ',
    'é',
    '🙂',
    '\u0000',
    '\ud800',
    '..',
    '../..',
  ],
  ...['%00', "' OR 1=1 --", '<img src=x onerror=alert(1)>', 'x'.repeat(5000), '\u202e', 'NaN', '-0', '1e999'],
];
const odd = fc.oneof(
  fc.constantFrom(...nasty),
  fc.constantFrom(null, true, false, 0, -1, 1e308, -1e308, 0.1, 2 ** 53, [], {}, [[]], [[[[[[[[[[]]]]]]]]]]),
  fc.object({ maxDepth: 3, maxKeys: 6 }),
  fc.array(fc.constantFrom(...nasty), { maxLength: 20 }),
);

/** Mostly what a schema allows; `wildness`: how often something else stands in a place. */
export function arbitraryOf(schema, wildness = 0.03) {
  const inner = plainOf(schema, wildness);
  return fc.oneof({ weight: 1000, arbitrary: inner }, { weight: Math.round(wildness * 1000), arbitrary: odd });
}

function plainOf(schema, wildness) {
  const of = (one) => arbitraryOf(one, wildness);
  if (schema.anyOf) return fc.oneof(...schema.anyOf.map(of));
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  if (Array.isArray(schema.items)) return fc.tuple(...schema.items.map(of));
  switch (schema.type) {
    case 'object': {
      const keys = Object.keys(schema.properties ?? {});
      const fields = Object.fromEntries(keys.map((key) => [key, of(schema.properties[key])]));
      const known = fc.record(fields, { requiredKeys: (schema.required ?? []).filter((key) => keys.includes(key)) });
      return fc.oneof(
        { weight: 60, arbitrary: known },
        { weight: 1, arbitrary: fc.tuple(known, fc.constantFrom(...nasty)).map(([one, key]) => ({ ...one, [key]: 1 })) },
        { weight: 1, arbitrary: fc.record(fields, { requiredKeys: [] }) },
      );
    }
    case 'array':
      return fc.array(of(schema.items), {
        minLength: schema.minItems ?? 0,
        maxLength: Math.min(schema.maxItems ?? 6, (schema.minItems ?? 0) + 4),
      });
    case 'integer':
      return fc.integer({ min: schema.minimum ?? -1000, max: schema.maximum ?? 1000 });
    case 'number':
      return fc.double({ min: schema.minimum ?? schema.exclusiveMinimum ?? -1e6, max: schema.maximum ?? 1e6, noNaN: true });
    case 'boolean':
      return fc.boolean();
    case 'null':
      return fc.constant(null);
    case 'string':
      if (!schema.pattern)
        return fc.string({ minLength: schema.minLength ?? 0, maxLength: Math.min(schema.maxLength ?? 40, 60) });
      if (schema.pattern.includes('A-Za-z0-9_-')) return fc.stringMatching(/^[A-Za-z0-9_-]{1,12}$/);
      if (schema.pattern === '\\S') return fc.string({ minLength: 1, maxLength: 20 }).map((text) => `a${text}`);
      try {
        return fc.stringMatching(new RegExp(schema.pattern));
      } catch {
        return fc.string();
      }
    default:
      return odd;
  }
}
