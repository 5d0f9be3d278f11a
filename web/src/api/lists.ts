/** Lists of the API, which are answered slice by slice: each slice with the cursor of the next. */

import { infiniteQueryOptions, type QueryKey, queryOptions } from "@tanstack/react-query";

/** What a list is asked for besides its search and filters. */
export interface Asked {
  limit: number;
  cursor: string;
}

interface Slice {
  items: unknown[];
  next: string | null;
}

type AskSlice<Answer extends Slice> = (asked: Asked) => Promise<Answer>;

/** The most rows of one answer. */
export const MOST = 200;
const SHOWN = 50;

/** A list to be shown slice by slice, with `More` below it: its answers so far. */
export const sliced = <Answer extends Slice>(queryKey: QueryKey, ask: AskSlice<Answer>, limit = SHOWN) =>
  infiniteQueryOptions({
    queryKey: [...queryKey, "slices"],
    queryFn: ({ pageParam }) => ask({ limit, cursor: pageParam }),
    initialPageParam: "",
    getNextPageParam: (last) => last.next,
  });

/** The rows of the answers so far. */
export const rowsOf = <Row>(data: { pages: { items: Row[] }[] } | undefined): Row[] => data?.pages.flatMap((slice) => slice.items) ?? [];

/** Every row of a list, for a choice among them. */
async function whole<Answer extends Slice>(ask: AskSlice<Answer>): Promise<Answer["items"]> {
  const rows: Answer["items"] = [];
  let cursor: string | null = "";
  while (cursor !== null) {
    const slice: Answer = await ask({ limit: MOST, cursor });
    rows.push(...slice.items);
    cursor = slice.next;
  }
  return rows;
}

/** A list of which every row is asked for. */
export const every = <Answer extends Slice>(queryKey: QueryKey, ask: AskSlice<Answer>) =>
  queryOptions({ queryKey, queryFn: () => whole(ask) });
