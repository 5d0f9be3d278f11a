import { createContext, type ReactNode, useContext, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { useKeys } from "../../app/keys";
import { QuickSums } from "./QuickSums";

/** A sum and the figures typed into it. */
export interface Wished {
  name: string;
  figures: Record<string, string>;
}

interface Opener {
  /** Slides the sums up: one of them with figures in it, or all of them. */
  openSums: (wished?: Wished) => void;
}

const Context = createContext<Opener | null>(null);

/** A link's sum: `?sum=acid_dose&s.volume=60`. */
function fromLink(): Wished | null {
  const asked = new URLSearchParams(window.location.search);
  const name = asked.get("sum");
  if (name === null) return null;
  const figures: Record<string, string> = {};
  for (const [key, value] of asked) if (key.startsWith("s.")) figures[key.slice(2)] = value;
  return { name, figures };
}

/** The link that opens a sum with its figures over the shift. */
export function linkTo({ name, figures }: Wished): string {
  const asked = new URLSearchParams({ sum: name });
  for (const [key, value] of Object.entries(figures)) if (value) asked.set(`s.${key}`, value);
  return `${window.location.origin}/shift?${asked}`;
}

/** Quick sums over every place: Q opens them, a shared link too. */
export function QuickSumsProvider({ children }: { children: ReactNode }) {
  const go = useNavigate();
  const [wished, setWished] = useState<Wished | null>(fromLink);
  const close = () => {
    setWished(null);
    // A reload must not open it again.
    if (fromLink()) void go(window.location.pathname, { replace: true });
  };
  const opener = useMemo<Opener>(() => ({ openSums: (next) => setWished(next ?? { name: "", figures: {} }) }), []);
  useKeys([{ key: "q", says: "quick sums", does: () => opener.openSums() }]);
  return (
    <Context value={opener}>
      {children}
      {wished ? <QuickSums wished={wished} onClose={close} /> : null}
    </Context>
  );
}

export function useQuickSums(): Opener {
  const found = useContext(Context);
  if (!found) throw new Error("useQuickSums stands outside the QuickSumsProvider");
  return found;
}
