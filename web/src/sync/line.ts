/** What the sender asks of the site, over HTTP. */

import { client, told } from "../api/client";
import type { Line } from "./sender";
import { endFirst, registerKey } from "./who";

const patience = () => AbortSignal.timeout(8000);

export const line: Line = {
  endFirst,
  registerKey,
  freshPage: async () => {
    await told(client.GET("/api/session", { cache: "no-store", signal: patience() }));
  },
  sync: (last) => told(client.GET("/api/sync", { params: { query: { last } }, cache: "no-store", signal: patience() })),
  carry: (body) => told(client.POST("/api/signed-actions", { body, signal: patience() })),
  claim: (body) => told(client.POST("/api/session/claims", { body, signal: patience() })),
};
