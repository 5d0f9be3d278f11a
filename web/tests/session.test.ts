import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../src/api/client";
import type { Actor } from "../src/sync/database";

vi.mock("../src/session/SignIn", () => ({ SignIn: () => null }));
const { present } = await import("../src/session/session");

const session = (more: Partial<Schemas["Session"]>) =>
  ({ signed_in: true, person: 7, name: "Jonas", role: "lead", house: "Tern House", zone: "Europe/Berlin", ...more }) as Schemas["Session"];
const actor = (more: Partial<Actor> = {}) => ({
  person: 7,
  name: "Jonas",
  role: "lead",
  house: 3,
  signIn: "s",
  key: "k",
  claimed: false,
  since: 0,
  ...more,
});
const at = (who: Actor | null, closed = false, here: Schemas["Session"] | null = session({})) => ({ actor: who, closed, here });

describe("who is at this device", () => {
  it("is whom the site says", () => {
    expect(present(session({}), at(actor()))).toMatchObject({ name: "Jonas", claimed: false });
    expect(present(session({ signed_in: false }), at(actor()))).toBeNull();
  });

  it("is who claimed it without the network, as a maker at most, whatever the site still answers", () => {
    const noor = actor({ person: 8, name: "Noor", role: "maker", claimed: true });
    expect(present(session({}), at(noor))).toMatchObject({
      name: "Noor",
      person: 8,
      role: "maker",
      by_pin: true,
      claimed: true,
      house: "Tern House",
    });
  });

  it("is nobody once somebody has signed out here, whatever is kept", () => {
    expect(present(session({}), at(actor(), true))).toBeNull();
  });

  it("is who it was while the site is away, and nobody whom this device does not know", () => {
    expect(present(undefined, at(actor()))).toMatchObject({ name: "Jonas" });
    expect(present(undefined, at(actor({ person: 9 })))).toBeNull();
    expect(present(undefined, at(null))).toBeNull();
  });
});

it("says by whom a batch was made, and what shows it", async () => {
  const { whoDidIt } = await import("../src/views/make/sheets/WhoDidIt");
  const done = (by: string, proof: "" | "key" | "lead") => ({ by, proof, kind: "weighed" });
  const events = [
    { by: "Ilse M.", proof: "", kind: "started" },
    done("Jonas", "key"),
    done("Jonas", "lead"),
    done("Jonas", ""),
    done("Noor", ""),
    done("Pim", "key"),
  ];
  expect(whoDidIt(events as Parameters<typeof whoDidIt>[0])).toEqual([
    "Jonas 3 (1 accepted by a lead and 1 not signed)",
    "Noor 1 (not signed)",
    "Pim 1",
  ]);
});
