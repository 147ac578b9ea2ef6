import { sentenceFor } from '@viaticum/contract';
import type { FastifyError, FastifyReply, FastifyRequest } from 'fastify';

/** An answer that is not the one hoped for: HTTP status, stable code, a sentence, and details where they help. */
export class ApiFault extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly details?: Record<string, unknown>,
  ) {
    super(message);
  }
}

export const notFound = (what: string) =>
  new ApiFault(404, 'not-found', `There is no such ${what}. It may have been taken away; go back and look again.`);

/** Errors of Fastify and of the form parser that people run into: status, code, sentence. */
const known: Record<string, [number, string, string]> = {
  FST_ERR_CTP_BODY_TOO_LARGE: [413, 'too-large', 'This is larger than what is taken here. Shorten it and send it again.'],
  FST_REQ_FILE_TOO_LARGE: [413, 'too-large', 'This picture is larger than 25 MB. Save it smaller and try again.'],
  FST_ERR_CTP_INVALID_JSON_BODY: [400, 'invalid', 'This request could not be read. Reload the page and try again.'],
  FST_ERR_CTP_EMPTY_JSON_BODY: [400, 'invalid', 'This request is empty. Reload the page and try again.'],
  FST_ERR_CTP_INVALID_MEDIA_TYPE: [415, 'invalid', 'This kind of file is not taken here. Choose a JPEG, PNG or WebP picture.'],
  FST_INVALID_MULTIPART_CONTENT_TYPE: [
    415,
    'invalid',
    'Send the picture as a file of a form. Choose a JPEG, PNG or WebP picture.',
  ],
};
const full: [number, string, string] = [
  507,
  'disk-full',
  'The disk of this machine is full: nothing more can be stored. Free some space, then try again; what was saved is safe.',
];
const away: [number, string, string] = [
  503,
  'database-away',
  'The database does not answer just now. What was saved is safe; try again in a moment.',
];

const codeOf = (error: unknown): string => String((error as { code?: unknown } | null)?.code ?? '');
/** Whether writing failed because the disk is full. */
export const isDiskFull = (error: unknown): boolean =>
  ['ENOSPC', 'EDQUOT', 'ER_DISK_FULL', 'ER_RECORD_FILE_FULL', 'ER_ERROR_ON_WRITE'].includes(codeOf(error)) ||
  (codeOf(error) === 'ER_GET_ERRNO' && /\b28\b/.test((error as Error).message));
/** Whether the database could not be reached, or went away in the middle. */
const isDatabaseAway = (error: unknown): boolean =>
  [
    'ECONNREFUSED',
    'ECONNRESET',
    'EPIPE',
    'ETIMEDOUT',
    'PROTOCOL_CONNECTION_LOST',
    'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR',
    'ER_SERVER_SHUTDOWN',
    'ER_CON_COUNT_ERROR',
    'ER_CONNECTION_KILLED',
  ].includes(codeOf(error)) ||
  // Its socket is not there.
  (codeOf(error) === 'ENOENT' && (error as { syscall?: string }).syscall === 'connect');

function answerOf(error: FastifyError | ApiFault): { status: number; code: string; message: string; details?: object } {
  if (error instanceof ApiFault)
    return { status: error.status, code: error.code, message: error.message, ...(error.details && { details: error.details }) };
  if (error.validation) return { status: 400, code: 'invalid', message: sentenceFor(error.validation) };
  const found = known[error.code] ?? (isDiskFull(error) ? full : isDatabaseAway(error) ? away : undefined);
  if (found) return { status: found[0], code: found[1], message: found[2] };
  if (error.statusCode === 429)
    return { status: 429, code: 'too-many', message: 'Too many attempts. Wait a minute, then try again.' };
  if (error.statusCode && error.statusCode < 500)
    return {
      status: error.statusCode,
      code: 'invalid',
      message: 'This request cannot be answered. Reload the page and try again.',
    };
  return { status: 500, code: 'internal', message: 'Something went wrong here. What was saved is safe; try again in a moment.' };
}

/** Every error leaves as { code, message, requestId, details? } with its status; the log has the same request id. */
export function answerError(error: FastifyError | ApiFault, request: FastifyRequest, reply: FastifyReply): void {
  const { status, code, message, details } = answerOf(error);
  const where = { method: request.method, route: request.routeOptions?.url, status, code, instructor: request.instructor?.id };
  if (status >= 500) request.log.error({ ...where, err: error }, 'failed');
  else request.log.info(where, 'refused');
  reply.status(status).send({ code, message, requestId: request.id, ...details });
}
