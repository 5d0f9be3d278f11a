import { lazy, Suspense, useRef } from "react";
import { afterLoad } from "./afterLoad";
import type { SheetProps } from "./SheetBody";

const load = () => import("./SheetBody");
const SheetBody = lazy(() => load().then((module) => ({ default: module.SheetBody })));
afterLoad(load);

/** A sheet that unrolls over the place. What it is made of is fetched once the page stands, or when the first one opens. */
export function Sheet(props: SheetProps) {
  const wasOpen = useRef(props.open);
  if (props.open) wasOpen.current = true;
  if (!wasOpen.current) return null;
  return (
    <Suspense fallback={null}>
      <SheetBody {...props} />
    </Suspense>
  );
}
