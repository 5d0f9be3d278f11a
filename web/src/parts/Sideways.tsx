import type { ReactNode, Ref } from "react";

interface SidewaysProps {
  label: string;
  /** Classes beside those that make it scroll. */
  look?: string;
  children: ReactNode;
  ref?: Ref<HTMLElement>;
}

/** A part of a page that scrolls sideways where it is wider than the screen: by touch, by wheel, and by the arrow keys once it has the focus. */
export function Sideways({ label, look = "", children, ref }: SidewaysProps) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by the keyboard
    <section ref={ref} tabIndex={0} aria-label={label} className={`overflow-x-auto ${look}`}>
      {children}
    </section>
  );
}
