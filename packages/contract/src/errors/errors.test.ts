import { expect, it } from '@jest/globals';
import { type Coded, CodedError, classErrors, commandErrors, serverErrors } from './index.js';

const all = [commandErrors, classErrors, serverErrors].flatMap((catalogue) =>
  Object.values(catalogue as Record<string, Coded | ((...args: string[]) => Coded)>).map((one) =>
    typeof one === 'function' ? one('This is said.', '40') : one,
  ),
);

it('every error has a code, a status and sentences that say what is wrong', () => {
  for (const { code, status, sentence } of all) {
    expect(code).toMatch(/^[a-z][a-z0-9]*(-[a-z0-9]+)*$/);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(sentence).toMatch(/^[“A-ZB].*[.]$/);
    expect(sentence).not.toMatch(/undefined|\$\{|\[object/);
  }
  expect(all.length).toBeGreaterThan(130);
});

it('an error that is thrown says its sentence', () => {
  const error = new CodedError(serverErrors.busy);
  expect([error.message, error.status, error.code]).toEqual([serverErrors.busy.sentence, 503, 'busy']);
});
