import { useEffect, useRef } from "react";
import { useLocation, useNavigate } from "react-router";
import type { SpecStep } from "../../../api/client";

/** A quick sum sent its answer here as a step: it goes in once, and can be undone like any other. */
export function useSentStep(mayEdit: boolean, put: (step: Partial<SpecStep>) => void): void {
  const { state, pathname } = useLocation() as { state: { step?: Partial<SpecStep> } | null; pathname: string };
  const go = useNavigate();
  const latest = useRef(put);
  latest.current = put;
  const step = mayEdit ? state?.step : undefined;
  useEffect(() => {
    if (!step) return;
    latest.current(step);
    void go(pathname, { replace: true, state: null });
  }, [step, go, pathname]);
}
