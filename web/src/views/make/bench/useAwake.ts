import { useEffect } from "react";

/** Keeps the screen on while a batch is on it, where the browser can. */
export function useAwake(wanted: boolean) {
  useEffect(() => {
    if (!wanted || !("wakeLock" in navigator)) return;
    let held: WakeLockSentinel | null = null;
    let gone = false;
    const take = async () => {
      try {
        held = await navigator.wakeLock.request("screen");
        if (gone) await held.release();
      } catch {
        // A low battery or a hidden page refuses; the bench goes on without it.
      }
    };
    const again = () => document.visibilityState === "visible" && void take();
    void take();
    document.addEventListener("visibilitychange", again);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", again);
      void held?.release();
    };
  }, [wanted]);
}
