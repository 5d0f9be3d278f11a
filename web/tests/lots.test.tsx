import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { LotActions } from "../src/views/lots/LotActions";
import { MayBePoured } from "../src/views/lots/MayBePoured";
import { actionsOn, type Lot, mayPour, saidOf } from "../src/views/lots/pour";
import { open, takes, withSite } from "./place";

const NOW = Date.parse("2026-11-28T20:00:00Z");
const lot = (over: object = {}): Lot =>
  ({
    code: "L0012",
    name: "Quince syrup",
    unit: "mL",
    what: "",
    standing: { state: "good", until: "2026-11-29T23:00:00Z" },
    use_by: "2026-11-29",
    use_by_reason: "5 days at 4 °C",
    gone_at: null,
    opened_at: null,
    ...over,
  }) as unknown as Lot;

describe("whether a bottle may be poured", () => {
  it.each([
    ["good as the core says", {}, "Good to pour", true],
    ["a by-product is used and not poured", { what: "pulp" }, "Good to use", true],
    ["past its hour since the core was asked", { standing: { state: "good", until: "2026-11-28T19:59:00Z" } }, "Do not pour", false],
    ["resting", { standing: { state: "resting", until: null } }, "Not ready yet", false],
    ["anything else", { standing: { state: "recalled", until: null } }, "Do not pour", false],
  ])("%s", (_, over, words, good) => expect(mayPour(lot(over), NOW)).toEqual({ words, good }));

  it("is read first, with every reason against it in words", () => {
    render(
      <MayBePoured lot={lot({ standing: { state: "withdrawn", until: null }, withdrawn: "too sharp", recalled: "glass" })} zone="UTC" />,
    );
    const said = screen.getByRole("region", { name: "May it be poured" }).textContent;
    for (const words of ["Do not pour", "Withdrawn: too sharp", "Recalled: glass", "Use by"]) expect(said).toContain(words);
  });
});

describe("what is done with a bottle", () => {
  withSite();

  it("is nothing once it is gone, and it is opened once", () => {
    expect(actionsOn(lot({ gone_at: "2026-11-28T00:00:00Z" }))).toEqual([]);
    expect(actionsOn(lot())).toContain("opened");
    expect(actionsOn(lot({ opened_at: "2026-11-28T00:00:00Z" }))).not.toContain("opened");
  });

  it("is sent with figures as numbers, and what is no figure as nothing", () => {
    expect(saidOf("decanted", { amount: "250", place: " rail " })).toEqual({ amount: 250, place: "rail" });
    expect(saidOf("used", { amount: "some" })).toEqual({ amount: null });
    expect(saidOf("opened", { amount: "250" })).toEqual({});
  });

  it("goes at once where nothing is asked, else after its question", async () => {
    const came = takes("/lots/L0012/events", {});
    open(<LotActions lot={lot()} />);
    fireEvent.click(await screen.findByRole("button", { name: "Open it" }));
    await waitFor(() => expect(came).toEqual([{ kind: "opened", body: {} }]));
    fireEvent.click(screen.getByRole("button", { name: "Top it up" }));
    expect(await screen.findByText(/takes the earlier date, all allergens/)).toBeDefined();
    fireEvent.change(screen.getByLabelText("Which lot is poured in"), { target: { value: "L0009" } });
    fireEvent.change(screen.getByLabelText("How much of it"), { target: { value: "300" } });
    fireEvent.submit(screen.getByRole("dialog").querySelector("form") as HTMLFormElement);
    await waitFor(() => expect(came[1]).toEqual({ kind: "topped_up", body: { from: "L0009", amount: 300 } }));
  });
});
