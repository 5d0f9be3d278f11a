import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

export interface SheetProps {
  open: boolean;
  onClose: () => void;
  title: string;
  /** One line under the title that says what this is about. */
  about?: string;
  wide?: boolean;
  /** The whole screen on a phone, wide elsewhere. */
  whole?: boolean;
  children: ReactNode;
}

/** The dialog of a sheet: from the bottom on a phone, in the middle elsewhere. */
export function SheetBody({ open, onClose, title, about, wide = false, whole = false, children }: SheetProps) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => (next ? undefined : onClose())}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Dialog.Content
          {...(about ? {} : { "aria-describedby": undefined })}
          className={`tray fixed inset-x-0 bottom-0 z-50 overflow-auto rounded-b-none ${whole ? "h-dvh max-h-dvh rounded-t-none p-4 md:h-auto md:max-h-[92dvh] md:rounded-t-[18px] md:p-6" : "max-h-[92dvh] p-6 md:max-h-[96dvh]"} md:inset-x-auto md:top-1/2 md:bottom-auto md:left-1/2 md:w-full md:-translate-x-1/2 md:-translate-y-1/2 md:rounded-b-[18px] ${whole ? "md:max-w-5xl" : wide ? "md:max-w-3xl" : "md:max-w-lg"}`}
        >
          <div className="mb-4 flex items-start justify-between gap-4">
            <div>
              <Dialog.Title className="text-[24px]">{title}</Dialog.Title>
              {about ? <Dialog.Description className="mt-1 text-soft">{about}</Dialog.Description> : null}
            </div>
            <Dialog.Close className="-mt-2 min-h-11 shrink-0 md:-mr-2 min-w-11 rounded-full px-3 font-semibold hover:bg-pick">
              Close
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
