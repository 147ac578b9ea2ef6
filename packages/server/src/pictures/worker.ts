import { type Rendered, render } from './renditions.js';

/** The renditions of the picture in a file. */
export default (path: string): Promise<Rendered> => render(path);
