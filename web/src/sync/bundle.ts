/** The house's bundle as this device keeps it: what the core here needs to evaluate drafts as the site does. */

import { client, type Schemas } from "../api/client";
import { keepValue, value } from "./database";

/** A bundle with the tag that the site gave it. */
export interface KeptBundle {
  tag: string;
  body: Schemas["HouseBundle"];
}

const PATIENCE_MS = 8000;

export const bundle = {
  kept: (): Promise<KeptBundle | undefined> => value("bundle"),

  /** The bundle as the site has it now; it is sent only where it has changed. Undefined where the site does not answer. */
  async fetched(): Promise<KeptBundle | undefined> {
    const before = await value("bundle");
    const asked = client.GET("/api/house-bundle", {
      params: { header: before ? { "If-None-Match": `"${before.tag}"` } : {} },
      cache: "no-store",
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    const answer = await asked.catch(() => null);
    if (answer?.response.status === 304) return before;
    if (!answer?.data) return undefined;
    const fresh = { tag: answer.response.headers.get("ETag")?.replaceAll('"', "") ?? "", body: answer.data };
    // A device that is full goes on with the bundle of this page.
    await keepValue("bundle", fresh).catch(() => undefined);
    return fresh;
  },
};
