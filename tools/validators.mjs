// Writes validators for the browser as plain code: compiling schemas there would need a looser content policy.
import { mkdirSync, writeFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import standalone from 'ajv/dist/standalone/index.js';
import { Lesson } from '../packages/contract/dist/index.js';

const ajv = new Ajv({ code: { source: true, esm: true }, allErrors: true, strict: false, unicodeRegExp: false, schemas: [] });
ajv.addSchema({ ...JSON.parse(JSON.stringify(Lesson)), $id: 'lesson' });
const code = standalone.default(ajv, { isLesson: 'lesson' });
// Two small helpers are all that generated code asks for; the rest is plain.
const helpers = {
  'ajv/dist/runtime/ucs2length': 'const ucs2length = (text) => [...text].length;',
  'ajv/dist/runtime/equal': 'const equal = (a, b) => JSON.stringify(a) === JSON.stringify(b);',
};
let plain = code;
for (const [path, helper] of Object.entries(helpers)) {
  const name = helper.split(' ')[1];
  plain = plain.replaceAll(`require("${path}").default`, name);
  if (plain.includes(name)) plain = `${helper}\n${plain}`;
}
if (plain.includes('require(')) throw new Error('A validator still asks for a package.');
const folder = new URL('../packages/web/src/generated/', import.meta.url);
mkdirSync(folder, { recursive: true });
writeFileSync(new URL('validators.js', folder), plain);
writeFileSync(
  new URL('validators.d.ts', folder),
  'type Check = { (value: unknown): boolean; errors?: { instancePath: string; message?: string }[] | null };\nexport declare const isLesson: Check;\n',
);
