/** The river of a cut plan, from the cases on the left to the shelf on the right: every stream as wide as its grams, the bin last. */

export interface Flow {
  from: string;
  to: string;
  kind: string;
  grams: number;
}

export interface Bank {
  key: string;
  y: number;
  height: number;
  grams: number;
}

export interface Ribbon extends Flow {
  /** Its edges where it leaves and where it arrives, and how wide it is. */
  y0: number;
  y1: number;
  width: number;
}

const GAP = 12;
const LEAST = 3;
/** A bank's name and grams stand beside it in two lines: no two banks may lie closer than they need. */
const NAMED = 36;

/** Banks of both sides and the ribbons between them in a drawing `height` high; mass in is mass out on each side. */
export function across(flows: readonly Flow[], height: number): { left: Bank[]; right: Bank[]; ribbons: Ribbon[] } {
  const shown = flows.filter((flow) => flow.grams > 0.05);
  const keys = (side: "from" | "to") => [...new Set(shown.map((flow) => flow[side]))];
  const lefts = keys("from");
  // The bin lies at the bottom, wherever it was named.
  const rights = keys("to").sort((a, b) => Number(a === "bin") - Number(b === "bin"));
  const total = shown.reduce((sum, flow) => sum + flow.grams, 0);
  const most = Math.max(lefts.length, rights.length, 1);
  const scale = total ? Math.max(0, height - GAP * (most - 1)) / total : 0;
  const banks = (side: "from" | "to", order: readonly string[]): Bank[] => {
    let y = 0;
    return order.map((key) => {
      const grams = shown.filter((flow) => flow[side] === key).reduce((sum, flow) => sum + flow.grams, 0);
      const bank = { key, y, height: Math.max(LEAST, grams * scale), grams };
      y += Math.max(bank.height + GAP, NAMED);
      return bank;
    });
  };
  const left = banks("from", lefts);
  const right = banks("to", rights);
  const used = new Map<string, number>();
  const next = (side: string, bank: Bank | undefined, width: number) => {
    const at = used.get(side) ?? bank?.y ?? 0;
    used.set(side, at + width);
    return at;
  };
  const sorted = [...shown].sort((a, b) => rights.indexOf(a.to) - rights.indexOf(b.to) || lefts.indexOf(a.from) - lefts.indexOf(b.from));
  const ribbons = sorted.map((flow) => {
    const width = Math.max(1.5, flow.grams * scale);
    const y0 = next(
      `< ${flow.from}`,
      left.find((bank) => bank.key === flow.from),
      width,
    );
    const y1 = next(
      `> ${flow.to}`,
      right.find((bank) => bank.key === flow.to),
      width,
    );
    return { ...flow, y0, y1, width };
  });
  return { left, right, ribbons };
}
