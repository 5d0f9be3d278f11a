import createClient, { type Middleware } from "openapi-fetch";
import { away, back } from "./reach";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Figure = Schemas["Range"];
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

const AWAY = "Ulsek cannot be reached just now. Nothing was changed there; try again when it is back.";

/** What the service worker writes on an answer that it had kept, since the site did not answer itself. */
export const KEPT = "x-ulsek-kept";

interface CookieStore {
  get: (name: string) => Promise<{ value: string } | null>;
}

/** A cookie that scripts may read; in the service worker, which has no document, from the browser's own store of them. */
async function cookie(name: string): Promise<string> {
  if (typeof document === "undefined") return (await (globalThis as { cookieStore?: CookieStore }).cookieStore?.get(name))?.value ?? "";
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const token: Middleware = {
  async onRequest({ request }) {
    if (request.method !== "GET") {
      request.headers.set("X-CSRFToken", await cookie("csrftoken"));
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
  await mustBeOnesOwn(request);
  const again = request.clone();
  const answer = await reached(request);
  if (answer.status !== 403 || !confirming) return answer;
  const { code } = (await answer
    .clone()
    .json()
    .catch(() => ({}))) as { code?: string };
  // What a PIN does not reach asks for the password, and is then done.
  return code === "password_wanted" && (await confirming()) ? reached(again) : answer;
}

let isOnesOwn: (() => Promise<boolean>) | null = null;

/** How the page knows whether the session that its requests carry is the one of whoever is at this device. */
export function onWrites(check: (() => Promise<boolean>) | null): void {
  isOnesOwn = check;
}

const CHANGES_PERSON = /^\/api\/(session|signed-actions)(\/|$)/;

/** Nothing is done in the name of who was here before. Throws Problem where somebody has taken over and the site has not confirmed them yet. */
async function mustBeOnesOwn(request: Request): Promise<void> {
  if (request.method === "GET" || !isOnesOwn || CHANGES_PERSON.test(new URL(request.url).pathname) || (await isOnesOwn())) return;
  throw new Problem(409, "Ulsek has not confirmed yet who is at this device. Nothing was done; try again in a moment.", "", "unconfirmed");
}

let confirming: (() => Promise<boolean>) | null = null;

/** How the page asks for the password of whoever changed by PIN; it answers whether the site took it. */
export function onPasswordWanted(ask: (() => Promise<boolean>) | null): void {
  confirming = ask;
}

/** The answer of the site, which is noted as away or there. */
async function reached(request: Request): Promise<Response> {
  try {
    const answer = await twice(request);
    if (answer.status >= 502 || answer.headers.has(KEPT)) away();
    else back();
    return answer;
  } catch (error) {
    // A question that was taken back says nothing of the site; one that nobody answered in time does.
    if ((error as Error).name !== "AbortError") away();
    throw error;
  }
}

async function twice(request: Request): Promise<Response> {
  const spare = request.clone();
  const first = await fetch(request).catch((error: unknown) => (navigator.onLine ? undefined : Promise.reject(error)));
  if (first && first.status !== 503) return first;
  await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
  return fetch(spare);
}

const client = createClient<paths>({ baseUrl: globalThis.location?.origin ?? "/", fetch: sent });
client.use(token);

export { client };

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

function problemOf(status: number, error: unknown): Problem {
  const body = (typeof error === "object" && error !== null ? error : {}) as Record<string, unknown>;
  const part = (name: string) => (typeof body[name] === "string" ? body[name] : "");
  const isAway = status >= 502 && (part("code") === "away" || !part("detail"));
  const text = isAway ? AWAY : part("detail") || "Something went wrong on our side. Try again.";
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

/** The body of an answer, or the problem thrown; what answers without a body is waited for by `expectOk`. */
export async function unwrap<T extends NonNullable<unknown>>(call: Promise<Answer<T>>): Promise<T> {
  const { data, response, error } = await answered(call);
  if (data === undefined) throw problemOf(response.status, error);
  return data;
}

/** Waits for what answers without a body; the problem is thrown. */
export async function expectOk(call: Promise<Answer<unknown>>): Promise<void> {
  await answered(call);
}
