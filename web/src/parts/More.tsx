import { Button } from "./Button";

interface MoreProps {
  list: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => Promise<unknown> };
  children?: string;
}

/** Below a list that is shown slice by slice: fetches the next one, where there is one. */
export function More({ list, children = "Show more" }: MoreProps) {
  if (!list.hasNextPage) return null;
  return (
    <div className="flex justify-center py-2">
      <Button onClick={() => void list.fetchNextPage()} disabled={list.isFetchingNextPage}>
        {children}
      </Button>
    </div>
  );
}
