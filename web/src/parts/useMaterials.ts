import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { fromSiteOr } from "../sync/core";

interface Named {
  key: string;
  name: string;
  kind: string;
}

/** Materials that are called so: from the site, the house's own first; while it is away, those that this device knows. */
export const useMaterials = (find: string, enabled: boolean) =>
  useQuery({
    queryKey: ["materials", find],
    queryFn: (): Promise<readonly Named[]> =>
      fromSiteOr(async () => (await unwrap(client.GET("/api/materials", { params: { query: { find } } }))).items, "materials", find),
    enabled,
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });
