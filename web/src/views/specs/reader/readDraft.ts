import { client, type SpecFile, unwrap } from "../../../api/client";
import { fromHereOr } from "../../../sync/core";

/** What is shown of a draft that was read, from this device's core or from the site. */
export const readDraft = (body: SpecFile) => ({
  queryKey: ["read-draft", body],
  queryFn: () => fromHereOr(() => unwrap(client.POST("/api/read-draft", { body: { spec: body } })), "read_draft", body),
  staleTime: Number.POSITIVE_INFINITY,
});
