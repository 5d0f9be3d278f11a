import type { Schemas, SpecFile } from "../../api/client";

type Body = Record<string, unknown>;

/**
 * The materials of a draft that are new here, by key: those that its file brought, and those of a text that somebody has said what they are. What is only taken as something
 * is a question still.
 */
export function materialsOf(read: Schemas["Understood"], draft: SpecFile): Record<string, Body> {
  const own = (draft as { materials?: Record<string, Body> }).materials ?? {};
  const brought = new Set(read.new_materials.map(({ key }) => key));
  const isNew = (key: string, body: Body) => (read.kind === "spec file" ? brought.has(key) : !body.taken_as);
  return Object.fromEntries(Object.entries(own).filter(([key, body]) => isNew(key, body)));
}
