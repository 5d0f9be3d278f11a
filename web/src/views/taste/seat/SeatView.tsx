import { useState } from "react";
import { Button } from "../../../parts/Button";
import { answerPage, type KeptSeat, leaveSeat, nextPage, stepOut } from "../../../sync/seat";
import { AnswerPage } from "./AnswerPage";
import { Frame } from "./Frame";
import { TakeSeat } from "./TakeSeat";
import { useSeat } from "./useSeat";

/** A taster's phone: takes a seat, reads what is in the glasses for those who must know, tastes page by page. Nobody has to be signed in. */
export function SeatView() {
  const kept = useSeat();
  const code = location.hash.slice(1);
  const [again, setAgain] = useState(false);
  const [goesOn, setGoesOn] = useState(code === "");
  const taken = () => {
    setAgain(false);
    setGoesOn(true);
  };
  if (!kept || again || (code !== "" && kept.seat.state !== "open")) return <TakeSeat code={code} onTaken={taken} />;
  if (!goesOn) return <WhichSeat kept={kept} onGoOn={() => setGoesOn(true)} onAnother={() => setAgain(true)} />;
  return <Seated kept={kept} onAnother={() => setAgain(true)} />;
}

/** A link is opened while this phone sits at a panel already: the same one once more, or another. */
function WhichSeat({ kept, onGoOn, onAnother }: { kept: KeptSeat; onGoOn: () => void; onAnother: () => void }) {
  return (
    <Frame left={kept.seat.house} right={kept.seat.panel}>
      <div className="tray grid gap-3 p-4">
        <h1 className="text-[28px]">You have a seat here</h1>
        <p>
          Seat {kept.seat.number}, {kept.seat.name}: {kept.seat.answered.length + kept.waiting.length} of {kept.seat.pages.length} answered.
        </p>
      </div>
      <div className="mt-auto grid gap-2">
        <Button size="bench" className="!min-h-16 !text-[18px]" onClick={onAnother}>
          It is another tasting
        </Button>
        <Button look="main" size="bench" className="!min-h-16 !text-[18px]" onClick={onGoOn}>
          Go on there
        </Button>
      </div>
    </Frame>
  );
}

function Seated({ kept, onAnother }: { kept: KeptSeat; onAnother: () => void }) {
  const { seat, waiting } = kept;
  const [begun, setBegun] = useState(seat.answered.length + waiting.length > 0);
  const page = nextPage(kept);
  if (seat.stop && seat.state === "open")
    return (
      <Frame left={seat.house} right={seat.panel}>
        <Stopped words={seat.stop} />
      </Frame>
    );
  if (seat.state === "out")
    return (
      <Frame left={seat.house} right={seat.panel}>
        <Out onAnother={onAnother} />
      </Frame>
    );
  if (page === null || seat.state === "told")
    return (
      <Frame left={seat.house} right={seat.panel}>
        <Done kept={kept} onAnother={onAnother} />
      </Frame>
    );
  if (!begun)
    return (
      <Frame left={seat.house} right={`seat ${seat.number}`}>
        <BeforeFirst kept={kept} onBegin={() => setBegun(true)} />
      </Frame>
    );
  return (
    <AnswerPage
      key={page.turn}
      seat={seat}
      page={page}
      waiting={waiting.length}
      refused={kept.refused}
      onNext={(answer) => answerPage(page.turn, answer)}
    />
  );
}

/** What must be known before anything is drunk. */
function BeforeFirst({ kept, onBegin }: { kept: KeptSeat; onBegin: () => void }) {
  const { seat } = kept;
  const [trouble, setTrouble] = useState("");
  const glasses = new Set(seat.pages.flatMap((page) => page.codes)).size;
  return (
    <>
      <div className="tray grid gap-3 p-4">
        <h1 className="text-[28px]">Before the first glass</h1>
        <p className="text-[17px] font-semibold">{seat.first}</p>
        <p className="text-soft">
          {glasses} glasses, a sip in each{seat.dark_glasses ? ", dark so that nobody sees the colour" : ""}. Take water between them, and
          spit as you like.
        </p>
        <p className="text-soft">Step out whenever you want: nobody asks why, and nothing of it is kept.</p>
        {trouble ? (
          <p role="alert" className="font-semibold text-warn">
            {trouble}
          </p>
        ) : null}
      </div>
      <div className="mt-auto grid gap-2">
        <Button
          size="bench"
          className="!min-h-16 !text-[18px]"
          onClick={() => void stepOut().catch((error: Error) => setTrouble(error.message))}
        >
          Step out
        </Button>
        <Button look="main" size="bench" className="!min-h-16 !text-[18px]" onClick={onBegin}>
          Begin
        </Button>
      </div>
    </>
  );
}

function Stopped({ words }: { words: string }) {
  return (
    <div role="alert" className="tray border-2 border-warn p-4">
      <h1 className="text-[28px] text-warn">Do not taste any more</h1>
      <p className="mt-2 text-[17px]">{words}</p>
    </div>
  );
}

function Out({ onAnother }: { onAnother: () => void }) {
  return (
    <div className="tray grid gap-3 p-4">
      <h1 className="text-[28px]">You stepped out</h1>
      <p>That is all. Thank you for coming.</p>
      <Another onAnother={onAnother} />
    </div>
  );
}

function Done({ kept, onAnother }: { kept: KeptSeat; onAnother: () => void }) {
  const { waiting, refused, seat } = kept;
  return (
    <div className="tray grid gap-3 p-4" role="status">
      <h1 className="text-[28px]">{seat.state === "told" && nextPage(kept) ? "The tasting is over" : "Thank you"}</h1>
      {waiting.length ? (
        <p className="text-[17px] font-semibold">
          {waiting.length === 1 ? "One answer waits" : `${waiting.length} answers wait`} on this phone and will be sent when the site can be
          reached. Leave this page open.
        </p>
      ) : (
        <p className="text-[17px]">
          {seat.state === "told"
            ? "The seal is broken: ask who leads it what came out."
            : "All your answers are in. Please do not compare notes until the last one is."}
        </p>
      )}
      {refused ? <p className="font-semibold text-warn">{refused}</p> : null}
      {waiting.length ? null : <Another onAnother={onAnother} />}
    </div>
  );
}

/** Two panels at one evening: the seat is given up for another. */
function Another({ onAnother }: { onAnother: () => void }) {
  return (
    <Button
      onClick={() => {
        leaveSeat();
        onAnother();
      }}
    >
      Taste in another panel
    </Button>
  );
}
