import { type Coded, CodedError, sentenceFor, serverErrors } from '@viaticum/contract';
import type { FastifyError, FastifyReply, FastifyRequest } from 'fastify';

/** An answer that is not the one hoped for, from the catalogue, and details where they help. */
export class ApiFault extends CodedError {
  constructor(
    coded: Coded,
    readonly details?: Record<string, unknown>,
  ) {
    super(coded);
  }
}

export const notFound = (what: string) => new ApiFault(serverErrors.notFound(what));

/** Errors of Fastify and of the form parser that people run into. */
const known: Record<string, Coded> = {
  FST_ERR_CTP_BODY_TOO_LARGE: serverErrors.tooLarge,
  FST_REQ_FILE_TOO_LARGE: serverErrors.pictureTooLarge,
  FST_ERR_CTP_INVALID_JSON_BODY: serverErrors.requestUnreadable,
  FST_ERR_CTP_EMPTY_JSON_BODY: serverErrors.requestEmpty,
  FST_ERR_CTP_INVALID_MEDIA_TYPE: serverErrors.fileKind,
  FST_INVALID_MULTIPART_CONTENT_TYPE: serverErrors.notAForm,
};

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

function codedOf(error: FastifyError | ApiFault): Coded {
  if (error instanceof CodedError) return { status: error.status, code: error.code, sentence: error.message };
  if (error.validation) return serverErrors.invalid(sentenceFor(error.validation));
  if (isDiskFull(error)) return serverErrors.diskFull;
  if (isDatabaseAway(error)) return serverErrors.databaseAway;
  if (error.statusCode === 429) return serverErrors.tooOften;
  if (error.statusCode && error.statusCode < 500) return { ...serverErrors.unanswerable, status: error.statusCode };
  return serverErrors.internal;
}

/** Every error leaves as { code, message, requestId, details? } with its status; the log has the same request id. */
export function answerError(error: FastifyError | ApiFault, request: FastifyRequest, reply: FastifyReply): void {
  const { status, code, sentence } = known[error.code] ?? codedOf(error);
  const details = error instanceof ApiFault ? error.details : undefined;
  const where = { method: request.method, route: request.routeOptions?.url, status, code, instructor: request.instructor?.id };
  if (status >= 500) request.log.error({ ...where, err: error }, 'failed');
  else request.log.info(where, 'refused');
  reply.status(status).send({ code, message: sentence, requestId: request.id, ...details });
}
