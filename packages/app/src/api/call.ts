import type { AnswerOf, BodyOf, EndpointName, EndpointOf, ParamsOf } from '@fennip/contract';
import { ENDPOINTS, addressOf } from '@fennip/contract';
import { ask } from './http.ts';

/** More than this a browser does not send for a page that is gone, in characters. */
const MOST_KEPT = 60_000;

/** What is sent is not changed by it. */
type Unchanged<T> = { readonly [K in keyof T]: Unchanged<T[K]> };

/** What a call sends along, where its endpoint takes something. */
type Sent<Name extends EndpointName> =
  BodyOf<EndpointOf<Name>> extends undefined ? [] : [body: Unchanged<BodyOf<EndpointOf<Name>>>];

async function send<Name extends EndpointName>(
  name: Name,
  params: ParamsOf<EndpointOf<Name>>,
  body: unknown,
  outlivesPage: boolean,
): Promise<AnswerOf<EndpointOf<Name>>> {
  const { method, status } = ENDPOINTS[name];
  const text = body === undefined ? null : JSON.stringify(body);
  const answer = await ask(addressOf(name, params), {
    method,
    ...(text === null ? {} : { headers: { 'content-type': 'application/json' }, body: text }),
    keepalive: outlivesPage && (text?.length ?? 0) < MOST_KEPT,
  });
  // The server answers each endpoint with what the same table says.
  return (status === 204 ? undefined : await answer.json()) as AnswerOf<EndpointOf<Name>>;
}

/** Asks the server. @throws AnswerError */
export const call = <Name extends EndpointName>(
  name: Name,
  params: ParamsOf<EndpointOf<Name>>,
  ...[body]: Sent<Name>
): Promise<AnswerOf<EndpointOf<Name>>> => send(name, params, body, false);

/** The same, sent to its end though the page is left meanwhile, where it is small enough. */
export const callOutliving = <Name extends EndpointName>(
  name: Name,
  params: ParamsOf<EndpointOf<Name>>,
  ...[body]: Sent<Name>
): Promise<AnswerOf<EndpointOf<Name>>> => send(name, params, body, true);
