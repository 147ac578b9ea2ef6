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

/** Sentences for fields whose bounds people run into; the rest are worded from the schema. */
const sentences: [RegExp, string][] = [
  [/\/room\/humidity$/, 'Humidity must lie between 0 and 100 %. Enter what the room’s hygrometer shows.'],
  [/\/room\/airC$/, 'The air must be between −20 and 60 °C. Enter the temperature of the room.'],
  [/\/room\/airSpeed$/, 'The draught must lie between 0 and 20 m/s. A quiet room has 0.1.'],
  [/\/(showMin|doMin)$/, 'Minutes cannot be negative or above 600. Enter how long this takes.'],
  [/\/recipe\/\d+(\/parts)?$/, 'Every tube of a recipe needs whole parts, “a touch” or “a speck”.'],
  [/\/support\/(width|height)Mm$/, 'A canvas measures between 1 cm and 5 m each way. Enter its painted face.'],
  [/firstName$/, 'A first name has 1 to 40 letters. Give a shorter one.'],
  [/\/(title|name)$/, 'A name has 1 to 120 letters. Give a shorter one.'],
];

type Problem = { instancePath: string; message?: string; params?: unknown };

/** One sentence for what Ajv found: the deepest place, worded by hand where it is known. */
export function sentenceFor(problems: readonly Problem[]): string {
  const deepest = [...problems].sort((a, b) => b.instancePath.split('/').length - a.instancePath.split('/').length)[0];
  if (!deepest) return 'Something in this request cannot be. Look at what you entered and send it again.';
  for (const problem of [deepest, ...problems]) {
    const known = sentences.find(([place]) => place.test(problem.instancePath));
    if (known) return known[1];
  }
  const place = deepest.instancePath.split('/').filter(Boolean).join(' › ') || 'this request';
  return `Something is wrong with “${place}”: it ${deepest.message ?? 'cannot be so'}. Nothing was stored.`;
}

/** Every error leaves as { code, message, details? } with its status. */
export function answerError(error: FastifyError | ApiFault, request: FastifyRequest, reply: FastifyReply): void {
  if (error instanceof ApiFault) {
    reply.status(error.status).send({ code: error.code, message: error.message, ...error.details });
    return;
  }
  if (error.validation) {
    reply.status(400).send({ code: 'invalid', message: sentenceFor(error.validation) });
    return;
  }
  const known: Record<string, [number, string, string]> = {
    FST_ERR_CTP_BODY_TOO_LARGE: [413, 'too-large', 'This is larger than 8 MB. Shorten it and send it again.'],
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
  const found = known[error.code];
  if (found) {
    reply.status(found[0]).send({ code: found[1], message: found[2] });
    return;
  }
  if (error.statusCode === 429) {
    reply.status(429).send({ code: 'too-many', message: 'Too many attempts. Wait a minute, then try again.' });
    return;
  }
  if (error.statusCode && error.statusCode < 500) {
    reply
      .status(error.statusCode)
      .send({ code: 'invalid', message: 'This request cannot be answered. Reload the page and try again.' });
    return;
  }
  request.log.error(error);
  reply
    .status(500)
    .send({ code: 'internal', message: 'Something went wrong here. What was saved is safe; try again in a moment.' });
}
