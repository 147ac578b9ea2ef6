export { heapHeightMm, heapKeepsMin, keepings, mistHeapEveryMin } from './heap.js';
export { type Heap, heapsOf, keepingOf } from './heaps.js';
export { type Laying, layingsOf } from './layings.js';
