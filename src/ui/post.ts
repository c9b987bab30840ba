/** Sends a value to the server as JSON. */
export const post = (path: string, value: unknown, more: RequestInit = {}): Promise<Response> =>
  fetch(path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(value),
    ...more,
  });
