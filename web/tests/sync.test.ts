// @vitest-environment node
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type Schemas } from "../src/api/client";
import { awaySince } from "../src/api/reach";
import { byPerson, waitingWords } from "../src/session/waitingWords";
import { canonical, toBytes, toText } from "../src/sync/bytes";
import { keepValue, nextSequence, value } from "../src/sync/database";
import { forgetPrivate, keepKey, keptKey, seal } from "../src/sync/keys";
import { NobodyHere, prune, refused, sendAgain, settle, waiting, waitingIn } from "../src/sync/queue";
import { forgetRuns, keepAlone, keepRun, keptRun } from "../src/sync/runs";
import { wayOf } from "../src/sync/sender";
import { does, done, emptied, no, RUN, site, sitsDown } from "./device";

const words = (items: readonly { what: string }[]) => items.map((item) => item.what);

beforeEach(emptied);

it("writes a value as the same bytes however it was put together", () => {
  expect(canonical({ b: [1, 0.1, 1e21, null], a: { é: "“x”\n", d: undefined } })).toBe('{"a":{"é":"“x”\\n"},"b":[1,0.1,1e+21,null]}');
  expect(toBytes(toText(Uint8Array.from([0, 250, 255, 62])))).toEqual(Uint8Array.from([0, 250, 255, 62]));
});

describe("what is done here", () => {
  it("is signed at once by whoever is at this device, with a key that never leaves it", async () => {
    const key = await sitsDown(7, "Jonas");
    await does("clear");
    const [item] = await waiting();
    if (!item || !key.private) throw new Error("nothing waits");
    expect(JSON.parse(item.text)).toMatchObject({
      person: 7,
      by: "Jonas",
      house: 3,
      key: key.id,
      subject: RUN,
      what: "clear",
      body: { kind: "noted" },
    });
    const point = await crypto.subtle.importKey("raw", toBytes(key.public), { name: "ECDSA", namedCurve: "P-256" }, true, ["verify"]);
    const check = (text: string) =>
      crypto.subtle.verify({ name: "ECDSA", hash: "SHA-256" }, point, toBytes(item.signature), new TextEncoder().encode(text));
    expect([await check(item.text), await check(item.text.replace("clear", "Clear"))]).toEqual([true, false]);
    await expect(crypto.subtle.exportKey("pkcs8", key.private)).rejects.toThrow();
  });

  it("stands in the order in which it was done, and is numbered once", async () => {
    await sitsDown(7, "Jonas");
    await Promise.all(["a", "b", "c", "d"].map((text) => does(text)));
    expect(words(await waiting())).toEqual(["a", "b", "c", "d"]);
    const numbers = await Promise.all(Array.from({ length: 30 }, nextSequence));
    expect(new Set(numbers).size).toBe(30);
  });

  it("is refused where nobody is here, and once they have gone", async () => {
    await expect(does("x")).rejects.toBeInstanceOf(NobodyHere);
    const key = await sitsDown(7, "Jonas");
    await forgetPrivate();
    expect((await keptKey(key.id))?.private).toBeUndefined();
    await expect(does("x")).rejects.toBeInstanceOf(NobodyHere);
    expect(await waiting()).toEqual([]);
  });
});

describe("the sender", () => {
  it("takes from the device only what the site has, whoever is here by then, each with its own certificate", async () => {
    await sitsDown(7, "Jonas");
    await does("Jonas's");
    await forgetPrivate();
    await sitsDown(9, "Pim");
    await does("Pim's");
    const { sender, sent } = site();
    await sender.poke();
    expect(sent[0]?.actions.map((item) => item.certificate)).toEqual(["certificate-7", "certificate-9"]);
    expect([await waiting(), await refused()]).toEqual([[], []]);
  });

  it.each([
    ["no answer", new Problem(0, "away"), "later"],
    ["500", new Problem(500, "fault"), "later"],
    ["503", new Problem(503, "away"), "later"],
    ["429", new Problem(429, "many"), "later"],
    ["a stale page", new Problem(403, "stale", "", "stale_page"), "later"],
    ["401", new Problem(401, "who"), "sign in"],
  ] as const)("keeps everything after %s, and sends it again", async (_, problem, way) => {
    await sitsDown(7, "Jonas");
    await does("a");
    let is = 0;
    const { sender } = site(async ({ actions }) => {
      is += 1;
      if (is === 1) throw problem;
      return { epoch: "one", answers: actions.map(() => done()), view: null };
    });
    await sender.poke();
    expect([words(await waiting()), sender.now().signedOut, awaySince() !== null]).toEqual([["a"], way === "sign in", way === "later"]);
    await sender.poke();
    expect([await waiting(), sender.now().signedOut, awaySince()]).toEqual([[], false, null]);
  });

  it.each([403, 404, 409, 422])("sets aside what is refused with %i for its person, and sends the others", async (status) => {
    await sitsDown(7, "Jonas");
    for (const text of ["a", "b", "c"]) await does(text);
    const { sender } = site(async () => ({ epoch: "one", answers: [done(), no(status), done()], view: null }));
    await sender.poke();
    expect([words(await waiting()), (await refused())[0]]).toMatchObject([[], { what: "b", refusal: { status, detail: `no ${status}` } }]);
    expect(sender.now().refused).toHaveLength(1);
  });

  it("sends less at once where it was too much, down to the one that is", async () => {
    await sitsDown(7, "Jonas");
    for (const text of ["a", "b", "large", "d"]) await does(text);
    const { sender } = site(async ({ actions }) => {
      if (actions.some((item) => item.text.includes("large"))) throw new Problem(413, "too long", "", "too_long");
      return { epoch: "one", answers: actions.map(() => done()), view: null };
    });
    await sender.poke();
    expect([await waiting(), words(await refused())]).toEqual([[], ["large"]]);
  });

  it.each([404, 405, 409])("takes a %i of the whole request for a fault on the way, and keeps everything", async (status) => {
    await sitsDown(7, "Jonas");
    for (const text of ["a", "b"]) await does(text);
    const { sender } = site(async () => Promise.reject(new Problem(status, "not this way")));
    await sender.poke();
    expect([words(await waiting()), await refused()]).toEqual([["a", "b"], []]);
  });

  it("sends what it has where a key cannot be told, and asks for a new token where the page's is stale", async () => {
    const key = await sitsDown(7, "Jonas");
    await keepKey({ ...key, certificate: "" });
    await does("a");
    const { sender, line, sent } = site();
    line.registerKey = async () => Promise.reject(new Problem(422, "too many keys"));
    await sender.poke();
    expect([sent[0]?.actions[0]?.certificate, await waiting()]).toEqual(["", []]);
    const fresh = vi.fn(async () => undefined);
    line.freshPage = fresh;
    line.endFirst = async () => Promise.reject(new Problem(403, "stale", "", "stale_page"));
    await sender.poke();
    expect(fresh).toHaveBeenCalledTimes(1);
  });

  it("keeps what an answer does not name, and what is held for a lead counts as there", async () => {
    await sitsDown(7, "Jonas");
    for (const text of ["a", "b"]) await does(text);
    let is = 0;
    const { sender } = site(async () => {
      is += 1;
      return { epoch: "one", answers: is === 1 ? [{ ...done(), outcome: "held" }] : [done()], view: null };
    });
    await sender.poke();
    expect([await waiting(), is]).toEqual([[], 2]);
  });

  it("sends again what the site had, once it was put back to an earlier moment", async () => {
    await sitsDown(7, "Jonas");
    await does("a");
    const first = site();
    await first.sender.poke();
    const restored = site(async ({ actions }) => ({ epoch: "two", answers: actions.map(() => done()), view: null }));
    restored.line.sync = async () => ({ epoch: "two", has_last: false, held: 0 });
    await restored.sender.poke();
    expect([restored.sent[0]?.actions.length, await waiting(), await value("epoch")]).toEqual([1, [], "two"]);
    expect(await sendAgain()).toBe(1);
    await settle((await waiting()).map((item) => ({ ...item, state: "done", doneAt: 1 })));
    await prune();
    expect(await sendAgain()).toBe(0);
  });

  it("sends what nobody signed for its own person alone", async () => {
    const plain = { person: 7, name: "Jonas", role: "maker", house: 3, signIn: "s", key: "", claimed: false, since: 0 };
    await keepValue("actor", plain);
    await does("unsigned");
    const { sender, sent } = site();
    await keepValue("actor", { ...plain, person: 9, name: "Pim" });
    await sender.poke();
    expect([sent, words(await waiting())]).toEqual([[], ["unsigned"]]);
    await keepValue("actor", plain);
    await sender.poke();
    expect(await waiting()).toEqual([]);
  });

  it("waits with what a claim signed until its PIN was right, or its person has gone", async () => {
    const key = await sitsDown(7, "Jonas", true);
    await keepKey({ ...key, claim: { sealed: "x" } });
    await does("claimed");
    const { sender, line, sent } = site();
    await sender.poke();
    expect([(await keptKey(key.id))?.claim?.wrong, sent]).toEqual(["That is not the PIN. 4 tries left.", []]);
    await keepKey({ ...key, claim: { sealed: "again" } });
    line.claim = async () => ({ id: key.id, certificate: "right", session: { signed_in: true, id: "s2" } as Schemas["Session"] });
    await sender.poke();
    expect([sent[0]?.actions[0]?.certificate, await value("actor")]).toMatchObject(["right", { claimed: false, signIn: "s2" }]);
    const other = await sitsDown(8, "Noor", true);
    await keepKey({ ...other, claim: { sealed: "x", wrong: "no" } });
    await does("nobody's");
    await sitsDown(9, "Pim");
    await sender.poke();
    expect(await waiting()).toEqual([]);
  });

  it("tries again by itself after a pause", async () => {
    await sitsDown(7, "Jonas");
    const answers = [new Problem(503, "away"), new Problem(0, "no network")];
    const { sender, sent } = site(async ({ actions }) => {
      const problem = answers.shift();
      if (problem) throw problem;
      return { epoch: "one", answers: actions.map(() => done()), view: null };
    });
    sender.start();
    await does("a");
    await vi.waitFor(async () => expect(await waiting()).toEqual([]), { timeout: 12_000, interval: 50 }).finally(() => sender.stop());
    expect([sent.length, awaySince()]).toEqual([3, null]);
  }, 15_000);

  it("ends the session of whoever signed out before anything else", async () => {
    await sitsDown(7, "Jonas");
    await does("a");
    const { sender, line, sent } = site();
    line.endFirst = async () => Promise.reject(new Problem(0, "away"));
    await sender.poke();
    expect(sent).toEqual([]);
  });
});

it("knows a way for every answer", () => {
  expect([0, 400, 401, 403, 404, 408, 409, 413, 422, 429, 500, 503].map((status) => wayOf(new Problem(status, ""), 1))).toEqual([
    ...["later", "refused", "sign in", "refused", "refused", "later", "refused", "refused", "refused", "later", "later", "later"],
  ]);
  expect(wayOf(new Problem(413, ""), 2)).toBe("smaller");
});

it("seals what only the site's key opens", async () => {
  const sites = await crypto.subtle.generateKey({ name: "ECDH", namedCurve: "P-256" }, true, ["deriveBits"]);
  const text = await seal(toText(await crypto.subtle.exportKey("raw", sites.publicKey)), { pin: "482915" });
  expect(toBytes(text).length).toBeGreaterThan(65 + 12 + 16);
  expect(atob(text.replaceAll("-", "+").replaceAll("_", "/"))).not.toContain("482915");
});

describe("the runs that this device knows", () => {
  const run = (id: string, lamport = 0, more: Partial<Schemas["RunOut"]> = {}) => {
    const known: Partial<Schemas["RunOut"]> = { id, lamport, events: [], rehearsal: false, shared: false, ...more };
    return known as Schemas["RunOut"];
  };
  const pinned = { core: "1", spec: {}, materials: {}, rules: {}, learned: {} } as Schemas["OfflineOut"];

  it("keeps what a run pinned, and works nothing out for one that it does not know", async () => {
    await keepRun(run("a", 1), pinned);
    await keepRun(run("a", 2), null);
    await keepAlone(run("a", 5));
    await keepAlone(run("never"));
    expect([await keptRun("a"), await keptRun("never")]).toMatchObject([{ pinned, run: { lamport: 2 }, alone: { lamport: 5 } }, undefined]);
  });

  it("makes room for the newest, and never at the cost of what waits", async () => {
    await sitsDown(7, "Jonas");
    await keepRun(run("unsent"), pinned);
    await does("x", "unsent");
    for (let n = 0; n < 30; n += 1) await keepRun(run(`r${n}`), pinned);
    expect([await keptRun("unsent"), await keptRun("r29"), await keptRun("r10")].map(Boolean)).toEqual([true, true, false]);
  });

  it("forgets at a switch what is one person's own, and everything at a sign-out; what waits stays", async () => {
    await sitsDown(7, "Jonas");
    await keepRun(run("house"), pinned);
    await keepRun(run("own", 1, { rehearsal: true }), pinned);
    await does("x", "house");
    await forgetRuns("rehearsals");
    expect([await keptRun("house"), await keptRun("own")].map(Boolean)).toEqual([true, false]);
    await forgetRuns("all");
    expect([await keptRun("house"), words(await waitingIn("house"))]).toEqual([undefined, ["x"]]);
  });
});

describe("what a screen says of the queue", () => {
  const item = (by: string, at: number) => ({ by, at }) as Parameters<typeof waitingWords>[0][number];
  it("names who, how many and how old", () => {
    const now = Date.UTC(2026, 10, 28, 18, 9);
    const items = [item("Jonas", now - 300_000), item("Jonas", now), item("Noor", now)];
    expect(waitingWords(items, now - 300_000, false, "Europe/Berlin", now)).toBe(
      "Without Ulsek since 19:04; 3 waiting: Jonas 2 and Noor 1, the oldest 5\u00a0min old.",
    );
    expect(waitingWords(items.slice(0, 1), null, true, "UTC", now)).toBe(
      "1 waiting: Jonas, the oldest 5\u00a0min old. Sign in, and they are sent; nothing is lost.",
    );
    expect(waitingWords([], null, false, "UTC", now)).toBe("");
    expect(byPerson([item("", 0)])).toBe("somebody");
  });
});
