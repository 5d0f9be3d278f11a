/** The sender of this page; all pages of this browser take turns. */

import { line } from "../sync/line";
import { Sender } from "../sync/sender";

export const sender = new Sender(line);
