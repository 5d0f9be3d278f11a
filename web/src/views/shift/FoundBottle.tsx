import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../api/client";
import { ask } from "../../api/queries";
import { FOUND_ML } from "../../api/rules";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { KnownField } from "../../parts/KnownField";
import { NotFetched, Trouble } from "../../parts/Notice";
import { typed } from "../../parts/numbers";
import { Sheet } from "../../parts/Sheet";

const AGES: readonly { days: number | null; word: string }[] = [
  { days: 0, word: "today" },
  { days: 1, word: "yesterday" },
  { days: 2, word: "2 days ago" },
  { days: 3, word: "3 days ago" },
  { days: 7, word: "a week ago" },
  { days: null, word: "nobody knows" },
];
const SHOWN = 12;

/** A bottle that stands there without a label: what it is, when it was made, and its label opens. */
export function FoundBottle({ open, onClose }: { open: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [find, setFind] = useState("");
  const [of, setOf] = useState<{ spec: string | null; name: string } | null>(null);
  const [amount, setAmount] = useState(String(FOUND_ML));
  const [place, setPlace] = useState("");
  const specs = useQuery({ ...ask.library({ find, state: "published" }), enabled: open });
  const amount_ml = typed(amount);
  const label = useMutation({
    mutationFn: (days: number | null) => {
      const body: Schemas["FoundIn"] = {
        spec: of?.spec ?? null,
        name: of?.name ?? "",
        days_ago: days,
        amount_ml: amount_ml ?? 0,
        place,
      };
      return unwrap(client.POST("/api/lots", { body }));
    },
    onSuccess: (lot) => {
      void queries.invalidateQueries({ queryKey: ["shift"] });
      window.open(`/api/lots/${lot.code}/label.pdf`, "_blank", "noreferrer");
      close();
      void go(`/lots/${lot.code}`);
    },
  });
  const close = () => {
    setOf(null);
    setFind("");
    label.reset();
    onClose();
  };
  return (
    <Sheet
      open={open}
      onClose={close}
      title={of ? `When was ${of.name.toLowerCase()} made?` : "What stands there?"}
      about={of ? "Its date counts from then. What nobody knows is to be used today." : "It gets a label with what is known of it."}
    >
      {of ? (
        <>
          <div className="mb-3 grid grid-cols-2 gap-2">
            {AGES.map((age) => (
              <Button key={age.word} size="bench" disabled={label.isPending || amount_ml === null} onClick={() => label.mutate(age.days)}>
                {age.word}
              </Button>
            ))}
          </div>
          <div className="grid grid-cols-2 gap-2">
            <Field
              label="How much is in it"
              unit="mL"
              inputMode="decimal"
              value={amount}
              onChange={setAmount}
              fault={amount_ml === null ? "Write figures, such as 700." : undefined}
            />
            <KnownField kind="place" label="Where it stands" value={place} onChange={setPlace} maxLength={60} />
          </div>
          <Trouble error={label.error} />
          <Button look="quiet" className="mt-2" onClick={() => setOf(null)}>
            It is another one
          </Button>
        </>
      ) : (
        <>
          <Field label="Find, or call it by its name" value={find} onChange={setFind} maxLength={300} />
          <NotFetched questions={[specs]} />
          <ul className="mt-2 grid gap-2">
            {specs.data?.items.slice(0, SHOWN).map((spec) => (
              <li key={spec.id}>
                <Button className="min-h-14 w-full justify-start text-[18px]" onClick={() => setOf({ spec: spec.id, name: spec.name })}>
                  {spec.name}
                </Button>
              </li>
            ))}
            {find.trim() ? (
              <li>
                <Button
                  look="quiet"
                  className="min-h-14 w-full justify-start text-[18px]"
                  onClick={() => setOf({ spec: null, name: find.trim() })}
                >
                  Only “{find.trim()}”: no spec, contents unknown
                </Button>
              </li>
            ) : null}
          </ul>
        </>
      )}
    </Sheet>
  );
}
