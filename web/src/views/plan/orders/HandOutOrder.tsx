import { WayOut } from "../../../parts/WayOut";
/** The ways in which an order goes out. */
export function HandOutOrder({ id }: { id: string }) {
  const at = `/api/plan/orders/${id}/order`;
  return (
    <div className="grid gap-2.5">
      <p role="status">Written down: the list counts on it.</p>
      <WayOut href={`${at}.txt`} opened>
        As text, to be sent
      </WayOut>
      <WayOut href={`${at}.pdf`} opened>
        Print it
      </WayOut>
      <WayOut href={`${at}.csv`}>As a table</WayOut>
    </div>
  );
}
