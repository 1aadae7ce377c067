import type { EndpointName } from '@fennip/contract';
import { ENDPOINTS } from '@fennip/contract';

/** Which endpoint is asked, and the parts of its address that differ. */
export interface AskedEndpoint {
  readonly name: EndpointName;
  readonly params: Readonly<Record<string, string>>;
}

/** As the router takes paths: it minds neither the case of letters nor a slash at the end. */
const patternOf = (path: string): RegExp =>
  new RegExp(`^${path.replaceAll('.', '\\.').replace(/:(\w+)/g, '(?<$1>[^/]+)')}/?$`, 'i');

const PATTERNS = (Object.keys(ENDPOINTS) as EndpointName[]).map((name) => ({
  name,
  method: ENDPOINTS[name].method,
  pattern: patternOf(ENDPOINTS[name].path),
}));

function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    // The router refuses such an address; no id looks like it.
    return part;
  }
}

/**
 * The endpoint that is asked, as the router will find it.
 *
 * @param method of HTTP; HEAD asks for what GET does
 * @param path below `/api`
 * @returns null where there is none
 */
export function endpointAt(method: string, path: string): AskedEndpoint | null {
  const asked = method === 'HEAD' ? 'GET' : method;
  for (const { name, method: own, pattern } of PATTERNS) {
    const found = own === asked ? pattern.exec(path) : null;
    if (!found) continue;
    const params = Object.entries(found.groups ?? {}).map(([key, part]) => [key, decoded(part)] as const);
    return { name, params: Object.fromEntries(params) };
  }
  return null;
}
