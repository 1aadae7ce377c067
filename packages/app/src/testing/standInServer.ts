import { vi } from 'vitest';
import { pictureSheet } from './pictureSheet.ts';
import { SheetServer } from './sheetServer.ts';

/** One request that a page made. */
export interface Asked {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
  readonly outlivesPage: boolean;
}

type Answer = (asked: Asked) => unknown;

const problem = (status: number, detail: string): Response =>
  new Response(JSON.stringify({ type: 'about:blank', status, detail }), {
    status,
    headers: { 'content-type': 'application/problem+json' },
  });

/** Stands at `fetch` for the server: pictures have a history as on the real one, other answers are given by hand. */
export class StandInServer {
  readonly asked: Asked[] = [];
  readonly #pictures = new Map<string, SheetServer>();
  readonly #answers = new Map<string, Answer>();
  /** What the next requests are answered with instead. */
  readonly #troubles: (() => Response | Promise<never>)[] = [];

  constructor() {
    vi.stubGlobal('fetch', (address: string, init?: RequestInit) => this.#answer(address, init));
  }

  /** A picture that can be opened and edited. */
  picture(id: string): SheetServer {
    const known = this.#pictures.get(id) ?? new SheetServer(pictureSheet({ id }));
    this.#pictures.set(id, known);
    return known;
  }

  /** @param request like `GET /jobs` */
  on(request: string, answer: Answer): void {
    this.#answers.set(request, answer);
  }

  /** The next request finds nobody. */
  breakLine(): void {
    this.#troubles.push(() => Promise.reject(new TypeError('fetch failed')));
  }

  /** The next request is refused. */
  refuse(status: number, detail: string): void {
    this.#troubles.push(() => problem(status, detail));
  }

  async #answer(address: string, init: RequestInit = {}): Promise<Response> {
    const { method = 'GET', body, keepalive = false } = init;
    const path = address.replace(/^\/api/, '');
    const asked = {
      ...{ method, path, outlivesPage: keepalive },
      body: typeof body === 'string' ? JSON.parse(body) : null,
    };
    this.asked.push(asked);
    const trouble = this.#troubles.shift();
    if (trouble) return trouble();
    const given = this.#answers.get(`${method} ${path}`);
    const answer = given ? given(asked) : this.#ofPicture(asked);
    if (answer === undefined) return problem(404, `nobody answers ${method} ${path}`);
    return answer === null ? new Response(null, { status: 204 }) : Response.json(answer);
  }

  #ofPicture({ method, path, body }: Asked): unknown {
    const [, id, act] = /^\/pictures\/([^/]+)(?:\/(\w+))?$/.exec(path) ?? [];
    const picture = this.#pictures.get(id);
    if (!picture) return undefined;
    if (method === 'GET' && act === undefined) return picture.sheet;
    if (act === 'edits') return picture.edit((body as { edit: Parameters<SheetServer['edit']>[0] }).edit);
    return act === 'undo' || act === 'redo' ? picture[act]() : undefined;
  }
}
