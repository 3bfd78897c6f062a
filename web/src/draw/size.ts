import { type RefObject, useEffect, useRef, useState } from "react";

interface Size {
  width: number;
  height: number;
}

/** The room that an element has now, so that a drawing can be made for it, to scale, with text of a readable size. */
export function useSize<T extends HTMLElement>(): [RefObject<T | null>, Size] {
  const ref = useRef<T>(null);
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const [width, height] = [entry.contentRect.width, entry.contentRect.height].map(Math.round);
      setSize((was) =>
        was.width === width && was.height === height ? was : { width: width ?? 0, height: height ?? 0 },
      );
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, size];
}

/** The same, where the height follows from the drawing. */
export function useWidth<T extends HTMLElement>(): [RefObject<T | null>, number] {
  const [ref, { width }] = useSize<T>();
  return [ref, width];
}

/** Metres between ruler marks, so that they stand at least `apart` pixels apart. */
export function rulerStep(pixelsPerMetre: number, apart: number, metresPerUnit: number): number {
  const steps = [0.1, 0.2, 0.5, 1, 2, 5, 10].map((step) => step * metresPerUnit);
  return steps.find((step) => step * pixelsPerMetre >= apart) ?? metresPerUnit * 10;
}
