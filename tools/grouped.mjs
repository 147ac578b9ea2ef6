/**
 * Suites of a package that keep nothing to themselves share one load of the world: each suite that Jest runs by itself reads and links the
 * whole of core anew, which took longer than most of what they test. Written for a run and taken away after it.
 */
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { root } from './setup.mjs';

const FOLDER = 'grouped';
/** What is done before or after each test of a file would be done for those of the others as well. */
const HOOKS = /^(beforeAll|beforeEach|afterAll|afterEach|jest\.)|@jest-environment/m;

function* tests(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory() && entry.name !== FOLDER) yield* tests(path);
    else if (/\.test\.tsx?$/.test(entry.name)) yield path;
  }
}

/** Test files to run: those of these packages in so many groups, all others as they are. `done` takes the groups away. */
export function grouped(packages = { core: 14, kernels: 3 }) {
  const files = [];
  const folders = [];
  for (const name of readdirSync(join(root, 'packages'))) {
    const source = join(root, 'packages', name, 'src');
    const all = [...tests(source)];
    const alone = packages[name] ? all.filter((path) => HOOKS.test(readFileSync(path, 'utf8'))) : all;
    files.push(...alone);
    const rest = all.filter((path) => !alone.includes(path));
    if (rest.length === 0) continue;
    const folder = join(source, FOLDER);
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder);
    folders.push(folder);
    // Dealt out in the order of their size, so that no group has all the large ones.
    const bySize = rest.map((path) => [path, readFileSync(path).length]).sort((a, b) => b[1] - a[1]);
    for (let k = 0; k < packages[name]; k++) {
      const own = bySize.filter(
        (_, at) => at % (2 * packages[name]) === k || at % (2 * packages[name]) === 2 * packages[name] - 1 - k,
      );
      const path = join(folder, `group-${k + 1}.test.ts`);
      writeFileSync(path, own.map(([file]) => `import '${relative(folder, file).replace(/\.tsx?$/, '.js')}';\n`).join(''));
      files.push(path);
    }
  }
  return {
    files: files.map((path) => relative(root, path)),
    done: () => {
      for (const folder of folders) rmSync(folder, { recursive: true, force: true });
    },
  };
}
