import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { client, KEPT, type Schemas, unwrap } from "./client";
import { type Asked, every, MOST, sliced } from "./lists";

/** What the library is asked for. */
export interface LibraryWish {
  find?: string;
  family?: string;
  state?: "" | "draft" | "published" | "trial" | "withdrawn";
  on_shelf?: boolean;
  /** By family and name, or the last made first. */
  order?: "family" | "made";
}

/** What the history is asked for: of one person, of one kind, from a day to another. */
export interface HistoryWish {
  find?: string;
  person?: number;
  action?: string;
  since?: string;
  until?: string;
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

const library = (wish: LibraryWish) => (asked?: Asked) => unwrap(client.GET("/api/specs", { params: { query: { ...wish, ...asked } } }));
const stock =
  (state: "open" | "gone", find = "") =>
  (asked: Asked) =>
    unwrap(client.GET("/api/stock", { params: { query: { state, find, ...asked } } }));

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
  ownSessions: () => every(["own", "sessions"], (query) => unwrap(client.GET("/api/own/sessions", { params: { query } }))),
  devices: () => every(["own", "devices"], (query) => unwrap(client.GET("/api/devices", { params: { query } }))),
  people: () => every(["own", "people"], (query) => unwrap(client.GET("/api/people", { params: { query } }))),
  /** Who has left the house. */
  peopleGone: () =>
    every(["own", "people", "left"], (query) => unwrap(client.GET("/api/people", { params: { query: { ...query, state: "left" } } }))),
  /** Invitations that nobody has used yet. */
  invitations: () =>
    every(["own", "invitations"], (query) => unwrap(client.GET("/api/invitations", { params: { query: { ...query, state: "open" } } }))),
  /** Everybody's practice with each published spec that is called so. */
  clearances: (find: string) => ({
    ...sliced(["own", "clearances", find], (asked) => unwrap(client.GET("/api/clearances", { params: { query: { find, ...asked } } }))),
    placeholderData: keepPreviousData,
  }),
  backup: () => queryOptions({ queryKey: ["own", "backup"], queryFn: () => unwrap(client.GET("/api/backup")) }),
  house: () => queryOptions({ queryKey: ["house"], queryFn: () => unwrap(client.GET("/api/house")) }),
  /** The rules of the house, table by table. */
  ruleSheet: () => queryOptions({ queryKey: ["rules", "sheet"], queryFn: () => unwrap(client.GET("/api/rules/sheet")) }),
  /** Tokens of scripts that hold. */
  tokens: () => every(["own", "tokens"], (query) => unwrap(client.GET("/api/tokens", { params: { query: { ...query, state: "open" } } }))),
  /** The description of the API that scripts ask. */
  apiDescription: () =>
    queryOptions({
      queryKey: ["api", "description"],
      queryFn: () => unwrap(client.GET("/api/openapi.json")),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  /** The group that the house is in. */
  group: () => queryOptions({ queryKey: ["own", "group"], queryFn: () => unwrap(client.GET("/api/group")) }),
  /** Every house of the group with what stands there, for who leads it. */
  groupHouses: () => queryOptions({ queryKey: ["own", "group", "houses"], queryFn: () => unwrap(client.GET("/api/group/houses")) }),
  /** Where a spec was copied from. */
  origin: (spec_id: string) =>
    queryOptions({
      queryKey: ["specs", "origin", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/origin", { params: { path: { spec_id } } })),
    }),
  /** The copies of a spec in other houses that follow it. */
  followers: (spec_id: string) =>
    queryOptions({
      queryKey: ["specs", "followers", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/followers", { params: { path: { spec_id } } })),
    }),
  /** The acts that answer to a wish, the newest first. */
  history: (wish: HistoryWish) => ({
    ...sliced(["own", "history", wish], (asked) => unwrap(client.GET("/api/history", { params: { query: { ...wish, ...asked } } }))),
    placeholderData: keepPreviousData,
  }),
  historyKinds: () => queryOptions({ queryKey: ["own", "history", "kinds"], queryFn: () => unwrap(client.GET("/api/history/kinds")) }),
  held: () => ({
    ...every(["held"], (query) => unwrap(client.GET("/api/signed-actions/held", { params: { query } }))),
    refetchInterval: 30_000,
  }),
  shift: () => queryOptions({ queryKey: ["shift"], queryFn: () => unwrap(client.GET("/api/shift")), refetchInterval: 15_000 }),
  /** Every delivery that stands in Stores. */
  stock: () => every(["stock", "open"], stock("open")),
  /** What most bars have, with whether this house has had it. */
  usualShelf: () => queryOptions({ queryKey: ["stock", "usual"], queryFn: () => unwrap(client.GET("/api/stock/usual")) }),
  /** The deliveries that are gone, the newest first. */
  goneStock: (find: string) => sliced(["stock", "gone", find], stock("gone", find), MOST),
  /** The first deliveries in Stores that are called so. */
  stockCalled: (find: string) =>
    queryOptions({
      queryKey: ["stock", "called", find],
      queryFn: () => unwrap(client.GET("/api/stock", { params: { query: { find } } })),
      placeholderData: keepPreviousData,
    }),
  words: () => queryOptions({ queryKey: ["words"], queryFn: () => unwrap(client.GET("/api/words")), staleTime: Number.POSITIVE_INFINITY }),
  /** Every spec that answers to a wish, for a choice among them. */
  specs: (wish: LibraryWish = {}) => every(["specs", "all", wish], library(wish)),
  /** The first specs that answer to a wish. */
  library: (wish: LibraryWish) =>
    queryOptions({ queryKey: ["specs", wish], queryFn: () => library(wish)(), placeholderData: keepPreviousData }),
  /** The specs that answer to a wish, slice by slice. */
  librarySlices: (wish: LibraryWish) => ({ ...sliced(["specs", wish], library(wish)), placeholderData: keepPreviousData }),
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
    every(["attachments", spec_id], (query) =>
      unwrap(client.GET("/api/specs/{spec_id}/attachments", { params: { path: { spec_id }, query } })),
    ),
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
  runSlices: () => sliced(["runs", "all"], (query) => unwrap(client.GET("/api/runs", { params: { query } }))),
  draft: (spec_id: string) =>
    queryOptions({
      queryKey: ["draft", spec_id],
      queryFn: () => unwrap(client.GET("/api/specs/{spec_id}/draft", { params: { path: { spec_id } } })),
      staleTime: Number.POSITIVE_INFINITY,
      gcTime: 0,
    }),
  versions: (spec_id: string) =>
    sliced(["versions", spec_id], (query) => unwrap(client.GET("/api/specs/{spec_id}/versions", { params: { path: { spec_id }, query } }))),
  openRuns: () => ({
    ...every(["runs", "open"], (asked) => unwrap(client.GET("/api/runs", { params: { query: { state: "open", ...asked } } }))),
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
  register: () => every(["register"], (query) => unwrap(client.GET("/api/register", { params: { query } }))),
  registerKinds: () =>
    queryOptions({
      queryKey: ["register", "kinds"],
      queryFn: () => unwrap(client.GET("/api/register/kinds")),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  material: (key: string) =>
    queryOptions({
      queryKey: ["materials", "file", key],
      queryFn: () => unwrap(client.GET("/api/materials/{key}", { params: { path: { key } } })),
    }),
  materialChoices: () => queryOptions({ queryKey: ["materials", "choices"], queryFn: () => unwrap(client.GET("/api/material-choices")) }),
  containers: () => every(["containers"], (query) => unwrap(client.GET("/api/containers", { params: { query } }))),
  rehearsal: (run_id: string, moment: number) =>
    queryOptions({
      queryKey: ["rehearsal", run_id, moment],
      queryFn: () => unwrap(client.GET("/api/runs/{run_id}/rehearsal", { params: { path: { run_id } } })),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  recentSums: () => queryOptions({ queryKey: ["sums", "recent"], queryFn: () => unwrap(client.GET("/api/sums/recent")) }),
  varieties: () => queryOptions({ queryKey: ["citrus", "varieties"], queryFn: () => unwrap(client.GET("/api/citrus/varieties")) }),
  cases: () => every(["citrus", "cases"], (query) => unwrap(client.GET("/api/citrus/cases", { params: { query } }))),
  citrusRecord: (fruit: string) =>
    queryOptions({
      queryKey: ["citrus", "record", fruit],
      queryFn: () => unwrap(client.GET("/api/citrus/record/{fruit}", { params: { path: { fruit } } })),
      enabled: fruit !== "",
    }),
  cutPlans: () => sliced(["citrus", "plans"], (query) => unwrap(client.GET("/api/citrus/plans", { params: { query } })), 6),
  citrusKeeps: () =>
    queryOptions({
      queryKey: ["citrus", "keeps"],
      queryFn: () => unwrap(client.GET("/api/citrus/keeps")),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  trials: () => sliced(["citrus", "trials"], (query) => unwrap(client.GET("/api/citrus/trials", { params: { query } }))),
  ledger: () => queryOptions({ queryKey: ["citrus", "ledger"], queryFn: () => unwrap(client.GET("/api/citrus/ledger")) }),
  panels: (find: string, state: "" | "planned" | "open" | "told") =>
    sliced(["panels", "list", find, state], (query) => unwrap(client.GET("/api/panels", { params: { query: { find, state, ...query } } }))),
  /** Panels that tasted a version of a spec, and are told. */
  panelsOfSpec: (spec: string) =>
    queryOptions({
      queryKey: ["panels", "spec", spec],
      queryFn: () => unwrap(client.GET("/api/panels", { params: { query: { spec, limit: MOST } } })),
    }),
  /** For each spec that was tasted the newest panel that is told. */
  panelsNewest: () => queryOptions({ queryKey: ["panels", "newest"], queryFn: () => unwrap(client.GET("/api/panels/newest")) }),
  /** Versions that were scored by tasters who knew what they drank. */
  scoredOpenly: (find: string) =>
    sliced(["panels", "openly", find], (query) => unwrap(client.GET("/api/panels/openly", { params: { query: { find, ...query } } }))),
  standards: () => sliced(["standards", "list"], (query) => unwrap(client.GET("/api/standards", { params: { query } }))),
  standard: (id: string) =>
    queryOptions({
      queryKey: ["standards", "one", id],
      queryFn: () => unwrap(client.GET("/api/standards/{standard_id}", { params: { path: { standard_id: id } } })),
    }),
  panel: (id: string) =>
    queryOptions({
      queryKey: ["panels", "one", id],
      queryFn: () => unwrap(client.GET("/api/panels/{panel_id}", { params: { path: { panel_id: id } } })),
    }),
  /** What a plan can show; the answer before stands until the next one is there. */
  beforehand: (plan: Schemas["BeforehandIn"]) =>
    queryOptions({
      queryKey: ["panels", "beforehand", plan],
      queryFn: () => unwrap(client.POST("/api/panels/beforehand", { body: plan })),
      placeholderData: keepPreviousData,
      retry: false,
    }),
  /** The key of an open panel, for who pours; kept nowhere. */
  pouring: (id: string) =>
    queryOptions({
      queryKey: ["panels", "pouring", id],
      queryFn: () => unwrap(client.GET("/api/panels/{panel_id}/pouring", { params: { path: { panel_id: id } }, cache: "no-store" })),
      gcTime: 0,
      retry: false,
    }),
  /** Today's list; it goes on with the clock. */
  planToday: () =>
    queryOptions({
      queryKey: ["plan", "today"],
      queryFn: () => unwrap(client.GET("/api/plan/today")),
      refetchInterval: 60_000,
    }),
  planMenu: (day: string) =>
    queryOptions({
      queryKey: ["plan", "menu", day],
      queryFn: () => unwrap(client.GET("/api/plan/menu", { params: { query: { day } } })),
      placeholderData: keepPreviousData,
    }),
  planAllergens: (day: string) =>
    queryOptions({
      queryKey: ["plan", "allergens", day],
      queryFn: () => unwrap(client.GET("/api/plan/allergens", { params: { query: { day } } })),
    }),
  planOrders: () => queryOptions({ queryKey: ["plan", "orders"], queryFn: () => unwrap(client.GET("/api/plan/orders")) }),
  planPars: () => queryOptions({ queryKey: ["plan", "pars"], queryFn: () => unwrap(client.GET("/api/plan/pars")) }),
  planDays: () => queryOptions({ queryKey: ["plan", "days"], queryFn: () => unwrap(client.GET("/api/plan/days")) }),
  planPeople: () => queryOptions({ queryKey: ["plan", "people"], queryFn: () => unwrap(client.GET("/api/plan/people")) }),
  planSuppliers: () => queryOptions({ queryKey: ["plan", "suppliers"], queryFn: () => unwrap(client.GET("/api/plan/suppliers")) }),
  /** Every lot that stands in the house. */
  everyLot: () => every(["lots", "every"], (query) => unwrap(client.GET("/api/lots", { params: { query } }))),
  /** Everything that is counted, in the order of the walk. */
  stocktake: () => queryOptions({ queryKey: ["stocktake"], queryFn: () => unwrap(client.GET("/api/stocktake")) }),
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
    every(["stock", stock_id, "events"], (query) =>
      unwrap(client.GET("/api/stock/{stock_id}/events", { params: { path: { stock_id }, query } })),
    ),
  crateTrace: (stock_id: string) =>
    queryOptions({
      queryKey: ["stock", stock_id, "trace"],
      queryFn: () => unwrap(client.GET("/api/stock/{stock_id}/trace", { params: { path: { stock_id } } })),
    }),
};
