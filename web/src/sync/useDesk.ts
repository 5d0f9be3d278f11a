import { useEffect } from "react";
import { warmCore } from "./core";

interface Desk {
  start: () => void;
  stop: () => void;
  /** The core here answers from now on. */
  warmed: () => unknown;
}

/** Runs a desk while its page stands. After `warmAfterMs` the core is fetched and started: the page stands first. */
export function useDesk(desk: Desk, warmAfterMs: number): void {
  useEffect(() => {
    desk.start();
    const warm = async () => {
      await warmCore();
      desk.warmed();
    };
    const timer = setTimeout(() => void warm().catch(() => undefined), warmAfterMs);
    return () => {
      clearTimeout(timer);
      desk.stop();
    };
  }, [desk, warmAfterMs]);
}
