/** The core in this browser: its worker, what it is asked, and whether it answers as the site would. Nothing is loaded before it is first wanted. */

import { proxy, type Remote, wrap } from "comlink";
import { Problem, type Schemas, type SpecFile } from "../api/client";
import { awaySince } from "../api/reach";
import { bundle } from "./bundle";
import type { CoreWorker } from "./core.worker";
import type { RunEvent } from "./event";
import type { PlainFlow, Workbench } from "./workbench";

interface Answer {
  ok?: unknown;
  refused?: { detail: string; where: string; code: string };
}

interface Started {
  core: Remote<CoreWorker>;
  /** Rejected when the worker breaks: its calls would wait for ever. */
  broken: Promise<never>;
}

let worker: Started | null = null;
/** The digest of the core here once it answers at once. */
let digest: string | null = null;
/** What the site's last evaluation was made with. */
let basis: Schemas["Basis"] | null = null;
/** The tag of the bundle that the worker has. */
let inUse: string | null = null;
let warming: Promise<void> | null = null;

function started(): Started {
  if (worker) return worker;
  const made = new Worker(new URL("./core.worker.ts", import.meta.url), { type: "module" });
  const broken = new Promise<never>((_, failed) => {
    made.addEventListener("error", () => {
      worker = digest = inUse = warming = null;
      failed(new Error("The core could not be started in this browser."));
    });
  });
  broken.catch(() => undefined);
  worker = { core: wrap<CoreWorker>(made), broken };
  return worker;
}

function unpacked(json: string): unknown {
  const { ok, refused } = JSON.parse(json) as Answer;
  if (refused) throw new Problem(422, refused.detail, refused.where, refused.code);
  return ok;
}

async function askHere(name: string, ...given: unknown[]): Promise<unknown> {
  const { core, broken } = started();
  return unpacked(await Promise.race([core.ask(name, JSON.stringify(given)), broken]));
}

async function warmed(): Promise<void> {
  const { core, broken } = started();
  const found = await Promise.race([core.digest(), broken]);
  await core.onPlainFlow(proxy((of: number, answer: string) => hears(of, answer)));
  // A browser that keeps nothing has the house from the site, or not at all.
  const kept = await bundle.kept().catch(() => undefined);
  // One of an earlier build that this core cannot read is as good as none.
  if (kept) await use(kept).catch(() => undefined);
  digest = found;
  if (basis) await follow(basis).catch(() => undefined);
}

/** Starts the core before it is first wanted, with the bundle that this device keeps. */
export function warmCore(): Promise<void> {
  warming ??= warmed().catch((error: unknown) => {
    warming = null;
    throw error;
  });
  return warming;
}

async function use(kept: { tag: string; body: Schemas["HouseBundle"] }): Promise<void> {
  await askHere("use_bundle", kept.body);
  inUse = kept.tag;
}

/** Whether the core in this browser answers at once. */
export const isCoreReady = (): boolean => digest !== null;

/** What the core here evaluates with; null while it does not answer. */
export const basisHere = (): Schemas["Basis"] | null => (digest !== null && inUse !== null ? { core: digest, bundle: inUse } : null);

/** Whether the core here gives what the site would: the same core, with the house as the site has it. While the site is away, as the device knows it. */
export function answersHere(): boolean {
  const here = basisHere();
  if (!here) return false;
  return awaySince() !== null || (basis?.core === here.core && basis.bundle === here.bundle);
}

/** What the site's evaluation was made with: where the house has changed since, its bundle is fetched before the core here answers again. */
export async function follow(told: Schemas["Basis"]): Promise<void> {
  basis = told;
  if (digest === null || basis.core !== digest || basis.bundle === inUse) return;
  const fresh = await bundle.fetched();
  if (fresh && basis.bundle === fresh.tag) await use(fresh);
}

let turn = 0;
let hears: (turn: number, answer: string) => void = () => undefined;

/**
 * Everything of a draft, evaluated here; `tell` has its plain flow before. Null where a newer draft is asked for meanwhile. Throws Problem for what the core
 * refuses.
 */
export async function draftHere(
  body: SpecFile,
  madeWithIt: readonly string[],
  tell: (plain: PlainFlow) => void,
): Promise<Workbench | null> {
  await warmCore();
  const { core, broken } = started();
  turn += 1;
  const mine = turn;
  hears = (of, answer) => {
    if (of === mine && mine === turn) tell(unpacked(answer) as PlainFlow);
  };
  const answer = await Promise.race([core.draft(mine, JSON.stringify([body, madeWithIt])), broken]);
  // It comes by another way, and may come late.
  if (mine === turn) hears = () => undefined;
  return answer === null || mine !== turn ? null : (unpacked(answer) as Workbench);
}

/** The site's answer; while it is away, that of the core here. */
export async function fromSiteOr<T>(site: () => Promise<T>, name: string, ...given: unknown[]): Promise<T> {
  try {
    return await site();
  } catch (error) {
    if (!(error instanceof Problem) || !error.isAway) throw error;
    await warmCore();
    return (await askHere(name, ...given)) as T;
  }
}

/** The answer of the core here where it gives what the site would; else the site's. */
export async function fromHereOr<T>(site: () => Promise<T>, name: string, ...given: unknown[]): Promise<T> {
  return answersHere() ? ((await askHere(name, ...given)) as T) : fromSiteOr(site, name, ...given);
}

/** Where a run stands, by the same fold as the site's. */
export async function foldHere(pinned: Schemas["OfflineOut"], events: readonly RunEvent[]): Promise<Schemas["RunResult"]> {
  await warmCore();
  return (await askHere("fold", pinned, events)) as Schemas["RunResult"];
}

/** The quick sums and what they ask, from the core in this browser. */
export async function sumsHere(): Promise<Schemas["Sum"][]> {
  await warmCore();
  return (await askHere("sums")) as Schemas["Sum"][];
}

/** A sum worked out in this browser, with the house's materials as this device knows them. */
export async function sumHere(name: string, figures: Record<string, string>): Promise<Schemas["SumAnswer"]> {
  await warmCore();
  return (await askHere("sum_up", name, figures)) as Schemas["SumAnswer"];
}
