import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';

const root = join(process.cwd(), 'packages/web/src');
const RAW = /<(button|input|select|textarea|dialog|details|summary|progress|meter|option)\b/g;
/** What is left our own, named in docs/decisions.md. */
const own = new Map([['ui/ribbon/ribbon.tsx', ['input']]]);

const views = readdirSync(root, { recursive: true })
  .map(String)
  .filter((path) => path.endsWith('.tsx') && !/\.(test|fixture)\.tsx$/.test(path));

describe('controls', () => {
  it('are the library’s: none is the browser’s own but those that decisions name', () => {
    expect(views.length).toBeGreaterThan(100);
    const found = views.flatMap((path) => {
      const names = [...readFileSync(join(root, path), 'utf8').matchAll(RAW)].map(([, name]) => name as string);
      const left = names.filter((name) => !own.get(path)?.includes(name));
      return left.length > 0 ? [`${path}: ${left.join(', ')}`] : [];
    });
    expect(found).toEqual([]);
  });
  it('what is named as left is still there', () => {
    for (const [path, names] of own)
      for (const name of names) expect(readFileSync(join(root, path), 'utf8')).toMatch(new RegExp(`<${name}\\b`));
  });
});
