// @vitest-environment node
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { expect, it } from "vitest";

const ROOT = join(import.meta.dirname, "../src");
const files = readdirSync(ROOT, { recursive: true, encoding: "utf-8" }).filter((name) => /\.tsx?$/.test(name));

/** Every folder with those that its files import from. */
function imports(): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const file of files) {
    const here = dirname(file);
    const into = found.get(here) ?? new Set();
    found.set(here, into);
    for (const [, path = ""] of readFileSync(join(ROOT, file), "utf-8").matchAll(/(?:from|import\() ?"(\.[^"]+)"/g)) {
      const there = relative(ROOT, dirname(join(ROOT, here, path)));
      if (there !== here) into.add(there);
    }
  }
  return found;
}

it("no folder imports from one that imports from it, at any distance", () => {
  const graph = imports();
  expect(graph.size).toBeGreaterThan(20);
  const reaches = (from: string, goal: string, seen = new Set<string>()): boolean =>
    [...(graph.get(from) ?? [])].some((next) => next === goal || (!seen.has(next) && seen.add(next) && reaches(next, goal, seen)));
  expect([...graph.keys()].filter((folder) => reaches(folder, folder))).toEqual([]);
});
