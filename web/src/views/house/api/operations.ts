/** The operations of the API as its own description has them. */

import type { ApiDescription } from "../../../api/description";

export interface Operation {
  method: string;
  path: string;
  about: string;
  role: string;
  scripts: boolean;
}

/** The operations by what they are about, each part and its operations in the order of the description; those that hold every word that is looked for. */
export function operationsOf(description: ApiDescription, find: string): [string, Operation[]][] {
  const parts = new Map<string, Operation[]>();
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  for (const [path, methods] of Object.entries(description.paths ?? {})) {
    for (const [method, said] of Object.entries(methods)) {
      const found: Operation = {
        method: method.toUpperCase(),
        path,
        about: (said.description ?? said.summary ?? "").replaceAll(/\s+/g, " ").trim(),
        role: said["x-role"] ?? "",
        scripts: said["x-scripts"] ?? false,
      };
      const text = `${found.method} ${found.path} ${found.about} ${found.role}`.toLowerCase();
      if (!words.every((word) => text.includes(word))) continue;
      const part = said.tags?.[0] ?? "site";
      parts.set(part, [...(parts.get(part) ?? []), found]);
    }
  }
  return [...parts].sort(([one], [other]) => one.localeCompare(other));
}
