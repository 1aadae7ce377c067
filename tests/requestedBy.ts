/**
 * Tests ask the server as programs do, which say that they are none of another site's pages. Where a test sends an Origin, it
 * stands for a page, and nothing is added.
 */
const plainFetch = globalThis.fetch;

globalThis.fetch = (input, init) => {
  const headers = new Headers(init?.headers);
  if (!headers.has('origin') && !headers.has('x-requested-by')) headers.set('x-requested-by', 'tests');
  // What is asked of stand-ins for the server stays as it is.
  return plainFetch(input, { ...init, headers });
};
