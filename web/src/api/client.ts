import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Figure = Schemas["Figure"];
export type SpecFile = Schemas["SpecFile"];
export type SpecStep = Schemas["SpecStep"];
export type SpecLine = Schemas["SpecLine"];
export type SpecOptions = Schemas["SpecOptions"];
export type SpecAmount = Schemas["SpecAmount"];

/** An error of the API in its one shape: what is wrong, where, what to do. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly where = "",
    readonly code = "",
  ) {
    super(detail);
  }

  /** The server could not be reached at all, or is coming back. */
  get isAway(): boolean {
    return this.status === 0 || this.status >= 502;
  }
}

const AWAY = "Ulsek cannot be reached just now. What you typed is kept on this device and sent when it is back.";

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const token: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") {
      request.headers.set("X-CSRFToken", cookie("csrftoken"));
      request.headers.set("Idempotency-Key", crypto.randomUUID());
    }
    return request;
  },
};

const AGAIN_MS = 400;

/**
 * Sends a request, and once more where its answer was lost on the way or the site was coming back. The second carries the same id, so that the site
 * does nothing twice.
 */
export async function sent(request: Request): Promise<Response> {
  const spare = request.clone();
  const first = await fetch(request).catch((error: unknown) => (navigator.onLine ? undefined : Promise.reject(error)));
  if (first && first.status !== 503) return first;
  await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
  return fetch(spare);
}

const client = createClient<paths>({ baseUrl: "/", fetch: sent });
client.use(token);

export { client };

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

function problemOf(status: number, error: unknown): Problem {
  const body = (typeof error === "object" && error !== null ? error : {}) as Record<string, unknown>;
  const text = typeof body.detail === "string" ? body.detail : "Something went wrong on our side. Try again.";
  const part = (name: string) => (typeof body[name] === "string" ? body[name] : "");
  return new Problem(status, text, part("where"), part("code"));
}

async function answered<T>(call: Promise<Answer<T>>): Promise<Answer<T>> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem(0, AWAY, "", "away");
  }
  if (!answer.response.ok) throw problemOf(answer.response.status, answer.error);
  return answer;
}

/** The body of an answer, or the problem thrown. */
export async function told<T>(call: Promise<Answer<T>>): Promise<T> {
  const { data, response, error } = await answered(call);
  if (data === undefined) throw problemOf(response.status, error);
  return data;
}

/** Waits for what answers without a body; the problem is thrown. */
export async function done(call: Promise<Answer<unknown>>): Promise<void> {
  await answered(call);
}
