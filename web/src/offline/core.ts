/** Asks the core in this browser: where a run stands while the network is gone. Nothing is loaded before it is first wanted. */

import { Problem, type Schemas } from "../api/client";
import type { RunEvent } from "./outbox";

interface Answer {
  id: number;
  answer?: { ok?: unknown; refused?: { detail: string; where: string; code: string } };
  trouble?: string;
}

let worker: Worker | null = null;
let last = 0;
const waiting = new Map<number, { done: (value: unknown) => void; failed: (error: Error) => void }>();

function started(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL("./core.worker.ts", import.meta.url), { type: "module" });
  worker.addEventListener("message", ({ data }: MessageEvent<Answer>) => {
    const asked = waiting.get(data.id);
    waiting.delete(data.id);
    if (data.answer?.refused)
      asked?.failed(new Problem(422, data.answer.refused.detail, data.answer.refused.where, data.answer.refused.code));
    else if (data.answer) asked?.done(data.answer.ok);
    else asked?.failed(new Error(data.trouble));
  });
  worker.addEventListener("error", () => {
    for (const asked of waiting.values()) asked.failed(new Error("The core could not be started in this browser."));
    waiting.clear();
    worker = null;
  });
  return worker;
}

function ask(...given: unknown[]): Promise<unknown> {
  last += 1;
  const id = last;
  const texts = given.map((item) => JSON.stringify(item));
  return new Promise((done, failed) => {
    waiting.set(id, { done, failed });
    started().postMessage({ id, given: texts });
  });
}

/** Where a run stands, by the same fold as the site's. */
export const foldHere = (pinned: Schemas["OfflineOut"], events: readonly RunEvent[]) => ask(pinned, events) as Promise<Schemas["StateOut"]>;
