/** Who is at this device: signed in, changed by PIN, claimed without the network, signed out. */

import { client, expectOk, Problem, type Schemas, unwrap } from "../api/client";
import { awaySince } from "../api/reach";
import { ANSWERS } from "./answers";
import { type Actor, announce, forgetValue, keepValue, value } from "./database";
import { forgetDrafts } from "./drafts";
import { canSign, forgetPrivate, keepKey, keptKey, makeKey, seal } from "./keys";
import { alone } from "./lock";
import { forgetRuns } from "./runs";

type Session = Schemas["Session"];
type Person = Schemas["PersonRow"];

/** What the service worker keeps of answers that are one person's own. */
const PERSONAL = [
  "/api/session",
  "/api/duty",
  "/api/sums/recent",
  "/api/own/sessions",
  "/api/signed-actions/held",
  "/api/devices",
  "/api/people",
  "/api/backup",
  "/api/clearances",
  "/api/invitations",
  "/api/history",
  "/api/history/kinds",
];

const actorNow = (): Promise<Actor | undefined> => value("actor");

/** Whether whoever was here has signed out on this device, whatever the site knows of it. */
export const isClosed = async (): Promise<boolean> => (await value("closed")) === true;

async function forgetAnswers(which: "all" | "personal"): Promise<void> {
  if (!("caches" in globalThis)) return;
  if (which === "all") {
    await caches.delete(ANSWERS);
    return;
  }
  const cache = await caches.open(ANSWERS);
  for (const path of PERSONAL) await cache.delete(path, { ignoreSearch: true });
}

/** Tells the site of a key of the session that this browser is in. Throws Problem where it cannot. */
export async function registerKey(id: string): Promise<void> {
  const key = await keptKey(id);
  if (!key) return;
  const { certificate } = await unwrap(client.POST("/api/session/key", { body: { public: key.public } }));
  await keepKey({ ...key, certificate });
}

let becoming: Promise<void> = Promise.resolve();

/**
 * Somebody signs in, or changes by PIN, by what `ask` asks of the site: from then on they sign, with a key of that session. A sign-out that the site has not
 * heard of comes first, and nothing else is sent meanwhile: its late answer would take the new session away.
 */
export function signsIn(ask: () => Promise<Session>): Promise<Session> {
  return alone(async () => {
    await endFirst();
    const session = await ask();
    becoming = becoming.catch(() => undefined).then(() => begin(session));
    await becoming;
    return session;
  });
}

/** A session that the site answered just now. Its person is at this device, unless somebody else has taken over since. The same session changes nothing. */
export function adopts(session: Session, answeredAt: number): Promise<void> {
  becoming = becoming
    .catch(() => undefined)
    .then(async () => {
      if (session.signed_in || session.device) await keepHere(session);
      const before = await actorNow();
      if (!session.signed_in || (await isClosed())) return;
      if (before && (before.claimed || before.signIn === session.id || before.since >= answeredAt)) return;
      await begin(session);
    });
  return becoming;
}

/** What the site says of the house and of this device; where nobody is signed in, the house's own is kept from before. */
async function keepHere(session: Session): Promise<void> {
  const before = await value("here");
  await keepValue("here", session.signed_in || !before ? session : { ...before, device: session.device ?? null });
}

async function begin(session: Session): Promise<void> {
  await keepHere(session);
  await forgetValue("closed");
  await forgetValue("ending");
  await forgetPrivate();
  let key = "";
  if (session.id && canSign()) {
    key = (await makeKey({ person: session.person, signIn: session.id })).id;
    // Where the answer is lost, the sender tells the site before it sends what the key signed.
    await registerKey(key).catch(() => undefined);
  }
  const { person, name, role, house_id: house, id: signIn } = session;
  await keepActor({ person, name, role, house, signIn, key, claimed: false });
}

async function keepActor(actor: Omit<Actor, "since">): Promise<void> {
  await keepValue("actor", { ...actor, since: Date.now() });
  announce("who");
}

/** What the last person left on this device and only they may see goes; the house's own stays. */
async function forgetPersonal(): Promise<void> {
  await forgetAnswers("personal");
  await forgetRuns("rehearsals");
}

/** Another person takes over on an enrolled device, by their PIN. Without the network they claim to be who they say, until the site has checked it. */
export async function switchTo(person: Person, pin: string): Promise<Session | null> {
  const body = { person: person.id, pin: checked(pin) };
  if (awaySince() === null) {
    try {
      const session = await signsIn(() => unwrap(client.POST("/api/session/switch", { body, signal: AbortSignal.timeout(8000) })));
      await forgetPersonal();
      return session;
    } catch (problem) {
      if (!(problem instanceof Problem) || !problem.isAway) throw problem;
    }
  }
  await claim(person, pin);
  return null;
}

/** The same person goes on in another house of theirs. What this device kept of the house before goes; what waits for it is still sent. */
export async function goToHouse(house: number): Promise<Session> {
  const session = await signsIn(() => unwrap(client.POST("/api/session/house", { body: { house } })));
  await forgetAnswers("all");
  await forgetRuns("all");
  await forgetDrafts();
  return session;
}

/** The PIN once more, where the one typed without the network was wrong. What was signed meanwhile counts once it is right. */
export async function claimAgain(pin: string): Promise<void> {
  const [actor, here] = [await actorNow(), await value("here")];
  const key = actor ? await keptKey(actor.key) : undefined;
  if (!actor?.claimed || !key?.claim || !here?.device) return;
  const sealed = await seal(here.device.sealing_key, { person: actor.person, pin: checked(pin), device: here.device.id, key: key.id });
  await keepKey({ ...key, claim: { sealed } });
  announce("who");
}

function checked(pin: string): string {
  if (!/^\d{6}$/.test(pin)) throw new Problem(422, "A PIN is six digits.", "pin", "unreadable");
  return pin;
}

async function claim(person: Person, pin: string): Promise<void> {
  const here = await value("here");
  if (!here?.device || !canSign()) throw new Problem(0, "Without the network nobody can take over on this device.", "", "away");
  await forgetPersonal();
  // Whoever was here before is signed out as soon as the site can be reached: nothing is done in their name meanwhile.
  await keepValue("ending", true);
  await forgetPrivate();
  const key = await makeKey({ person: person.id, signIn: "" });
  const sealed = await seal(here.device.sealing_key, { person: person.id, pin, device: here.device.id, key: key.id });
  await keepKey({ ...key, claim: { sealed } });
  // A PIN reaches as far as a maker, and nobody has checked this one.
  const role = person.role === "reader" ? "reader" : "maker";
  await forgetValue("closed");
  await keepActor({ person: person.id, name: person.name, role, house: here.house_id, signIn: "", key: key.id, claimed: true });
}

/** Closes this device to the next person at once, and tells the site of it as soon as it can be reached. What waits is still sent. */
export async function signOut(): Promise<void> {
  await keepValue("closed", true);
  await keepValue("ending", true);
  await forgetValue("actor");
  const here = await value("here");
  if (here) await keepValue("here", { ...here, signed_in: false, id: "", person: 0, name: "", role: "", others: [] });
  await forgetPrivate();
  await forgetAnswers("all");
  await forgetRuns("all");
  await forgetDrafts();
  announce("who");
  await alone(endFirst).catch(() => undefined);
}

/** Ends the session of whoever signed out here, before anything else is asked with it. Throws Problem while the site is away. */
export async function endFirst(): Promise<void> {
  if (!(await value("ending"))) return;
  await expectOk(client.POST("/api/session/end", { signal: AbortSignal.timeout(8000) }));
  await forgetValue("ending");
}
