import { createContext, lazy, type ReactNode, Suspense, useContext, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { afterLoad } from "../../parts/afterLoad";
import { useKeys } from "../../parts/keys";
import { fromLink, type Wished } from "./link";

const load = () => import("./QuickSums");
const QuickSums = lazy(() => load().then((module) => ({ default: module.QuickSums })));
afterLoad(load);

interface Opener {
  /** Slides the sums up: one of them with figures in it, or all of them. */
  openSums: (wished?: Wished) => void;
}

const Context = createContext<Opener | null>(null);

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
      {wished ? (
        <Suspense fallback={null}>
          <QuickSums wished={wished} onClose={close} />
        </Suspense>
      ) : null}
    </Context>
  );
}

export function useQuickSums(): Opener {
  const found = useContext(Context);
  if (!found) throw new Error("useQuickSums stands outside the QuickSumsProvider");
  return found;
}
