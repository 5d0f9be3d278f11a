/** The operations of the API as its own description has them. */

import type { Schemas } from "../../../api/client";

export interface Operation {
  method: string;
  path: string;
  about: string;
  role: string;
  scripts: boolean;
}

const text = (value: unknown): string => (typeof value === "string" ? value : "");

/** What an operation is about: the first of its tags. */
const partOf = (tags: unknown): string => (Array.isArray(tags) ? text(tags[0]) : "") || "site";

/** The operations by what they are about, each part and its operations in the order of the description; those that hold every word that is looked for. */
export function operationsOf(description: Pick<Schemas["ApiDescription"], "paths">, find: string): [string, Operation[]][] {
  const parts = new Map<string, Operation[]>();
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  for (const [path, methods] of Object.entries(description.paths)) {
    for (const [method, said] of Object.entries(methods)) {
      const found: Operation = {
        method: method.toUpperCase(),
        path,
        about: (text(said.description) || text(said.summary)).replaceAll(/\s+/g, " ").trim(),
        role: text(said["x-role"]),
        scripts: said["x-scripts"] === true,
      };
      const whole = `${found.method} ${found.path} ${found.about} ${found.role}`.toLowerCase();
      if (!words.every((word) => whole.includes(word))) continue;
      const part = partOf(said.tags);
      parts.set(part, [...(parts.get(part) ?? []), found]);
    }
  }
  return [...parts].sort(([one], [other]) => one.localeCompare(other));
}
