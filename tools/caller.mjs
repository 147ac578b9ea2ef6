/** Asks a server at an origin as a page of it would: what it answers, and the cookie it gives. */
export const caller =
  (origin) =>
  async (method, path, body, cookie = '') => {
    const answer = await fetch(origin + path, {
      method,
      headers: { origin, cookie, 'content-type': 'application/json' },
      ...(body && { body: JSON.stringify(body) }),
    });
    return { body: await answer.json(), cookie: answer.headers.get('set-cookie')?.split(';')[0] };
  };
