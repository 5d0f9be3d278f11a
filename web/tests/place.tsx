/** A place of the application over a stand-in for the site: its answers go over HTTP, and whoever is signed in passes the gate. */

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import { HttpResponse, http, type JsonBodyType } from "msw";
import { setupServer } from "msw/node";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterAll, afterEach, beforeAll } from "vitest";
import type { Schemas } from "../src/api/client";
import { SessionGate } from "../src/session/session";
import { QuickSumsProvider } from "../src/views/sums/useQuickSums";

const JONAS = {
  signed_in: true,
  person: 7,
  name: "Jonas",
  role: "maker",
  house: "Tern House",
  house_id: 3,
  id: "sign-in",
  zone: "Europe/Berlin",
  currency: "EUR",
  locale: "metric",
  beside: "nothing",
  altitude_m: 34,
  by_pin: false,
  has_pin: false,
  others: [],
  device: null,
} as unknown as Schemas["Session"];

const site = setupServer();

/** Starts the stand-in for the tests of a file; what nobody answers is an error there. */
export function withSite(): void {
  beforeAll(() => site.listen({ onUnhandledRequest: "error" }));
  afterEach(() => site.resetHandlers());
  afterAll(() => site.close());
}

/** Answers GETs of these paths, the latest call first. */
export function answers(told: Readonly<Record<string, JsonBodyType>>): void {
  site.use(...Object.entries(told).map(([path, body]) => http.get(`*/api${path}`, () => HttpResponse.json(body))));
}

/** Refuses a GET with a status, until `answers` says otherwise. */
export function fails(path: string, status: number, detail = "It broke."): void {
  site.use(http.get(`*/api${path}`, () => HttpResponse.json({ detail, code: "fault" }, { status })));
}

/** Takes POSTs of a path, and gives what came in them. */
export function takes(path: string, answer: JsonBodyType): unknown[] {
  const came: unknown[] = [];
  site.use(
    http.post(`*/api${path}`, async ({ request }) => {
      came.push(await request.json());
      return HttpResponse.json(answer);
    }),
  );
  return came;
}

/** Opens an element at a path, as somebody with a role. */
export function open(element: ReactNode, { at = "/", route = "/", role = "maker" } = {}): void {
  answers({ "/session": { ...JONAS, role } as unknown as JsonBodyType });
  // The device registers its signing key with whoever is here.
  takes("/session/key", { id: "key" });
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[at]}>
        <SessionGate>
          <QuickSumsProvider>
            <Routes>
              <Route path={route} element={element} />
            </Routes>
          </QuickSumsProvider>
        </SessionGate>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

/** An empty slice of a list. */
export const NOTHING = { items: [], next: null, total: 0 };
export const slice = (...items: object[]) => ({ items, next: null, total: items.length });
