// How the imports check reads our files: as they are written, with what is imported for its type alone counted like the rest.
const asValues = () => ({
  visitor: {
    Program(path) {
      for (const node of path.node.body) {
        if (node.importKind === 'type') node.importKind = 'value';
        if (node.exportKind === 'type' && node.source) node.exportKind = 'value';
        for (const specifier of node.specifiers ?? []) {
          if (specifier.importKind === 'type') specifier.importKind = 'value';
          if (specifier.exportKind === 'type') specifier.exportKind = 'value';
        }
      }
    },
  },
});
module.exports = {
  plugins: [asValues, ['@babel/plugin-proposal-decorators', { version: 'legacy' }]],
  presets: [
    ['@babel/preset-typescript', { onlyRemoveTypeImports: true, ignoreExtensions: false }],
    ['@babel/preset-react', { runtime: 'automatic' }],
  ],
  assumptions: { setPublicClassFields: true },
};
