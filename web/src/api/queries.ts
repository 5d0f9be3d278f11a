import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, KEPT, type Schemas, unwrap } from "./client";

/** What the library is asked for. */
export interface LibraryWish {
  find: string;
  family: string;
  state: string;
  on_shelf: boolean;
  page: number;
}

/** How a card is wanted. */
export interface CardWish {
  language: string;
  number?: number;
  volume_ml?: number;
  serves?: number;
  have_g?: number;
  times?: number;
  beside?: "nothing" | "volume" | "cups";
  chosen?: string;
}

/** The two sides of a comparison: spec and version, or “draft”. */
export interface Sides {
  left: string;
  left_version: string;
  right: string;
  right_version: string;
}

/** Every question that a screen asks of the server, with its key. */
export const ask = {
  /** Who is signed in; `kept` where the service worker answered, since the site did not. */
  session: () =>
    queryOptions({
      queryKey: ["session"],
      queryFn: async (): Promise<Schemas["Session"] & { kept?: boolean }> => {
        const asked = await client.GET("/api/session");
        return { ...(await unwrap(Promise.resolve(asked))), kept: asked.response.headers.has(KEPT) };
      },
      staleTime: 60_000,
    }),
  ownSessions: () => queryOptions({ queryKey: ["own", "sessions"], queryFn: () => unwrap(client.GET("/api/own/sessions")) }),
  devices: () => queryOptions({ queryKey: ["own", "devices"], queryFn: () => unwrap(client.GET("/api/devices")) }),
  people: () => queryOptions({ queryKey: ["own", "people"], queryFn: () => unwrap(client.GET("/api/people")) }),
  held: () => queryOptions({ queryKey: ["held"], queryFn: () => unwrap(client.GET("/api/signed-actions/held")), refetchInterval: 30_000 }),
  shift: () => queryOptions({ queryKey: ["shift"], queryFn: () => unwrap(client.GET("/api/shift")), refetchInterval: 15_000 }),
  /** What stands in Stores; or what is gone; or what is called so. */
  stock: (gone = false, find = "") =>
    queryOptions({
      queryKey: ["stock", { gone, find }],
      queryFn: () => unwrap(client.GET("/api/stock", { params: { query: { gone, find } } })),
      placeholderData: keepPreviousData,
    }),
  materials: (find: string) =>
    queryOptions({
      queryKey: ["materials", find],
      queryFn: () => unwrap(client.GET("/api/materials", { params: { query: { find } } })),
      placeholderData: keepPreviousData,
      staleTime: 60_000,
    }),
  words: () => queryOptions({ queryKey: ["words"], queryFn: () => unwrap(client.GET("/api/words")), staleTime: Number.POSITIVE_INFINITY }),
  specs: () => queryOptions({ queryKey: ["specs"], queryFn: () => unwrap(client.GET("/api/specs")) }),
  library: (wish: LibraryWish) =>
    queryOptions({
      queryKey: ["specs", wish],
      queryFn: () => unwrap(client.GET("/api/specs", { params: { query: wish } })),
      placeholderData: keepPreviousData,
    }),
  schools: (family: string) =>
    queryOptions({
      queryKey: ["schools", family],
      queryFn: () => unwrap(client.GET("/api/families/{family}/schools", { params: { path: { family } } })),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  tree: (spec_id: string) =>
    queryOptions({
      queryKey: ["specs", "tree", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/tree", { params: { path: { spec_id } } })),
    }),
  card: (spec_id: string, asked: CardWish) =>
    queryOptions({
      queryKey: ["card", spec_id, asked],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/card", { params: { path: { spec_id }, query: asked } })),
      placeholderData: keepPreviousData,
      retry: false,
    }),
  /** What may be said of allergens, through every prep and shared gear, and the drinks that it goes into. */
  allergens: (spec_id: string) =>
    queryOptions({
      queryKey: ["allergens", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/allergens", { params: { path: { spec_id } } })),
      staleTime: 60_000,
      retry: false,
    }),
  reading: (spec_id: string, number: number) =>
    queryOptions({
      queryKey: ["reading", spec_id, number],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/versions/{number}/reading", { params: { path: { spec_id, number } } })),
    }),
  compare: (sides: Sides) =>
    queryOptions({
      queryKey: ["compare", sides],
      queryFn: () => unwrap(client.GET("/api/compare", { params: { query: sides } })),
      placeholderData: keepPreviousData,
    }),
  attachments: (spec_id: string) =>
    queryOptions({
      queryKey: ["attachments", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/attachments", { params: { path: { spec_id } } })),
    }),
  startBy: (spec_id: string, at: string) =>
    queryOptions({
      queryKey: ["start-by", spec_id, at],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/start-by", { params: { path: { spec_id }, query: { at } } })),
      enabled: at !== "",
      retry: false,
    }),
  runs: (find = "") =>
    queryOptions({
      queryKey: ["runs", "all", find],
      queryFn: () => unwrap(client.GET("/api/runs", { params: { query: { find } } })),
      placeholderData: keepPreviousData,
    }),
  draft: (spec_id: string) =>
    queryOptions({
      queryKey: ["draft", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/draft", { params: { path: { spec_id } } })),
      staleTime: Number.POSITIVE_INFINITY,
      gcTime: 0,
    }),
  versions: (spec_id: string) =>
    queryOptions({
      queryKey: ["versions", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/versions", { params: { path: { spec_id } } })),
    }),
  openRuns: () =>
    queryOptions({
      queryKey: ["runs", "open"],
      queryFn: () => unwrap(client.GET("/api/runs", { params: { query: { open_only: true } } })),
      refetchInterval: 20_000,
    }),
  run: (run_id: string) =>
    queryOptions({
      queryKey: ["run", run_id],
      queryFn: () => unwrap(client.GET("/api/runs/{run_id}", { params: { path: { run_id } } })),
    }),
  /** What a run's lines can be taken from; asked again with every event, since each weighing takes from it. */
  supplies: (run_id: string, moment: number) =>
    queryOptions({
      queryKey: ["supplies", run_id, moment],
      queryFn: () => unwrap(client.GET("/api/runs/{run_id}/supplies", { params: { path: { run_id } } })),
      placeholderData: keepPreviousData,
      retry: false,
    }),
  instruments: () => queryOptions({ queryKey: ["instruments"], queryFn: () => unwrap(client.GET("/api/instruments")), staleTime: 300_000 }),
  duty: () => queryOptions({ queryKey: ["duty"], queryFn: () => unwrap(client.GET("/api/duty")) }),
  containers: () => queryOptions({ queryKey: ["containers"], queryFn: () => unwrap(client.GET("/api/containers")) }),
  rehearsal: (run_id: string, moment: number) =>
    queryOptions({
      queryKey: ["rehearsal", run_id, moment],
      queryFn: () => unwrap(client.GET("/api/runs/{run_id}/rehearsal", { params: { path: { run_id } } })),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  recentSums: () => queryOptions({ queryKey: ["sums", "recent"], queryFn: () => unwrap(client.GET("/api/sums/recent")) }),
  varieties: () => queryOptions({ queryKey: ["citrus", "varieties"], queryFn: () => unwrap(client.GET("/api/citrus/varieties")) }),
  cases: () => queryOptions({ queryKey: ["citrus", "cases"], queryFn: () => unwrap(client.GET("/api/citrus/cases")) }),
  citrusRecord: (fruit: string) =>
    queryOptions({
      queryKey: ["citrus", "record", fruit],
      queryFn: () => unwrap(client.GET("/api/citrus/record/{fruit}", { params: { path: { fruit } } })),
      enabled: fruit !== "",
    }),
  cutPlans: () => queryOptions({ queryKey: ["citrus", "plans"], queryFn: () => unwrap(client.GET("/api/citrus/plans")) }),
  citrusKeeps: () =>
    queryOptions({
      queryKey: ["citrus", "keeps"],
      queryFn: () => unwrap(client.GET("/api/citrus/keeps")),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  trials: () => queryOptions({ queryKey: ["citrus", "trials"], queryFn: () => unwrap(client.GET("/api/citrus/trials")) }),
  ledger: () => queryOptions({ queryKey: ["citrus", "ledger"], queryFn: () => unwrap(client.GET("/api/citrus/ledger")) }),
  lots: (find = "") =>
    queryOptions({
      queryKey: ["lots", find],
      queryFn: () => unwrap(client.GET("/api/lots", { params: { query: { find } } })),
      placeholderData: keepPreviousData,
    }),
  lot: (code: string) =>
    queryOptions({
      queryKey: ["lot", code],
      queryFn: () => unwrap(client.GET("/api/lots/{code}", { params: { path: { code } } })),
    }),
  lotTrace: (code: string) =>
    queryOptions({
      queryKey: ["lot", code, "trace"],
      queryFn: () => unwrap(client.GET("/api/lots/{code}/trace", { params: { path: { code } } })),
    }),
  stockEvents: (stock_id: string) =>
    queryOptions({
      queryKey: ["stock", stock_id, "events"],
      queryFn: () => unwrap(client.GET("/api/stock/{stock_id}/events", { params: { path: { stock_id } } })),
    }),
  crateTrace: (stock_id: string) =>
    queryOptions({
      queryKey: ["stock", stock_id, "trace"],
      queryFn: () => unwrap(client.GET("/api/stock/{stock_id}/trace", { params: { path: { stock_id } } })),
    }),
};
