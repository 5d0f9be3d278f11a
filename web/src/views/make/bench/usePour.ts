import { useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../../api/client";

const RUN_ON_MS = 700;
/** As often as a real scale says what it shows. */
const EVERY_MS = 100;

export interface Pour {
  value: number;
  pouring: boolean;
  steady: boolean;
  empty: boolean;
  toggle: () => void;
  reset: () => void;
}

/** A rehearsed pour: it runs while it is wanted, some runs on after that, and the jar may be too small. The figures come from the core. */
export function usePour(pour: Schemas["Pour"] | null, key: string): Pour {
  const [value, setValue] = useState(0);
  const [pouring, setPouring] = useState(false);
  const [settling, setSettling] = useState(false);
  const poured = useRef(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another line begins at nothing.
  useEffect(() => {
    poured.current = 0;
    setValue(0);
    setPouring(false);
    setSettling(false);
  }, [key]);
  useEffect(() => {
    if (!pour || (!pouring && !settling)) return;
    const began = performance.now();
    const from = poured.current;
    const most = Math.max(0, pour.jar_g - from);
    const timer = setInterval(() => {
      const ms = performance.now() - began;
      const more = pouring ? (pour.rate_g_s * ms) / 1000 : pour.runs_on_g * Math.min(1, ms / RUN_ON_MS);
      poured.current = from + Math.min(most, more);
      setValue(poured.current);
      if (pouring && more >= most) setPouring(false);
      if (settling && ms >= RUN_ON_MS) setSettling(false);
    }, EVERY_MS);
    return () => clearInterval(timer);
  }, [pour, pouring, settling]);
  const toggle = useCallback(() => {
    setPouring((on) => {
      setSettling(on);
      return !on;
    });
  }, []);
  const reset = useCallback(() => {
    poured.current = 0;
    setValue(0);
  }, []);
  return { value, pouring, steady: !pouring && !settling && value > 0, empty: pour !== null && value >= pour.jar_g - 1e-6, toggle, reset };
}
