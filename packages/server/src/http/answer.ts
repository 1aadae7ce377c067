import type { AnswerOf, BodyOf, EndpointName, EndpointOf, ParamsOf } from '@fennip/contract';
import { ENDPOINTS, bodySchemaOf } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import type { Request, RequestHandler, Response, Router } from 'express';
import express from 'express';
import { refuseDeep, refuseUnfitTexts } from './refuseUnfit.ts';

/** What was asked of an endpoint, checked. */
export interface Asked<Name extends EndpointName> {
  readonly params: ParamsOf<EndpointOf<Name>>;
  readonly body: BodyOf<EndpointOf<Name>>;
  readonly request: Request;
}

type HttpVerb = 'get' | 'post' | 'put' | 'patch' | 'delete';

/** Puts handlers where the endpoint of a name is asked. */
function route(router: Router, name: EndpointName, ...handlers: RequestHandler[]): void {
  const { method, path } = ENDPOINTS[name];
  router[method.toLowerCase() as HttpVerb](path, ...handlers);
}

/** Reads what is sent along as JSON, up to the endpoint's own bound. */
const readJson = (name: EndpointName): RequestHandler =>
  express.json({
    limit: ENDPOINTS[name].mostBytes,
    verify: (_request, _response, bytes) => refuseDeep(bytes),
  });

/** Answers an endpoint in JSON; what was sent along is checked first. */
export function answer<Name extends EndpointName>(
  router: Router,
  name: Name,
  work: (asked: Asked<Name>) => Promise<AnswerOf<EndpointOf<Name>>>,
): void {
  const { status } = ENDPOINTS[name];
  const schema = bodySchemaOf(name);
  const check = schema && checkerOf(schema);
  const handler: RequestHandler = async (request, response) => {
    if (check) refuseUnfitTexts(request.body);
    const answered = await work({
      // The names are those of the path that express has matched.
      params: request.params as ParamsOf<EndpointOf<Name>>,
      body: check?.(request.body) as BodyOf<EndpointOf<Name>>,
      request,
    });
    response.status(status);
    if (status === 204) response.end();
    else response.json(answered);
  };
  route(router, name, ...(check ? [readJson(name)] : []), handler);
}

/** Answers an endpoint that sends something else than JSON: the work sends it itself. */
export function send<Name extends EndpointName>(
  router: Router,
  name: Name,
  work: (params: ParamsOf<EndpointOf<Name>>, response: Response, request: Request) => Promise<void>,
): void {
  route(router, name, (request, response) =>
    work(request.params as ParamsOf<EndpointOf<Name>>, response, request),
  );
}
