/** Asks the core in this browser: where a run stands, what a sum comes to, while the network is gone. Nothing is loaded before it is first wanted. */

import { Problem, type Schemas } from "../api/client";
import type { RunEvent } from "./event";

interface Answer {
  id: number;
  answer?: { ok?: unknown; refused?: { detail: string; where: string; code: string } };
  trouble?: string;
}

let worker: Worker | null = null;
let last = 0;
let ready = false;
const waiting = new Map<number, { done: (value: unknown) => void; failed: (error: Error) => void }>();

function started(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL("./core.worker.ts", import.meta.url), { type: "module" });
  worker.addEventListener("message", ({ data }: MessageEvent<Answer>) => {
    const asked = waiting.get(data.id);
    waiting.delete(data.id);
    ready = data.answer !== undefined;
    if (data.answer?.refused)
      asked?.failed(new Problem(422, data.answer.refused.detail, data.answer.refused.where, data.answer.refused.code));
    else if (data.answer) asked?.done(data.answer.ok);
    else asked?.failed(new Error(data.trouble));
  });
  worker.addEventListener("error", () => {
    for (const asked of waiting.values()) asked.failed(new Error("The core could not be started in this browser."));
    waiting.clear();
    worker = null;
    ready = false;
  });
  return worker;
}

function ask(what: "fold" | "sums" | "sum_up", ...given: unknown[]): Promise<unknown> {
  last += 1;
  const id = last;
  const texts = given.map((item) => JSON.stringify(item));
  return new Promise((done, failed) => {
    waiting.set(id, { done, failed });
    started().postMessage({ id, what, given: texts });
  });
}

/** Starts the core before it is first wanted. */
export async function warmCore(): Promise<void> {
  await ask("sums");
}

/** Whether the core in this browser answers at once. */
export const isCoreReady = (): boolean => ready;

/** Where a run stands, by the same fold as the site's. */
export const foldHere = (pinned: Schemas["OfflineOut"], events: readonly RunEvent[]) =>
  ask("fold", pinned, events) as Promise<Schemas["RunResult"]>;

/** The quick sums and what they ask, from the core in this browser. */
export const sumsHere = () => ask("sums") as Promise<Schemas["Sum"][]>;

/** A sum worked out in this browser: typical materials only, since what the house read stands on the site. */
export const sumHere = (name: string, figures: Record<string, string>) => ask("sum_up", name, figures) as Promise<Schemas["SumAnswer"]>;
