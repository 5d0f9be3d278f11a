import { useEffect, useState } from "react";

/** Returns true once a value has been the same for `ms`. What changes under a hand that is on its way down cannot have been read by it. */
export function useShownFor(value: string, ms: number): boolean {
  const [shownLong, setShown] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setShown(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return shownLong === value;
}
