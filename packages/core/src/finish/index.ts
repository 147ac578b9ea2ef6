export { creditOf } from './credit.js';
export { canvasWhen, type FinishDate, type FinishKind } from './dates.js';
export { type Finish, finishOf } from './finish.js';
