import type { ReactNode } from "react";

/** The frame of a picture of what is done: what it shows is said beside it. */
export const Sketch = ({ title, children }: { title: string; children: ReactNode }) => (
  <svg
    viewBox="0 0 220 112"
    className="w-full rounded-lg bg-ground"
    role="img"
    aria-label={`${title}, drawn`}
  >
    {children}
  </svg>
);
