import { Link, useParams } from "react-router";
import { Button } from "../../../parts/Button";
import { Shape, Trouble } from "../../../parts/Notice";
import { clock } from "../../../parts/say";
import { useSession } from "../../../session/session";
import { useQueue } from "../../../session/useQueue";
import { WaitingLine } from "../../../session/WaitingLine";
import { WhoIsHere } from "../../../session/WhoIsHere";
import { useQuickSums } from "../../sums/useQuickSums";
import { useBench } from "../run/useBench";
import { BenchBody } from "./BenchBody";
import { RunRail } from "./RunRail";

/** A batch at the bench: one instruction, one figure, one gauge. */
export function BenchView() {
  const { run: id = "" } = useParams();
  return <BenchFrame key={id} id={id} />;
}

function BenchFrame({ id }: { id: string }) {
  const bench = useBench(id);
  const session = useSession();
  const { openSums } = useQuickSums();
  const unsent = useQueue().waiting.filter((item) => item.subject === id).length;
  const stamp = clock(new Date(), session.zone);
  return (
    <div className="flex min-h-[calc(100dvh-5px)] flex-col">
      <header className="flex flex-wrap items-center gap-x-1.5 bg-enamel px-2 py-2 sm:gap-x-4 sm:px-4 max-sm:[&>nav]:order-last max-sm:[&>nav]:basis-full max-sm:[&>p]:ml-auto">
        <Link to="/make" className="inline-flex min-h-14 items-center rounded-full px-3 text-[18px] font-semibold text-rim">
          ← Bench
        </Link>
        <RunRail current={id} />
        <Button onClick={() => openSums()} shortcut="Q" className="min-h-14 text-[18px]">
          Sums
        </Button>
        <p className={`text-right text-[18px] leading-tight ${unsent ? "font-bold text-warn" : "text-soft"}`}>
          <span role="status">{bench.alone ? "worked out on this device" : unsent ? `${unsent} kept here` : "all kept"}</span>
          {bench.alone || unsent ? null : <span className="max-sm:hidden"> · {stamp}</span>}
        </p>
        <WhoIsHere size="bench" />
      </header>
      <WaitingLine />
      {bench.run ? (
        <BenchBody run={bench.run} bench={bench} />
      ) : bench.error ? (
        <div className="p-6">
          <Trouble error={bench.error} />
        </div>
      ) : (
        <div className="p-4">
          <Shape rows={6} />
        </div>
      )}
    </div>
  );
}
