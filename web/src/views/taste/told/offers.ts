/** What a lead may decide after a panel, in words; the first follows from the verdict, and none of them is taken for them. */

import type { Schemas } from "../../../api/client";

const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

export function offers(panel: Schemas["PanelOut"]): string[] {
  // An old bottle against a young one asks about a date, not about a switch.
  if (panel.age) return ["The date stays", "Ask more people"];
  const [own = "", other = ""] = panel.samples.map((sample) => capital(sample.short));
  if (panel.aim === "difference") {
    const stays = `${own} stays`;
    return panel.is_shown ? [stays, `Switch to ${other} all the same`] : [stays, `Switch to ${other}`, "Ask more people"];
  }
  const order = panel.results?.standings.map((row) => capital(panel.samples[row.sample]?.short ?? "")) ?? [];
  const first = panel.aim === "preference" && panel.method === "paired" ? own : (order[0] ?? own);
  return [`${first} it is`, ...(first === own ? [`${other} instead`] : [`${own} stays`]), "Ask more people"];
}
