import { lazyRouteComponent } from "@tanstack/react-router";
import type { ComponentType } from "react";

/**
 * A part of the app in a file of its own, and what has it at hand before it is drawn: what React has to wait for within a drawing
 * it shows no sooner than 0.3 s after it said so, however soon it is there. Where the file does not come, the drawing says so.
 */
export function brought<K extends string, P>(file: () => Promise<Record<K, ComponentType<P>>>, name: K) {
  const part = lazyRouteComponent(file, name);
  return [part as ComponentType<P>, async () => void (await part.preload?.())] as const;
}
