import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, unwrap } from "../api/client";
import { ask } from "../api/queries";
import { CUPS } from "../api/rules";
import { Button } from "../parts/Button";
import { Choice } from "../parts/Choice";
import { Field } from "../parts/Field";
import { faultsOf, restOf } from "../parts/faults";
import { HouseFields } from "../parts/HouseFields";
import { houseSent, newHouse } from "../parts/houseFields";
import { Trouble } from "../parts/Notice";
import { signsIn } from "../sync/who";
import { allButSession, forgetAnswers } from "./freshQueries";

const PARTS = [
  "name",
  "currency",
  "zone",
  "altitude_m",
  "service_from",
  "service_until",
  "day_turns",
  "sign_in",
  "password",
  "opening_code",
];

/** The first visit: a house of one's own is opened, and whoever opens it is its first lead. It ends at their first recipe. */
export function OpenHouse({ byCode, onBack }: { byCode: boolean; onBack?: () => void }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [house, setHouse] = useState(newHouse);
  const [cups, setCups] = useState<(typeof CUPS)[number]["value"]>("metric");
  const [me, setMe] = useState({ sign_in: "", name: "", password: "" });
  const [code, setCode] = useState("");
  const [fault, setFault] = useState<Record<string, string>>({});
  const open = useMutation({
    mutationFn: () => {
      const sent = houseSent(house);
      if (!sent) {
        setFault({ altitude_m: "Write figures, such as 650." });
        return Promise.resolve(null);
      }
      setFault({});
      return signsIn(() =>
        unwrap(client.POST("/api/session/opening", { body: { house: sent, lead: me, locale: cups, opening_code: code } })),
      );
    },
    // Before the places appear: the first of them would lead elsewhere from the bare address.
    onMutate: () => void go("/specs/read", { replace: true }),
    onSuccess: (session) => {
      if (!session) return;
      forgetAnswers(queries, allButSession);
      queries.setQueryData(ask.session().queryKey, { ...session, kept: false });
    },
  });
  const faults = { ...faultsOf(open.error), ...fault };
  return (
    <main className="mx-auto max-w-[760px] p-4 md:p-8">
      <h1 className="text-[40px] text-rim">Open your house</h1>
      <p className="mt-1 mb-5 text-soft">
        Three short parts, then your own first recipe. All of it can be changed later, under your name; alone, that is all there is to set
        up.
      </p>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          open.mutate();
        }}
      >
        <section className="tray grid gap-3 p-5" aria-label="The house">
          <h2 className="text-[22px]">The house</h2>
          <HouseFields part="who" house={house} onChange={setHouse} faults={faults} />
          <HouseFields part="where" house={house} onChange={setHouse} faults={faults} />
          <div>
            <p className="mb-1 text-[14px] text-soft">A cup in your recipes</p>
            <Choice label="A cup in your recipes" value={cups} options={CUPS} onChange={setCups} />
          </div>
        </section>
        <section className="tray grid gap-3 p-5" aria-label="Its hours">
          <h2 className="text-[22px]">Its hours</h2>
          <HouseFields part="when" house={house} onChange={setHouse} faults={faults} />
        </section>
        <section className="tray grid gap-3 p-5" aria-label="You">
          <h2 className="text-[22px]">You, its first lead</h2>
          <div className="grid gap-3 sm:grid-cols-2">
            <Field
              label="Name to sign in by, without blanks"
              value={me.sign_in}
              onChange={(sign_in) => setMe({ ...me, sign_in })}
              fault={faults.sign_in}
              autoComplete="username"
              required
            />
            <Field
              label="Name on labels"
              value={me.name}
              onChange={(name) => setMe({ ...me, name })}
              maxLength={60}
              placeholder="the same"
            />
            <Field
              label="Password, ten letters at least"
              value={me.password}
              onChange={(password) => setMe({ ...me, password })}
              fault={faults.password}
              type="password"
              autoComplete="new-password"
              required
            />
            {byCode ? (
              <Field label="Opening code of this site" value={code} onChange={setCode} fault={faults.opening_code} required />
            ) : null}
          </div>
          {byCode ? <p className="text-[14px] text-soft">Whoever started Ulsek sees it there, and gets it from bin/house code.</p> : null}
        </section>
        <Trouble error={restOf(open.error, PARTS)} />
        <div className="flex flex-wrap gap-2">
          <Button look="main" type="submit" disabled={open.isPending}>
            {open.isPending ? "Opening …" : "Open the house"}
          </Button>
          {onBack ? <Button onClick={onBack}>I sign in here already, or was invited</Button> : null}
        </div>
      </form>
    </main>
  );
}
