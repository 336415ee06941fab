/** A server for tests: answers what it was told to, by route, and remembers what was asked of it. */
import type { Middleware } from "openapi-fetch";
import { client } from "../api/client";
import type { paths } from "../api/schema";

type Method = "GET" | "POST" | "PUT" | "DELETE";
export interface Asked {
  method: Method;
  path: string;
  /** What stands in the route's places, in their order. */
  at: string[];
  query: URLSearchParams;
  body: unknown;
}
type Answering = (asked: Asked) => unknown;

/** What a server says where it does not take something. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly said: Record<string, unknown> = {},
  ) {
    super(String(status));
  }
}

export class TestServer {
  /** Everything that was asked, in order. */
  readonly asked: Asked[] = [];
  /** Nobody can reach it. */
  down = false;
  private routes: { method: Method; pattern: RegExp; answer: Answering }[] = [];
  private static there: Middleware | null = null;

  /** The newest one is asked. */
  constructor() {
    if (TestServer.there) client.eject(TestServer.there);
    TestServer.there = { onRequest: ({ request }) => this.receive(request) };
    client.use(TestServer.there);
  }
  /** What a route answers; told again, it answers otherwise. */
  on(method: Method, path: keyof paths, answer: Answering): this {
    const pattern = new RegExp(`^${path.replace(/\{\w+\}/g, "([^/]+)")}$`);
    this.routes.unshift({ method, pattern, answer });
    return this;
  }
  /** What was asked by a method at paths that hold a word. */
  of(method: Method, word: string): Asked[] {
    return this.asked.filter((one) => one.method === method && one.path.includes(word));
  }

  private async receive(request: Request): Promise<Response> {
    if (this.down) throw new TypeError("no network");
    const { pathname, searchParams } = new URL(request.url);
    const text = await request.text();
    const method = request.method as Method;
    const found = this.routes.flatMap((route) => {
      const match = route.method === method ? route.pattern.exec(pathname) : null;
      return match ? [{ route, at: match.slice(1) }] : [];
    })[0];
    const asked: Asked = {
      method,
      path: pathname,
      at: found?.at ?? [],
      query: searchParams,
      body: text ? JSON.parse(text) : null,
    };
    this.asked.push(asked);
    if (!found) return json({ message: `nothing answers ${method} ${pathname}` }, 404);
    try {
      return json(await found.route.answer(asked), 200);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      return json({ message: "no", ...error.said }, error.status);
    }
  }
}

function json(value: unknown, status: number): Response {
  const body = value === undefined ? "{}" : JSON.stringify(value);
  return new Response(body, { status, headers: { "Content-Type": "application/json" } });
}
