// @vitest-environment node
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { onWrites, sent } from "../src/api/client";

let server: Server;
beforeEach(() => void vi.stubGlobal("navigator", { onLine: true }));
afterEach(() => new Promise((closed) => server.close(closed)));

/** A site whose answers are what `statuses` say, one after the other; 0 hangs up. Returns its address and the ids that it was sent. */
async function site(...statuses: number[]): Promise<[string, string[]]> {
  const ids: string[] = [];
  server = createServer((request, answer) => {
    ids.push(String(request.headers["idempotency-key"]));
    const status = statuses[Math.min(ids.length, statuses.length) - 1];
    if (!status) request.socket.destroy();
    else answer.writeHead(status).end(String(status));
  });
  await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
  return [`http://127.0.0.1:${(server.address() as AddressInfo).port}/api/stock`, ids];
}

const post = (address: string) => new Request(address, { method: "POST", body: "{}", headers: { "Idempotency-Key": "one-of-mine" } });

it.each([[0], [503]])("sends what had no answer (%i) once more, with the same id", async (status) => {
  const [address, ids] = await site(status, 201);
  expect((await sent(post(address))).status).toBe(201);
  expect(ids).toEqual(["one-of-mine", "one-of-mine"]);
});

it("sends what was answered once, refusals too, and gives up after the second", async () => {
  const [address, ids] = await site(422, 503);
  expect((await sent(post(address))).status).toBe(422);
  expect(ids).toHaveLength(1);
  expect((await sent(post(address))).status).toBe(503);
  expect(ids).toHaveLength(3);
});

it("does nothing in the name of who was here before, and lets who is here now be confirmed", async () => {
  const [address, ids] = await site(200);
  onWrites(async () => false);
  await expect(sent(post(address))).rejects.toMatchObject({ code: "unconfirmed" });
  expect(ids).toEqual([]);
  for (const path of ["session/claims", "session", "signed-actions"]) await sent(post(address.replace("stock", path)));
  await sent(new Request(address));
  onWrites(async () => true);
  await sent(post(address));
  onWrites(null);
  expect(ids).toHaveLength(5);
});
