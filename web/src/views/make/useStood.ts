import { useEffect, useState } from "react";

/** Whether something has stood as it is for `ms`. What changes under a hand that is on its way down cannot have been read by it. */
export function useStood(value: string, ms: number): boolean {
  const [stood, setStood] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setStood(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return stood === value;
}
