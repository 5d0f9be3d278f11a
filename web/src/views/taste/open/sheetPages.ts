/** The pages of a paper sheet, from the key of who pours: the same as on a phone, in the same order. */

import type { Schemas } from "../../../api/client";

type Asks = "odd" | "same" | "preferred" | "ranking" | "liking" | "attributes";

export interface PaperPage {
  turn: number;
  asks: Asks;
  codes: string[];
}

const ASKS = { triangle: "odd", same_different: "same", paired: "preferred", ranking: "ranking" } as const;

export function sheetPages(panel: Schemas["PanelOut"], key: Schemas["PouringOut"], seat: number): PaperPage[] {
  const sets = key.sets.filter((item) => item.seat === seat).sort((one, other) => one.round - other.round);
  const pages: Omit<PaperPage, "turn">[] = sets.flatMap(({ glasses }) => {
    const codes = glasses.map((glass) => glass.code);
    if (panel.method !== "scores") return [{ asks: ASKS[panel.method], codes }];
    const kinds: Asks[] = panel.design.attributes.length ? ["liking", "attributes"] : ["liking"];
    return codes.flatMap((code) => kinds.map((asks) => ({ asks, codes: [code] })));
  });
  return pages.map((page, n) => ({ ...page, turn: n + 1 }));
}
