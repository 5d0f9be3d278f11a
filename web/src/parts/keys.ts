import { useEffect, useRef } from "react";

export interface KeyAction {
  key: string;
  says: string;
  does: () => void;
}

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName) || target.closest("[role=listbox]") !== null);

const inSheet = () => document.querySelector("[role=dialog]") !== null;

const shown: KeyAction[][] = [];

/** The keys of the present place, for the help sheet. */
export const presentKeys = (): KeyAction[] => shown.flat();

/** Keys of a place. They never fire while typing, nor behind an open sheet, nor with a modifier held. */
export function useKeys(actions: readonly KeyAction[]) {
  const latest = useRef(actions);
  latest.current = actions;
  useEffect(() => {
    const mine: KeyAction[] = [];
    shown.push(mine);
    const heard = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || typing(event.target) || inSheet()) return;
      // Space on a focused button presses that button, whatever the place would do with it.
      if (event.key === " " && event.target instanceof HTMLElement && event.target.closest("button, a, [role=slider]")) return;
      const action = latest.current.find((item) => item.key.toLowerCase() === event.key.toLowerCase());
      if (!action) return;
      event.preventDefault();
      action.does();
    };
    const listed = () => mine.splice(0, mine.length, ...latest.current);
    listed();
    document.addEventListener("keydown", heard);
    document.addEventListener("ulsek:list-keys", listed);
    return () => {
      document.removeEventListener("keydown", heard);
      document.removeEventListener("ulsek:list-keys", listed);
      shown.splice(shown.indexOf(mine), 1);
    };
  }, []);
}
