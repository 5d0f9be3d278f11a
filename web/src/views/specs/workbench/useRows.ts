import { useLayoutEffect, useRef, useState } from "react";
import type { RowBox } from "../../../river/layout";

/** Tops and heights of the rows of a list, so that the river runs beside them. */
export function useRows(count: number) {
  const list = useRef<HTMLOListElement>(null);
  const [rows, setRows] = useState<RowBox[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new number of rows must be measured and watched again
  useLayoutEffect(() => {
    const element = list.current;
    if (!element) return;
    const measure = () => {
      const next = [...element.children].map((row) => ({
        top: (row as HTMLElement).offsetTop,
        height: (row as HTMLElement).offsetHeight,
      }));
      setRows((before) => (JSON.stringify(before) === JSON.stringify(next) ? before : next));
    };
    measure();
    const seen = new ResizeObserver(measure);
    for (const row of element.children) seen.observe(row);
    return () => seen.disconnect();
  }, [count]);
  return { list, rows };
}
