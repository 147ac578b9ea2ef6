/**
 * Every sentence that is said somewhere in the sources, by its English key, with the place where it stands. Run by itself it prints what the
 * German catalogues lack and what they have that nothing says any more.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from '@babel/parser';

const root = fileURLToPath(new URL('..', import.meta.url));
/** What is written alike in every language: numbers, units, signs. */
const UNITS =
  /^(\{\d+\}|[\s.,;:()–−%°+×…“”„"'·/≤≥<>=±-]|\b(mm|ml|min|cm|h|kg|g|GB|MB|kB|W|A|V|lx|K|C|F|ΔE00|µm|m|s|CSV|PDF|ZIP|JPEG|PNG|SVG)\b)*$/u;
/** Errors that are told what something is: "There is no such film." */
const TOLD_WHAT = new Set(['gone', 'alreadyThere', 'nameless', 'nameTooLong', 'notFound']);

function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (entry.name !== 'fixtures') yield* sources(path);
    } else if (/\.tsx?$/.test(entry.name) && !/\.(test|fixture)\./.test(entry.name)) yield path;
  }
}

const textOf = (node) => {
  if (node?.type === 'StringLiteral') return node.value;
  if (node?.type === 'TemplateLiteral' && node.expressions.length === 0) return node.quasis[0].value.cooked;
  return undefined;
};
const keyOf = (template) =>
  template.quasis.map(({ value }, k) => (k === 0 ? value.cooked : `{${k - 1}}${value.cooked}`)).join('');

/** The strings of a list that is given to `worded`: values, not names; not those within functions. */
function* leaves(node, only, name) {
  if (!node || typeof node !== 'object') return;
  const text = textOf(node);
  if (text !== undefined) {
    if (!only || only.includes(name)) yield text;
    return;
  }
  if (node.type === 'ObjectExpression')
    for (const one of node.properties) yield* leaves(one.value ?? one.argument, only, one.key?.name ?? one.key?.value);
  else if (node.type === 'ArrayExpression') for (const one of node.elements) yield* leaves(one, only, name);
  else if (node.type === 'TSAsExpression' || node.type === 'TSSatisfiesExpression') yield* leaves(node.expression, only, name);
  else if (node.type === 'ConditionalExpression') {
    yield* leaves(node.consequent, only, name);
    yield* leaves(node.alternate, only, name);
  }
}

function* saidIn(node, known) {
  if (!node || typeof node !== 'object') return;
  if (Array.isArray(node)) {
    for (const one of node) yield* saidIn(one, known);
    return;
  }
  if (node.type === 'TaggedTemplateExpression' && node.tag.name === 'say') yield keyOf(node.quasi);
  if (node.type === 'CallExpression' || node.type === 'NewExpression') {
    const callee = node.callee.name ?? node.callee.property?.name;
    const [first, second, third] = node.arguments;
    if (node.callee.name === 'say' || node.callee.name === 'sayBy') {
      yield* leaves(first);
    } else if (callee === 'worded') {
      const only = second?.elements?.map(textOf) ?? (second?.type === 'Identifier' ? known.get(second.name) : undefined);
      yield* leaves(first, only);
    } else if (callee === 'counted') {
      const one = textOf(second);
      if (one !== undefined) {
        yield `{0} ${one}`;
        yield `{0} ${textOf(third) ?? `${one}s`}`;
      }
    } else if (callee === 'coded' && textOf(third) !== undefined) yield textOf(third);
    else if (TOLD_WHAT.has(callee) && textOf(first) !== undefined) yield textOf(first);
  }
  for (const key in node) if (key !== 'loc' && !key.endsWith('Comments')) yield* saidIn(node[key], known);
}

/** Lists of names at the top of a module, by what they are called. */
const namedLists = (program) =>
  new Map(
    program.body.flatMap((node) =>
      (node.declaration ?? node).type === 'VariableDeclaration'
        ? (node.declaration ?? node).declarations
            .filter(({ init }) => init?.type === 'ArrayExpression')
            .map(({ id, init }) => [id.name, init.elements.map(textOf)])
        : [],
    ),
  );

/** English keys with the files that say them. */
export function sentences() {
  const found = new Map();
  for (const name of ['contract', 'kernels', 'core', 'print', 'standins', 'server', 'web'])
    for (const path of sources(join(root, 'packages', name, 'src'))) {
      const plugins = ['typescript', 'decorators', ...(path.endsWith('x') ? ['jsx'] : [])];
      const { program } = parse(readFileSync(path, 'utf8'), { sourceType: 'module', plugins });
      for (const key of saidIn(program, namedLists(program)))
        if (/\p{L}/u.test(key) && !UNITS.test(key)) found.set(key, [...(found.get(key) ?? []), relative(root, path)]);
    }
  // Names of pigments stand in their table.
  const table = readFileSync(join(root, 'packages/kernels/src/pigment/data.ts'), 'utf8');
  for (const [, name] of table.matchAll(/ name: "([^"]+)"/g)) found.set(name, ['packages/kernels/src/pigment/data.ts']);
  return found;
}

/** All German catalogues together. */
export const german = () =>
  Object.assign(
    {},
    ...readdirSync(join(root, 'packages/contract/german')).map((file) =>
      JSON.parse(readFileSync(join(root, 'packages/contract/german', file), 'utf8')),
    ),
  );

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const [said, has] = [sentences(), german()];
  for (const [key, files] of said) if (has[key] === undefined) console.log(`lacks  ${files[0]}  ${JSON.stringify(key)}`);
  for (const key of Object.keys(has)) if (!said.has(key)) console.log(`unsaid ${JSON.stringify(key)}`);
}
