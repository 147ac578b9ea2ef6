import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, it } from '@jest/globals';

const root = join(process.cwd(), 'packages/web/src');
const files = readdirSync(root, { recursive: true }).map(String);
const read = (path: string) => readFileSync(join(root, path), 'utf8');
const sheets = files.filter((path) => path.endsWith('.css'));
const modules = sheets.filter((path) => path.endsWith('.module.css'));
const views = files.filter((path) => path.endsWith('.tsx') && !/\.(test|fixture)\.tsx$/.test(path));
const camel = (name: string) => name.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

/** Names that are not a module's: what is shared by all, and parts whose look belongs to the place where they stand. */
const shared =
  'choice dialog-title drying-film field field-fault finding mix-nudges number-field number-said numbers opening plain print-else print-sheet quiet recipe recipe-bar recipe-dot recipe-scale recipe-words row serious signal small topics visually-hidden aside brush-out';

/** The classes of a module, as a component takes them. */
function classesOf(sheet: string): Set<string> {
  const selectors = read(sheet)
    .replace(/\/\*[\s\S]*?\*\//g, '')
    .replace(/:global\([^)]*\)/g, '')
    .replace(/\{[^{}]*\}/g, '{}')
    .replace(/"[^"]*"/g, '');
  return new Set([...selectors.matchAll(/\.([a-z][\w-]*)/g)].map(([, name]) => camel(name as string)));
}
/** What a component takes from modules: by module, the names; or all of them where the name is worked out. */
function takenBy(view: string): { sheet: string; names: Set<string>; isOpen: boolean }[] {
  const text = read(view);
  return [...text.matchAll(/^import (\w+) from '([^']+\.module\.css)';$/gm)].map(([, name, path]) => ({
    sheet: join(dirname(view), path as string),
    names: new Set([...text.matchAll(new RegExp(`\\b${name}\\.(\\w+)`, 'g'))].map(([, taken]) => taken as string)),
    isOpen: new RegExp(`\\b${name}\\[`).test(text),
  }));
}

describe('styles', () => {
  const taken = new Map<string, { names: Set<string>; isOpen: boolean }>();
  const absent: string[] = [];
  for (const view of views)
    for (const { sheet, names, isOpen } of takenBy(view)) {
      const own = classesOf(sheet);
      for (const name of names) if (!own.has(name)) absent.push(`${view}: ${name} is not in ${sheet}`);
      const before = taken.get(sheet);
      taken.set(sheet, { names: new Set([...(before?.names ?? []), ...names]), isOpen: isOpen || (before?.isOpen ?? false) });
    }

  it('a component takes only classes that its module has', () => {
    expect(modules.length).toBeGreaterThan(90);
    expect(absent).toEqual([]);
  });
  it('a module has no class that nobody takes', () => {
    const idle = modules.flatMap((sheet) => {
      const of = taken.get(sheet);
      if (of?.isOpen) return [];
      return [...classesOf(sheet)].filter((name) => !of?.names.has(name)).map((name) => `${sheet}: ${name}`);
    });
    expect(idle).toEqual([]);
  });
  it('what is no module’s is on the list of shared names', () => {
    const names = new Set(shared.split(' '));
    const found = sheets
      .filter((sheet) => !modules.includes(sheet))
      .flatMap((sheet) => [...classesOf(sheet)].map((name) => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)))
      .filter((name) => !name.startsWith('ant-'));
    expect([...new Set(found)].filter((name) => !names.has(name))).toEqual([]);
  });
  it('colours come from the tokens alone, and every token that is asked for is there', () => {
    const tokens = new Set(
      [...sheets, ...views].flatMap((path) => [...read(path).matchAll(/(--[\w-]+)['"]?:/g)].map(([, name]) => name)),
    );
    for (const sheet of sheets) {
      const text = read(sheet);
      if (sheet !== join('ui', 'base.css'))
        expect({ sheet, raw: text.match(/#[0-9a-f]{3,8}\b|\brgba?\(/gi) }).toEqual({ sheet, raw: null });
      for (const [, name] of text.matchAll(/var\((--[\w-]+)/g))
        expect({ sheet, name, is: tokens.has(name) }).toEqual({ sheet, name, is: true });
    }
  });
});
