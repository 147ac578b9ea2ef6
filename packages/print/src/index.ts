export { type PackKind, type PackOptions, type PackPart, packKinds, packParts, packPdf } from './pack.js';
export { lacking, type PaperName, papers } from './sheet.js';
