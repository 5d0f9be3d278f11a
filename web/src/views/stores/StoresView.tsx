import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { More } from "../../parts/More";
import { Empty, NotFetched, Notice, Shape } from "../../parts/Notice";
import { canMake, useSession } from "../../session/session";
import { CountDelivery } from "./CountDelivery";
import { LabelDelivery } from "./LabelDelivery";
import { ReadDelivery } from "./ReadDelivery";
import { ReceiveDelivery } from "./ReceiveDelivery";
import { StockRow } from "./StockRow";
import { absentWords, byCode, headWords, type Stock, type StockAct, shelves } from "./shelves";
import { WhereItWent } from "./WhereItWent";

/** What the house has: every delivery with what is in it, read or typical; products of one material side by side. */
export function StoresView() {
  const session = useSession();
  const [gone, setGone] = useState(false);
  const onShelf = useQuery({ ...ask.stock(), enabled: !gone });
  const past = useInfiniteQuery({ ...ask.goneStock(), enabled: gone });
  const stock = gone ? past : onShelf;
  const [open, setOpen] = useState<{ act: StockAct; item: Stock } | null>(null);
  const [receiving, setReceiving] = useState(false);
  const { code } = useParams();
  const go = useNavigate();
  if (stock.isPending) return <Shape rows={7} title="Stores" />;
  const items = gone ? rowsOf(past.data) : (onShelf.data ?? []);
  const at = (act: StockAct) => (open?.act === act ? open.item : null);
  const close = () => setOpen(null);
  return (
    <main className="mx-auto max-w-[1320px] p-4 md:p-5">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-3">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-[32px]">Stores</h1>
          <p className="text-soft">{headWords(stock.data && items, gone)}</p>
        </div>
        <div className="ml-auto flex flex-wrap justify-end gap-3">
          <Button aria-pressed={gone} look={gone ? "main" : "plain"} onClick={() => setGone(!gone)}>
            What is gone
          </Button>
          <a
            href="/api/materials.csv"
            download
            className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Materials as a table
          </a>
          {canMake(session) ? (
            <Link
              to="/stores/many"
              className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
            >
              Many at once
            </Link>
          ) : null}
          {canMake(session) ? (
            <Button look="main" onClick={() => setReceiving(true)}>
              Take in a delivery
            </Button>
          ) : null}
        </div>
      </div>
      <NotFetched questions={[stock]} />
      {code && stock.data && !byCode(items, code) ? <Notice severity="check">{absentWords(code, gone)}</Notice> : null}
      {items.length === 0 && stock.data ? (
        <Empty title={gone ? "Nothing is gone" : "The shelves are empty"}>
          {gone
            ? "What is used up, tossed or recalled will stand here."
            : "Deliveries stand here with what is in them. Take the first one in, or many at once: from a table, or ticked off the usual shelf."}
        </Empty>
      ) : null}
      <div className="grid gap-4">
        {shelves(items).map((shelf) => (
          <section key={shelf.kind} className="tray p-4 md:p-5">
            <h2 className="mb-1 text-[20px]">{shelf.word}</h2>
            <ul>
              {shelf.groups.map((group) => (
                <li key={group.material} className="border-t border-line py-2">
                  {group.items.length > 1 ? <h3 className="pt-1 text-[16px]">{group.name}, side by side</h3> : null}
                  {group.items.map((item) => (
                    <StockRow
                      key={item.id}
                      item={item}
                      alone={group.items.length === 1}
                      mayMake={canMake(session)}
                      zone={session.zone}
                      onAct={(act, of) => setOpen({ act, item: of })}
                    />
                  ))}
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      {gone ? <More list={past} /> : null}
      <ReadDelivery item={at("read")} onClose={close} />
      <CountDelivery item={at("count")} onClose={close} />
      <WhereItWent
        item={at("trace") ?? byCode(items, code) ?? null}
        onClose={() => {
          close();
          if (code) void go("/stores", { replace: true });
        }}
      />
      <ReceiveDelivery
        open={receiving}
        onClose={() => setReceiving(false)}
        onReceived={(item) => {
          setReceiving(false);
          setOpen({ act: "label", item });
        }}
      />
      <LabelDelivery key={at("label")?.id} item={at("label")} onClose={close} />
    </main>
  );
}
