import { useMutation } from "@tanstack/react-query";
import { client, type Schemas, unwrap } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { Trouble } from "../../../parts/Notice";
import { canLead, useSession } from "../../../session/session";

/** Who sits where and how far they are; a lost phone hands its seat on to another. */
export function Seats({ panel }: { panel: Schemas["PanelOut"] }) {
  const session = useSession();
  const again = useMutation({
    mutationFn: async (number: number) => {
      const path = { panel_id: panel.id, number };
      return { number, ...(await unwrap(client.POST("/api/panels/{panel_id}/seats/{number}/again", { params: { path } }))) };
    },
  });
  const free = panel.tasters - panel.seats.length;
  return (
    <div>
      <h2 className="text-[24px]">
        {panel.answered} of {panel.of} answered
      </h2>
      <p className="mb-2 text-soft">{free ? `${free} of ${panel.tasters} seats are free` : "every seat is taken"}</p>
      <ul className="grid gap-x-8 xl:grid-cols-2">
        {panel.seats.map((seat) => (
          <li key={seat.number} className="border-t border-line py-1">
            <div className="flex min-h-11 items-center justify-between gap-2">
              <span>
                <span className="figures text-soft">{seat.number}</span> <b>{seat.name}</b>
                {seat.is_maker ? <span className="block text-[15px] text-warn">made one of the samples</span> : null}
              </span>
              <span className="flex items-center gap-2 text-[15px]">
                {seat.is_out ? <span className="text-soft">stepped out</span> : <Dots answered={seat.answered} of={seat.of} />}
                {canLead(session) && !seat.is_out && seat.answered < seat.of ? (
                  <Button
                    look="quiet"
                    className="whitespace-nowrap"
                    aria-label={`Another phone for ${seat.name}`}
                    onClick={() => again.mutate(seat.number)}
                  >
                    Another phone
                  </Button>
                ) : null}
              </span>
            </div>
            {again.data?.number === seat.number ? (
              <p role="status" className="pb-2">
                <b className="figures text-[20px]">{again.data.code}</b>{" "}
                <span className="text-soft">for {seat.name}'s other phone, once</span>
              </p>
            ) : null}
          </li>
        ))}
      </ul>
      <Trouble error={again.error} />
    </div>
  );
}

const MOST_DOTS = 12;

function Dots({ answered, of }: { answered: number; of: number }) {
  const words = `${answered} of ${of}`;
  if (of > MOST_DOTS) return <span>{words}</span>;
  return (
    <svg viewBox={`0 0 ${of * 16} 16`} className="h-4" role="img" aria-label={words}>
      {Array.from({ length: of }, (_, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a dot is known by its place alone
        <circle key={n} cx={8 + n * 16} cy="8" r="5.5" fill={n < answered ? "var(--rim)" : "none"} stroke="var(--rim)" strokeWidth="1.6" />
      ))}
    </svg>
  );
}
