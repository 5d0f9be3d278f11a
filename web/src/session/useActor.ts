import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { type Actor, onNews, value } from "../sync/database";
import { isClosed } from "../sync/who";

/** Who this device knows to be at it. `closed`: whoever was here has signed out, and nobody has signed in since. `null` until it has looked. */
export interface AtDevice {
  actor: Actor | null;
  closed: boolean;
  /** What the site said last of the house and this device. */
  here: Schemas["Session"] | null;
}

export function useActor(): AtDevice | null {
  const [found, setFound] = useState<AtDevice | null>(null);
  useEffect(() => {
    let latest = 0;
    const look = async () => {
      const mine = ++latest;
      const [actor, closed, here] = await Promise.all([value("actor"), isClosed(), value("here")]).catch(
        () => [undefined, false, undefined] as const,
      );
      if (mine === latest) setFound({ actor: actor ?? null, closed, here: here ?? null });
    };
    void look();
    return onNews((news) => void (news === "who" && look()));
  }, []);
  return found;
}
