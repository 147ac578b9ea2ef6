// npm run lint: style, React's strict rules, who imports whom, what is unused. Beside each other: each looks at other things.
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { root } from './setup.mjs';

const packages = ['contract', 'kernels', 'core', 'standins', 'print', 'server', 'web'].map((name) => `packages/${name}/src`);
/** What is looked at, by its name. */
export const lints = {
  style: ['node_modules/@biomejs/biome/bin/biome', 'check', '--diagnostic-level=warn', '.'],
  'React rules': ['node_modules/eslint/bin/eslint.js', 'packages/web/src'],
  imports: ['node_modules/dependency-cruiser/bin/dependency-cruise.mjs', ...packages, '--config', '.dependency-cruiser.mjs'],
  unused: ['node_modules/knip/bin/knip.js', '--no-progress'],
};

/** Runs one of them; what it says is printed where it found something. */
export const lint = (name) =>
  new Promise((done) => {
    const child = spawn(process.execPath, lints[name], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text) => {
        said += text;
      });
    child.on('exit', (code) => {
      if (code !== 0) process.stdout.write(said);
      done(code === 0);
    });
  });

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  let held = true;
  for (const name of Object.keys(lints)) {
    const is = await lint(name);
    console.log(`${is ? '  ✓' : '  ✗'} ${name}`);
    held &&= is;
  }
  process.exit(held ? 0 : 1);
}
