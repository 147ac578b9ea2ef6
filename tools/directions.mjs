// Imports go only to packages named earlier, and core knows neither the DOM nor Node.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const order = ['contract', 'core', 'standins', 'server', 'web'];
const root = new URL('..', import.meta.url).pathname;
const faults = [];

for (const [rank, name] of order.entries()) {
  const source = join(root, 'packages', name, 'src');
  for (const file of filesIn(source)) {
    const text = readFileSync(file, 'utf8');
    for (const [, from] of text.matchAll(/(?:from|import)\s*\(?\s*['"]([^'"]+)['"]/g)) {
      const other = /^@viaticum\/([a-z]+)/.exec(from)?.[1];
      if (other && order.indexOf(other) >= rank) faults.push(`${file}: ${name} may not import ${other}`);
      const inner = (name === 'core' || name === 'contract') && !/\.(test|fixture)\./.test(file);
      if (inner && /^(node:|react|antd|fastify|typeorm)/.test(from)) faults.push(`${file}: ${name} may not import ${from}`);
    }
  }
}

function filesIn(folder) {
  try {
    return readdirSync(folder, { recursive: true })
      .filter((file) => /\.tsx?$/.test(file))
      .map((file) => join(folder, file));
  } catch {
    return [];
  }
}

for (const fault of faults) console.error(fault);
if (faults.length > 0) process.exit(1);
console.log('imports: every package imports only earlier ones');
