export { conflictOf } from './conflict.js';
export { solveInOrder } from './in-order.js';
export { type Conflict, checkProblem, type DryingConstraint, type Pin, type Problem, type Solution } from './problem.js';
export { type SolveOptions, solve, solving } from './solve.js';
export { type Compiled, compile, down, NEVER, TICKS, up } from './solver/compile.js';
export { append, earliest, emptyPrefix, type Gap, hasOpenWindow, type Prefix, pathsFrom } from './solver/prefix.js';
export { type Found, type Goal, type SearchState, search } from './solver/search.js';
