import { useSyncExternalStore } from "react";
import { awaySince, onReach } from "../api/reach";
import type { Queue } from "../sync/sender";
import { sender } from "./sender";

/** What waits on this device, and what was refused. */
export const useQueue = (): Queue => useSyncExternalStore(sender.watch, sender.now);

/** Since when the site is away [ms since 1970]; null while it is there. */
export const useAway = (): number | null => useSyncExternalStore(onReach, awaySince);
