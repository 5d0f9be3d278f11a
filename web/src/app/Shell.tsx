import { Suspense, useEffect, useState } from "react";
import { flushSync } from "react-dom";
import { NavLink, Outlet, useNavigate } from "react-router";
import { useKeys } from "../parts/keys";
import { Shape } from "../parts/Notice";
import { clock, day } from "../parts/say";
import { useSession } from "../session/session";
import { WaitingLine } from "../session/WaitingLine";
import { WhoIsHere } from "../session/WhoIsHere";
import { useQuickSums } from "../views/sums/useQuickSums";
import { Find } from "./Find";
import { KeyHelp } from "./KeyHelp";
import { PLACES } from "./places";

/** What paper says at its head: whose it is, and when it was printed. */
function PaperHead({ house, name, zone }: { house: string; name: string; zone: string }) {
  const [at, setAt] = useState(() => new Date());
  useEffect(() => {
    const stamp = () => flushSync(() => setAt(new Date()));
    addEventListener("beforeprint", stamp);
    return () => removeEventListener("beforeprint", stamp);
  }, []);
  return (
    <p className="hidden px-4 text-[14px] text-soft print:block">
      {house} · printed {day(at, zone)}, {clock(at, zone)} by {name}
    </p>
  );
}

/** The frame of every place: the tabs that hang from the rim, who is here, finding, and the keys. */
export function Shell() {
  const go = useNavigate();
  const { openSums } = useQuickSums();
  const { house, name, zone } = useSession();
  const [open, setOpen] = useState<"find" | "keys" | null>(null);
  useKeys([
    ...PLACES.map((place) => ({ key: place.key, says: `go to ${place.name}`, does: () => void go(place.path) })),
    { key: "/", says: "find anything", does: () => setOpen("find") },
    { key: "?", says: "show these keys", does: () => setOpen("keys") },
  ]);
  return (
    <>
      <PaperHead house={house} name={name} zone={zone} />
      <header className="flex print:hidden flex-wrap items-center justify-between gap-x-2 bg-enamel px-3 md:h-[52px] md:flex-nowrap md:px-5">
        <nav aria-label="Places" className="order-2 flex w-full items-stretch md:order-none md:w-auto">
          <span aria-hidden="true" className="hidden self-center pr-4 font-head text-[22px] font-bold text-rim lg:inline">
            Ulsek
          </span>
          {PLACES.map((place) => (
            <NavLink
              key={place.path}
              to={place.path}
              className={({ isActive }) =>
                `flex min-h-[52px] flex-1 items-center justify-center gap-2 px-1.5 text-[16px] font-semibold md:flex-none md:px-2.5 xl:px-4 ${
                  isActive ? "z-10 rounded-b-[16px] bg-rim text-on-rim md:-mb-1.5 md:-mt-[5px] md:min-h-[58px]" : "text-soft hover:text-ink"
                }`
              }
            >
              <span
                aria-hidden="true"
                className="figures hidden rounded-md border border-current/40 px-1.5 text-[14px] font-normal xl:inline"
              >
                {place.key}
              </span>
              {place.name}
            </NavLink>
          ))}
        </nav>
        <div className="flex flex-1 items-center justify-end gap-2 max-md:pt-1">
          <span className="mr-auto font-head text-[20px] font-bold text-rim md:hidden">Ulsek</span>
          <button
            type="button"
            onClick={() => openSums()}
            className="min-h-11 rounded-full border border-rim px-4 text-[15px] font-semibold text-rim"
          >
            Sums
            <span aria-hidden="true" className="figures ml-2 hidden font-normal text-soft lg:inline">
              Q
            </span>
          </button>
          <button
            type="button"
            onClick={() => setOpen("find")}
            className="min-h-11 rounded-full border border-rim px-4 text-[15px] font-semibold text-rim"
          >
            Find
            <span aria-hidden="true" className="figures ml-2 hidden font-normal text-soft lg:inline">
              /
            </span>
          </button>
          <WhoIsHere />
        </div>
      </header>
      <WaitingLine />
      <Suspense fallback={<Shape />}>
        <Outlet />
      </Suspense>
      <Find open={open === "find"} onClose={() => setOpen(null)} />
      <KeyHelp open={open === "keys"} onClose={() => setOpen(null)} />
    </>
  );
}
