import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import { Choice } from "../src/parts/Choice";
import { MomentField } from "../src/parts/MomentField";
import { NotFetched } from "../src/parts/Notice";

describe("what could not be fetched", () => {
  const question = (error: unknown, isFetching = false) => ({ error, isFetching, refetch: vi.fn() });

  it("is asked for again by a press, once for each that failed", () => {
    const [failed, fine] = [question(new Problem(500, "It broke.")), question(null)];
    render(<NotFetched questions={[fine, failed]} />);
    expect(screen.getByRole("alert").textContent).toContain("It broke.");
    fireEvent.click(screen.getByRole("button", { name: "Ask again" }));
    expect([failed.refetch, fine.refetch].map((asked) => asked.mock.calls.length)).toEqual([1, 0]);
  });

  it("is not asked for again where the answer will be the same, nor while it is asked", () => {
    const { rerender } = render(<NotFetched questions={[question(new Problem(404, "Nothing here."))]} />);
    expect(screen.queryByRole("button")).toBeNull();
    rerender(<NotFetched questions={[question(new Error("x"), true)]} />);
    expect(screen.getByRole("button", { name: "Asking …" })).toHaveProperty("disabled", true);
    rerender(<NotFetched questions={[question(null)]} />);
    expect(screen.queryByRole("alert")).toBeNull();
  });
});

it("a choice that nobody made yet says so", () => {
  const options = [{ value: "lemon", label: "Lemon" }];
  const { rerender } = render(<Choice label="Of" value="" options={options} onChange={() => undefined} />);
  expect(screen.getByRole("combobox", { name: "Of" }).textContent).toContain("choose …");
  rerender(<Choice label="Of" value="lemon" options={options} onChange={() => undefined} />);
  expect(screen.getByRole("combobox", { name: "Of" }).textContent).toContain("Lemon");
});

describe("a moment", () => {
  const order = () => screen.getAllByRole("spinbutton").map((part) => part.getAttribute("aria-label")?.split(",")[0]);

  it("stands in the order of the house and in 24 hours, with its weekday", () => {
    const { rerender } = render(<MomentField label="By" value="2026-11-29T22:05" locale="metric" onChange={() => undefined} />);
    expect(order()).toEqual(["day", "month", "year", "hour", "minute"]);
    expect(screen.getAllByRole("spinbutton").map((part) => part.textContent)).toEqual(["29", "11", "2026", "22", "05"]);
    expect(screen.getByText("Sunday")).toBeDefined();
    rerender(<MomentField label="By" value="2026-11-29T22:05" locale="us" onChange={() => undefined} />);
    expect(order().slice(0, 2)).toEqual(["month", "day"]);
  });

  it("is stepped by the arrow keys, and told what is wrong with it", () => {
    const onChange = vi.fn();
    render(<MomentField label="By" value="2026-11-29T22:05" locale="metric" onChange={onChange} fault="That has passed." />);
    fireEvent.keyDown(screen.getByRole("spinbutton", { name: /hour/ }), { key: "ArrowUp" });
    expect(onChange).toHaveBeenCalledWith("2026-11-29T23:05");
    expect(screen.getByRole("alert").textContent).toBe("That has passed.");
  });
});
