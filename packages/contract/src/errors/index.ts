export { classErrors } from './class.js';
export { type Coded, CodedError, coded } from './coded.js';
export { commandErrors } from './command.js';
export { serverErrors } from './server.js';
