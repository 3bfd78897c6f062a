import { type RefObject, useEffect, useRef, useState } from "react";

/** The width that an element has now, so that a drawing can be made for it, to scale, with text of a readable size. */
export function useWidth<T extends HTMLElement>(): [RefObject<T | null>, number] {
  const ref = useRef<T>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}

/** Metres between ruler marks, so that they stand at least `apart` pixels apart. */
export function rulerStep(pixelsPerMetre: number, apart: number, metresPerUnit: number): number {
  const steps = [0.1, 0.2, 0.5, 1, 2, 5, 10].map((step) => step * metresPerUnit);
  return steps.find((step) => step * pixelsPerMetre >= apart) ?? metresPerUnit * 10;
}
