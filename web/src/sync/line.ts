/** What the sender asks of the site, over HTTP. */

import { client, unwrap } from "../api/client";
import type { Line } from "./sender";
import { endFirst, registerKey } from "./who";

const patience = () => AbortSignal.timeout(8000);

export const line: Line = {
  endFirst,
  registerKey,
  freshPage: async () => {
    await unwrap(client.GET("/api/session", { cache: "no-store", signal: patience() }));
  },
  sync: (last) => unwrap(client.GET("/api/sync", { params: { query: { last } }, cache: "no-store", signal: patience() })),
  carry: (body) => unwrap(client.POST("/api/signed-actions", { body, signal: patience() })),
  claim: (body) => unwrap(client.POST("/api/session/claims", { body, signal: patience() })),
};
