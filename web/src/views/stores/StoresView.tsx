import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { rowsOf } from "../../api/lists";
import { ask } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { More } from "../../parts/More";
import { Empty, NotFetched, Notice, Shape } from "../../parts/Notice";
import { canMake, useSession } from "../../session/session";
import { CountDelivery } from "./CountDelivery";
import { Decide } from "./Decide";
import { LabelDelivery } from "./LabelDelivery";
import { MadeHere } from "./MadeHere";
import { ReadDelivery } from "./ReadDelivery";
import { ReceiveDelivery } from "./ReceiveDelivery";
import { MaterialLine } from "./shelf/MaterialLine";
import { absentWords, byCode, columns, found, headWords, type Stock, type StockAct, shelves, withoutEmpty } from "./shelf/shelves";
import { WhereItWent } from "./WhereItWent";

const LINK = "inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim";
/** So few materials are found that their deliveries are shown at once. */
const FEW = 2;

/** What has to be decided about what the house has; below it every material with its deliveries folded in, and what the house made beside it. */
export function StoresView() {
  const session = useSession();
  const [now] = useState(() => Date.now());
  const [gone, setGone] = useState(false);
  const [asked, setAsked] = useSearchParams();
  const sought = asked.get("find") ?? "";
  const onShelf = useQuery({ ...ask.stock(), enabled: !gone });
  const past = useInfiniteQuery({ ...ask.goneStock(sought), enabled: gone, placeholderData: keepPreviousData });
  const stock = gone ? past : onShelf;
  const [open, setOpen] = useState<{ act: StockAct; item: Stock } | null>(null);
  const [receiving, setReceiving] = useState(false);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const { code } = useParams();
  const go = useNavigate();
  if (stock.isPending) return <Shape rows={7} title="Stores" />;
  const items = gone ? rowsOf(past.data) : (onShelf.data ?? []);
  const rows = gone ? items : found(withoutEmpty(items), sought);
  const kinds = shelves(rows);
  const few = sought !== "" && kinds.reduce((sum, shelf) => sum + shelf.groups.length, 0) <= FEW;
  const at = (act: StockAct) => (open?.act === act ? open.item : null);
  const close = () => setOpen(null);
  const may = canMake(session);
  const fold = (material: string) => {
    const others = [...unfolded].filter((key) => key !== material);
    setUnfolded(new Set(unfolded.has(material) ? others : [...others, material]));
  };
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
          <a href="/api/materials.csv" download className={LINK}>
            Materials as a table
          </a>
          {may ? (
            <>
              <Link to="/stores/many" className={LINK}>
                Many at once
              </Link>
              <Link to="/stores/count" className={LINK}>
                Count the shelf
              </Link>
              <Button look="main" onClick={() => setReceiving(true)}>
                Take in a delivery
              </Button>
            </>
          ) : null}
        </div>
      </div>
      <NotFetched questions={[stock]} />
      {code && stock.data && !byCode(items, code) ? <Notice severity="check">{absentWords(code, gone)}</Notice> : null}
      {items.length === 0 && stock.data && !sought ? (
        <Empty title={gone ? "Nothing is gone" : "The shelves are empty"}>
          {gone
            ? "What is used up, tossed or recalled will stand here."
            : "Deliveries stand here with what is in them. Take the first one in, or many at once: from a table, or ticked off the usual shelf."}
        </Empty>
      ) : null}
      {gone || !stock.data || sought ? null : <Decide items={items} now={now} onRead={(item) => setOpen({ act: "read", item })} />}
      {items.length || sought ? (
        <Field
          label="Find by name, place or code"
          hideLabel
          type="search"
          placeholder="find by name, place or code"
          className="mb-4 max-w-xl"
          value={sought}
          onChange={(value) => setAsked(value ? { find: value } : {}, { replace: true })}
        />
      ) : null}
      {sought && stock.data && !rows.length ? (
        <p className="mb-4 text-soft">Nothing {gone ? "that is gone" : "bought"} is called that.</p>
      ) : null}
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[repeat(2,minmax(0,1fr))] xl:grid-cols-[repeat(2,minmax(0,1fr))_300px]">
        {columns(kinds)
          .filter((column) => column.length)
          .map((column) => (
            <div key={column[0]?.kind} className="tray px-4 pt-1 pb-3">
              {column.map((shelf) => (
                <section key={shelf.kind} aria-label={shelf.word}>
                  <h2 className="mt-3 mb-0.5 text-[18px]">{shelf.word}</h2>
                  <ul>
                    {shelf.groups.map((group) => (
                      <MaterialLine
                        key={group.material}
                        group={group}
                        isOpen={few !== unfolded.has(group.material)}
                        onOpen={() => fold(group.material)}
                        mayMake={may}
                        zone={session.zone}
                        onAct={(act, of) => setOpen({ act, item: of })}
                      />
                    ))}
                  </ul>
                </section>
              ))}
            </div>
          ))}
        {gone ? null : <MadeHere sought={sought} now={now} />}
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
