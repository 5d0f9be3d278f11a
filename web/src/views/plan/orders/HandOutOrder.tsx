const WAY =
  "inline-flex min-h-14 items-center justify-center rounded-xl border border-rim px-4 text-[17px] font-semibold text-rim hover:bg-pick";

/** The ways in which an order goes out. */
export function HandOutOrder({ id }: { id: string }) {
  const at = `/api/plan/orders/${id}/order`;
  return (
    <div className="grid gap-2.5">
      <p role="status">Written down: the list counts on it.</p>
      <a className={WAY} href={`${at}.txt`} target="_blank" rel="noreferrer">
        As text, to be sent
      </a>
      <a className={WAY} href={`${at}.pdf`} target="_blank" rel="noreferrer">
        Print it
      </a>
      <a className={WAY} href={`${at}.csv`}>
        As a table
      </a>
    </div>
  );
}
