import type { ApiError } from '@viaticum/contract';
import { languageNow, say } from '@viaticum/contract';

/** An answer that is not the one hoped for; `message` is a sentence for the person. */
export class ApiFailure extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

const away = () =>
  say('Viaticum does not answer. Your work is kept in this browser; it is sent again as soon as there is a connection.');

/** Calls the server and gives its JSON; throws an {@link ApiFailure} with the server's sentence. Status 0: no answer at all. */
export async function call<T>(method: string, url: string, body?: unknown, more: RequestInit = {}): Promise<T> {
  const isForm = body instanceof FormData;
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
      headers: {
        'accept-language': languageNow(),
        ...(body === undefined || isForm ? {} : { 'content-type': 'application/json' }),
      },
      ...more,
    });
  } catch {
    throw new ApiFailure(0, 'away', away());
  }
  const text = await response.text();
  let answer: unknown = null;
  try {
    answer = text ? JSON.parse(text) : null;
  } catch {
    throw new ApiFailure(response.status, 'unreadable', away());
  }
  if (response.ok) return answer as T;
  const error = answer as ApiError & Record<string, unknown>;
  throw new ApiFailure(response.status, error.code, error.message, error);
}
