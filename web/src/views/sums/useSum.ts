import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, Problem, type Schemas, unwrap } from "../../api/client";
import { sumHere, sumsHere } from "../../sync/core";

export type Sum = Schemas["Sum"];
export type Answer = Schemas["SumAnswer"];
export interface Worked {
  answer: Answer;
  /** Worked out by the core in this browser, because the site is away. */
  here: boolean;
}

const REST_MS = 70;
const PATIENCE_MS = 4000;

/** The site's answer, or this browser's when the site is away. */
async function orHere<T>(site: Promise<T>, here: () => Promise<T>): Promise<{ found: T; here: boolean }> {
  try {
    return { found: await site, here: false };
  } catch (error) {
    if (!(error instanceof Problem) || !error.isAway) throw error;
    return { found: await here(), here: true };
  }
}

/** Every sum with what it asks. */
export const useSums = () =>
  useQuery({
    queryKey: ["sums"],
    queryFn: async () => (await orHere(unwrap(client.GET("/api/sums", { signal: AbortSignal.timeout(PATIENCE_MS) })), sumsHere)).found,
    staleTime: Number.POSITIVE_INFINITY,
    networkMode: "always",
  });

/** What a sum still lacks before it can be worked out, by label. */
export const lacking = (sum: Sum, figures: Record<string, string>): string[] =>
  sum.asks.filter((ask) => ask.usual === null && !ask.optional && !figures[ask.name]?.trim()).map((ask) => ask.label);

/** A value that follows what is typed once the hand rests. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}

/** The answer to a sum as it is typed; the last one stands until the next is there. */
export function useAnswer(sum: Sum, figures: Record<string, string>) {
  const rested = useRested(figures);
  const whole = lacking(sum, rested).length === 0;
  return useQuery({
    queryKey: ["sum", sum.name, rested],
    queryFn: async ({ signal }): Promise<Worked> => {
      const asked = client.POST("/api/sums/{name}", {
        params: { path: { name: sum.name } },
        body: { figures: rested },
        signal: AbortSignal.any([signal, AbortSignal.timeout(PATIENCE_MS)]),
      });
      const { found, here } = await orHere(unwrap(asked), () => sumHere(sum.name, rested));
      return { answer: found, here };
    },
    enabled: whole,
    placeholderData: keepPreviousData,
    retry: false,
    networkMode: "always",
    staleTime: 30_000,
  });
}
