import { jest } from '@jest/globals';

// A machine that stalls for seconds is met by one second try, as in the browser tests; what needed it is printed with its first fault.
jest.retryTimes(1, { logErrorsBeforeRetry: true });
