/** The beat ribbon: the long section of the water, one cell a lie, its depth drawn down from the surface line. */
import { Link } from "@tanstack/react-router";
import { useEffect, useRef } from "react";
import type { Beat } from "../api/client";
import { useUnits } from "../units/context";

const DEEPEST_PX = 40;

export function Ribbon({ beats, current, step }: { beats: Beat[]; current: string | null; step: string }) {
  const { show } = useUnits();
  const depths = beats.flatMap((beat) => beat.lies.map((lie) => lie.situation?.water.depth_m ?? 0));
  const deepest = Math.max(0.5, ...depths);
  const strip = useRef<HTMLElement>(null);
  // the lie in hand is brought into sight, however far up the water it is
  useEffect(() => {
    const here = current && strip.current?.querySelector<HTMLElement>(`[data-lie="${CSS.escape(current)}"]`);
    if (here && strip.current)
      strip.current.scrollLeft = here.offsetLeft - (strip.current.clientWidth - here.offsetWidth) / 2;
  }, [current]);
  return (
    <nav
      ref={strip}
      aria-label="Lies, upstream to the right"
      className="relative flex gap-4 overflow-x-auto px-3 pb-2 lg:px-6"
    >
      {beats.map((beat) => (
        <div key={beat.id} className="min-w-max grow">
          <h2 className="sticky left-0 w-max text-sm font-semibold">
            <Link
              to="/beat/$beatId"
              params={{ beatId: beat.id }}
              className="inline-flex min-h-8 items-center text-soft underline decoration-line underline-offset-4 hover:text-ink"
              activeProps={{ className: "text-ink! decoration-signal!" }}
            >
              {beat.name}
            </Link>
          </h2>
          <ol className="flex">
            {beat.lies.map((lie) => {
              const depth = lie.situation?.water.depth_m ?? 0;
              const share = depth / deepest;
              const here = lie.id === current;
              return (
                <li key={lie.id} data-lie={lie.id} className="grow">
                  <Link
                    to={`/lie/$lieId/${step}` as "/lie/$lieId/read"}
                    params={{ lieId: lie.id }}
                    aria-current={here ? "page" : undefined}
                    className={`block min-w-21 rounded-t-md border-t-2 ${here ? "border-signal bg-paper" : "border-water-3 hover:bg-paper"}`}
                  >
                    <span
                      aria-hidden
                      className="block rounded-b-sm"
                      style={{
                        height: `calc((8px + ${DEEPEST_PX}px * ${share}) * var(--ribbon))`,
                        background: `linear-gradient(var(--water-0), color-mix(in oklab, var(--water-1), var(--water-4) ${Math.round(share * 90)}%))`,
                      }}
                    />
                    <span
                      className={`block px-1.5 text-sm leading-tight whitespace-nowrap ${here ? "font-semibold" : ""}`}
                    >
                      {lie.name}
                    </span>
                    <span className="block px-1.5 pb-1 text-sm text-soft">
                      {lie.situation
                        ? `${lie.stands_on === "flow" ? "≈ " : ""}${show(depth, "m")}`
                        : "not read"}
                    </span>
                  </Link>
                </li>
              );
            })}
          </ol>
        </div>
      ))}
    </nav>
  );
}
