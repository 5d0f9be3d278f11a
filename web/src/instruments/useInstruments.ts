import { useQuery } from "@tanstack/react-query";
import { useCallback, useState, useSyncExternalStore } from "react";
import { client, type Schemas, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { onNews } from "../sync/database";
import { InstrumentStream, type Shown } from "./stream";

let hub = "";
let ticket = "";

const stream = new InstrumentStream(async () => {
  const found = await unwrap(client.GET("/api/instruments"));
  hub = found.stream;
  ticket = found.ticket;
  return `${hub}/stream?ticket=${encodeURIComponent(ticket)}`;
});

// Another person has another ticket: it says what they may tell an instrument.
onNews((news) => {
  if (news === "who") void stream.renew();
});

const quiet = () => () => undefined;
const nothing: ReadonlyMap<string, Shown> = new Map();
const none = () => nothing;

export interface Instrument extends Pick<Schemas["InstrumentOut"], "id" | "name" | "kind" | "address"> {
  shown: Shown | null;
}

/** The house's instruments with what each shows now. Nothing is listened to where there is none. */
export function useInstruments(): { items: Instrument[]; hands: boolean } {
  const listed = useQuery(ask.instruments());
  const wanted = (listed.data?.items ?? []).some((item) => item.kind !== "label_printer");
  const shown = useSyncExternalStore(wanted ? stream.watch : quiet, wanted ? stream.now : none);
  return {
    items: (listed.data?.items ?? []).map((item) => ({ ...item, shown: shown.get(item.id) ?? null })),
    hands: listed.data?.hands ?? false,
  };
}

/** Tells an instrument something it knows: a scale to tare, a titrator to run. */
export async function tell(instrument: string, word: "tare" | "run"): Promise<void> {
  const asked = new URLSearchParams({ ticket, instrument, word });
  await fetch(`${hub}/tell?${asked}`, { method: "POST" }).catch(() => undefined);
}

const PICKED = "ulsek.scale";
const BY_ITSELF = "ulsek.moves-on";

/** The scale that stands on this bench, as this device was told; the only one, where there is only one. */
export function useScale() {
  const { items } = useInstruments();
  const [picked, setPicked] = useState(() => localStorage.getItem(PICKED) ?? "");
  const [byItself, setByItself] = useState(() => localStorage.getItem(BY_ITSELF) === "yes");
  const scales = items.filter((item) => item.kind === "scale");
  const scale = picked === "none" ? null : (scales.find((item) => item.id === picked) ?? (scales.length === 1 ? scales[0] : null) ?? null);
  const pick = useCallback((id: string) => {
    localStorage.setItem(PICKED, id);
    setPicked(id);
  }, []);
  const moveOn = useCallback((on: boolean) => {
    localStorage.setItem(BY_ITSELF, on ? "yes" : "no");
    setByItself(on);
  }, []);
  return { scale, scales, pick, byItself, moveOn };
}
