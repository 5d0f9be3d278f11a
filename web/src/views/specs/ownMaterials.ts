import type { Schemas } from "../../api/client";

type Body = Record<string, unknown>;

/** The materials of a spec file that are new here, by key, as the file has them. */
export function materialsOf(read: Schemas["Understood"]): Record<string, Body> {
  const own = (read.body as { materials?: Record<string, Body> }).materials ?? {};
  return Object.fromEntries(
    read.new_materials.flatMap(({ key }) => {
      const body = own[key];
      return body ? [[key, body] as const] : [];
    }),
  );
}
