import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { ask } from "../api/queries";

export type Entry = Schemas["RegisterOut"];

/** What the house has written into its register of one kind, by name; nothing while that is not known. */
export function useRegister(kind: string): Entry[] {
  return useQuery(ask.register()).data?.filter((entry) => entry.kind === kind) ?? [];
}
