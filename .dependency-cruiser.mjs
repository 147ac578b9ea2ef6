// Who may import whom: npm run lint asks it.
const core = 'packages/core/src';
const test = '\\.(test|fixture)\\.tsx?$|/fixtures/|/arguments\\.fixture';
/** Modules of core from the ground up: each may import those of earlier rows, none of its own row or a later one. */
const floors = [
  ['units', 'geometry', 'brush', 'format', 'coat', 'surface', 'captions'],
  ['area', 'mix', 'text', 'hear'],
  ['picture', 'document', 'derived'],
  ['step', 'stage', 'value-relations', 'transfer', 'versions'],
  ['contact'],
  ['plan'],
  ['advice', 'pace', 'class', 'paint-repair', 'brush-plan'],
  ['check', 'variant', 'student-sheet'],
  ['kit', 'draft', 'film'],
  ['lesson-from-picture'],
];
const packages = ['contract', 'kernels', 'core', 'standins', 'print', 'server', 'web'];

/** @type {import('dependency-cruiser').IConfiguration} */
export default {
  forbidden: [
    { name: 'no-cycle', severity: 'error', from: {}, to: { circular: true } },
    ...packages.slice(0, -1).map((name, rank) => ({
      name: `${name}-imports-earlier-packages-only`,
      severity: 'error',
      from: { path: `^packages/${name}/src`, pathNot: test },
      to: { path: packages.slice(rank + 1).map((later) => `^packages/${later}/`) },
    })),
    {
      name: 'packages-by-their-names',
      comment: 'Another package is imported by its name, never by a path into it.',
      severity: 'error',
      from: { path: '^packages/([^/]+)/src' },
      to: { path: '^packages/', pathNot: '^packages/$1/', dependencyTypes: ['local'] },
    },
    {
      name: 'core-knows-no-interface',
      severity: 'error',
      from: { path: '^packages/(core|kernels|contract)/src', pathNot: test },
      to: { path: '^(node:|node_modules/(react|antd|fastify|typeorm)/)', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'core-knows-no-node',
      severity: 'error',
      from: { path: '^packages/(core|kernels|contract)/src', pathNot: test },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'modules-by-their-face',
      comment: 'Another module of core is entered by its index.',
      severity: 'error',
      from: { path: `^${core}/([^/]+)/`, pathNot: test },
      to: { path: `^${core}/[^/]+/`, pathNot: [`^${core}/$1/`, `^${core}/[^/]+/index\\.ts$`] },
    },
    ...floors.flatMap((floor, height) => {
      const higher = floors.slice(height + 1).flat();
      const beside = (name) => [...higher, ...floor.filter((other) => other !== name)];
      return floor
        .filter((name) => beside(name).length > 0)
        .map((name) => ({
          name: `${name}-imports-lower-floors-only`,
          severity: 'error',
          from: { path: `^${core}/${name}/`, pathNot: test },
          to: { path: beside(name).map((other) => `^${core}/${other}/`) },
        }));
    }),
    {
      name: 'no-unlisted',
      severity: 'error',
      from: { pathNot: test },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'unknown'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)dist/|generated/' },
    babelConfig: { fileName: 'tools/imports-babel.cjs' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['workspace', 'import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.d.ts'],
    },
  },
};
