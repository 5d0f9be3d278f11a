import type { Schemas } from "../../../api/client";

/** The name of whoever sat on a seat. */
export const tasterName = (panel: Schemas["PanelOut"], seat: number) =>
  panel.seats.find((item) => item.number === seat)?.name ?? `seat ${seat}`;
