import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas, SpecFile, SpecStep } from "../src/api/client";
import { AmountEditor } from "../src/views/specs/workbench/AmountEditor";
import { begun } from "../src/views/specs/workbench/amounts";
import { benchKeys } from "../src/views/specs/workbench/benchKeys";
import { type Remark, remarksOf } from "../src/views/specs/workbench/remarks";
import { StepRow, type StepRowProps } from "../src/views/specs/workbench/StepRow";
import { remarksShown, stepViews } from "../src/views/specs/workbench/stepViews";
import { rowHeight, saveWords, walked } from "../src/views/specs/workbench/walking";

const remark = (where: string, severity = "check", code = "x", entry: unknown = null) =>
  ({ where, severity, code, text: `${severity} at ${where}`, remedy: "", entry }) as unknown as Remark;
const STEPS = [
  { id: "s1", verb: "combine", note: "cold" },
  { id: "s2", verb: "strain" },
] as unknown as SpecStep[];
const RESULT = {
  steps: [{ id: "s1", added: [{ line: "l", material: "quince_juice", mass_g: { value: 500 } }] }],
  words: { steps: { s1: "Weigh quince juice" }, lines: { l: "500 g" }, beside: {}, names: { quince_juice: "Quince juice" } },
  remarks: [
    remark("steps/s1"),
    remark("steps/s1/minutes"),
    remark("steps/s1/lines/l", "check", "open_doubt", { at: "l" }),
    remark("steps/s10"),
  ],
} as unknown as Schemas["Workbench"];

describe("the rows", () => {
  it("hold what is said and went in at their own step, and the verb where the core did not get so far", () => {
    const [first, second] = stepViews(STEPS, RESULT, RESULT.remarks, false);
    expect(first).toMatchObject({
      title: "Weigh quince juice",
      note: "cold",
      amounts: [{ name: "Quince juice", grams: 500, measured: "500 g", beside: "" }],
    });
    expect(second).toEqual({ id: "s2", title: "strain", note: "", amounts: [], remarks: [] });
    expect(first?.remarks.map((item) => item.where)).toEqual(["steps/s1", "steps/s1/minutes", "steps/s1/lines/l"]);
  });

  it("leave the fault of a field to that field where somebody edits, but not a doubt, which is ticked off here", () => {
    const [first] = stepViews(STEPS, RESULT, RESULT.remarks, true);
    expect(first?.remarks.map((item) => item.where)).toEqual(["steps/s1", "steps/s1/lines/l"]);
  });

  it("show a note only in hand, and the gravest remark first wherever it was found", () => {
    const view = { id: "s1", title: "", note: "", amounts: [], remarks: [remark("a", "note"), remark("b", "stop")] };
    expect([remarksShown(view, false).length, remarksShown(view, true).length]).toEqual([1, 2]);
    const all = remarksOf({ remarks: [remark("a", "note"), remark("b", "check")], by_others: [remark("c", "stop"), remark("d", "check")] });
    expect(all.map((item) => item.where)).toEqual(["c", "b", "d", "a"]);
  });

  it("are walked by arrows from end to end, and stand closer where they are many", () => {
    expect([
      walked(STEPS, null, 1),
      walked(STEPS, null, -1),
      walked(STEPS, "s1", 1),
      walked(STEPS, "s2", 1),
      walked(STEPS, "s1", -1),
    ]).toEqual(["s1", "s2", "s2", "s2", "s1"]);
    expect(walked([], null, 1)).toBeNull();
    expect(
      [rowHeight(true, true, 3), rowHeight(false, false, 14), rowHeight(false, false, 15), rowHeight(false, true, 3)].map(
        (words) => words.match(/\d+/)?.[0],
      ),
    ).toEqual(["300", "84", "64", "64"]);
  });
});

describe("a row", () => {
  const props = (more: Partial<StepRowProps> = {}): StepRowProps => {
    const [view] = stepViews(STEPS, RESULT, RESULT.remarks, true);
    if (!view) throw new Error("no row");
    return { view, number: 1, selected: false, mayEdit: true, onSelect: vi.fn(), onWorking: vi.fn(), edit: vi.fn(), ...more };
  };

  it("opens itself and the working of its amounts, and a doubt is ticked off by whoever may edit", () => {
    const given = props();
    render(<StepRow {...given} />);
    fireEvent.click(screen.getByRole("button", { name: /Weigh quince juice/ }));
    fireEvent.click(screen.getByRole("button", { name: /Quince juice: 500.g\. Show the working/ }));
    fireEvent.click(screen.getByRole("button", { name: /^Tick off: check at steps\/s1\/lines\/l/ }));
    expect(given.onSelect).toHaveBeenCalledWith("s1");
    expect(given.onWorking).toHaveBeenCalledWith("s1", "line:l");
    expect(given.edit).toHaveBeenCalledOnce();
  });

  it("offers whoever may not edit nothing to tick off, and hides its note behind its fields", () => {
    const { rerender } = render(<StepRow {...props({ mayEdit: false })} />);
    expect(screen.queryByRole("button", { name: /Tick off/ })).toBeNull();
    expect(screen.getByText("cold")).toBeDefined();
    rerender(<StepRow {...props({ selected: true })}>fields</StepRow>);
    expect([screen.queryByText("cold"), screen.getByText("fields").textContent?.includes("fields")]).toEqual([null, true]);
  });
});

describe("an amount", () => {
  const line = { id: "l", material: "white_sugar", amount: { kind: "ratio", to: { line: "juice" }, ratio: 0.6 } } as never;
  const body = {
    steps: [{ id: "s1", lines: [{ id: "juice", material: "quince_juice" }] }],
    vessels: [{ id: "pot", name: "pot" }],
  } as unknown as SpecFile;

  it("has the fields of its kind, and what is typed goes on as typed", () => {
    const edit = vi.fn();
    render(<AmountEditor line={line} body={body} names={{ white_sugar: "White sugar" }} edit={edit} fault="too much" />);
    const field = screen.getByLabelText("Ratio of White sugar");
    expect(screen.getByText("too much")).toBeDefined();
    fireEvent.change(field, { target: { value: "0,62" } });
    const changed = edit.mock.calls[0]?.[0]({ ...body, steps: [{ id: "s2", lines: [line] }] }) as SpecFile;
    expect(changed.steps?.[0]?.lines?.[0]?.amount).toMatchObject({ kind: "ratio", ratio: "0,62", to: { line: "juice" } });
    expect(screen.queryByLabelText("Percent of White sugar")).toBeNull();
  });

  it("of another kind begins empty, a ratio against what sets the batch", () => {
    expect(begun("ratio", "juice")).toEqual({ kind: "ratio", to: { line: "juice" }, basis: "weight", ratio: "" });
    expect(begun("target", "")).toMatchObject({ property: "acid_g_100ml", value: "" });
    expect([begun("all", ""), begun("state", ""), begun("fixed", "")]).toEqual([
      { kind: "all" },
      { kind: "state", state: "cover" },
      { kind: "fixed", written: "" },
    ]);
  });
});

it("the keys change nothing for whoever may not edit", () => {
  const deeds = {
    type: vi.fn(),
    addStep: vi.fn(),
    undo: vi.fn(),
    redo: vi.fn(),
    flag: vi.fn(),
    closeUp: vi.fn(),
    walk: vi.fn(),
    working: vi.fn(),
    fold: vi.fn(),
  };
  expect(benchKeys(false, deeds).map((item) => item.key)).toEqual(["z", "ArrowUp", "ArrowDown", "w", "Escape"]);
  for (const item of benchKeys(true, deeds)) item.does();
  for (const deed of Object.values(deeds)) expect(deed).toHaveBeenCalled();
  expect(deeds.walk.mock.calls).toEqual([[-1], [1]]);
});

it("what is said of saving names who saved, and where what is not saved is kept", () => {
  const at = "2026-11-25T09:30:00Z";
  expect(saveWords({ status: "saved", at, by: "Noor" }, "UTC")).toMatch(/^saved .*9:30.* by Noor$/);
  expect(saveWords({ status: "saved", at, by: "you" }, "UTC")).not.toContain(" by ");
  expect(saveWords({ status: "kept" }, "UTC")).toBe("kept on this device, waiting for Ulsek");
});
