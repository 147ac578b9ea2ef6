// npm run licences: writes docs/licences.md, the licence of every package that Viaticum runs with, from the packages' own files.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup.mjs';

const places = execFileSync('npm', ['ls', '--omit=dev', '--all', '--parseable'], { cwd: root, encoding: 'utf8' }).split('\n');
const found = new Map();
for (const place of places.filter((one) => one.includes('node_modules') && !one.includes('@viaticum'))) {
  const { name, version, license, licenses } = JSON.parse(readFileSync(join(place, 'package.json'), 'utf8'));
  const said = license ?? licenses?.map((one) => one.type).join(' OR ') ?? 'not said';
  found.set(`${name} ${version}`, typeof said === 'string' ? said : said.type);
}
const byLicence = new Map();
for (const [name, licence] of [...found].sort()) byLicence.set(licence, [...(byLicence.get(licence) ?? []), name]);
const sections = [...byLicence].sort((one, other) => other[1].length - one[1].length);
const text = `# Licences of what Viaticum runs with

Written by \`npm run licences\` from the packages' own \`package.json\`. Tools and tests are not in it; the fonts carry their licence
(SIL Open Font License 1.1) in their packages.

| licence | packages |
| --- | --- |
${sections.map(([licence, names]) => `| ${licence} | ${names.length} |`).join('\n')}

${sections.map(([licence, names]) => `## ${licence}\n\n${names.map((name) => `- ${name}`).join('\n')}`).join('\n\n')}
`;
writeFileSync(join(root, 'docs', 'licences.md'), text);
console.log(`${found.size} packages, ${byLicence.size} licences: docs/licences.md`);
