/** The beat ribbon: one cell a lie in working order, its depth drawn down from the surface line, grey where little is to be
 * hoped for now; the bar beneath says how much. */

import { useEffect, useRef } from "react";
import { Link, useLocation } from "wouter";
import type { Beat, Lie } from "../api/client";
import { address, type LieScreen } from "../app/addresses";
import { useUnits } from "../units/context";

const DEEPEST_PX = 40;

type Work = Beat["working"][number];

/** The lies in the order of working them; those that have no place in it yet come last. */
function inOrder(beat: Beat): [Lie, Work | null][] {
  const read = beat.working.flatMap((work): [Lie, Work][] => {
    const lie = beat.lies.find((one) => one.id === work.lie_id);
    return lie ? [[lie, work]] : [];
  });
  return [
    ...read,
    ...beat.lies
      .filter((lie) => !beat.working.some((work) => work.lie_id === lie.id))
      .map((lie): [Lie, null] => [lie, null]),
  ];
}

export function Ribbon({ beats, current, step }: { beats: Beat[]; current: string | null; step: LieScreen }) {
  const { show } = useUnits();
  const depths = beats.flatMap((beat) => beat.lies.map((lie) => lie.situation?.water.depth_m ?? 0));
  const deepest = Math.max(0.5, ...depths);
  const best = Math.max(0.01, ...beats.flatMap((beat) => beat.working.map((work) => work.score)));
  const [path] = useLocation();
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
      aria-label="Lies in working order, from the left"
      className="relative flex gap-4 overflow-x-auto px-3 pb-2 lg:px-6"
    >
      {beats.map((beat) => (
        <div key={beat.id} className="min-w-max grow">
          <h2 className="sticky left-0 w-max text-sm font-semibold">
            <Link
              to={address.beat(beat.id)}
              aria-current={path === address.beat(beat.id) ? "page" : undefined}
              className="inline-flex min-h-8 items-center text-soft underline decoration-line underline-offset-4 hover:text-ink aria-[current]:text-ink aria-[current]:decoration-signal"
            >
              {beat.name}
            </Link>
          </h2>
          <ol className="flex">
            {inOrder(beat).map(([lie, work]) => {
              const depth = lie.situation?.water.depth_m ?? 0;
              const share = depth / deepest;
              const here = lie.id === current;
              return (
                <li key={lie.id} data-lie={lie.id} className="grow">
                  <Link
                    to={address.lie(lie.id, step)}
                    aria-current={here ? "page" : undefined}
                    className={`block min-w-21 rounded-t-md border-t-2 ${here ? "border-signal bg-paper" : "border-water-3 hover:bg-paper"}`}
                  >
                    <span
                      aria-hidden
                      className="block rounded-b-sm"
                      style={{
                        height: `calc((8px + ${DEEPEST_PX}px * ${share}) * var(--ribbon))`,
                        background: `linear-gradient(var(--water-0), color-mix(in oklab, var(--water-1), var(--water-4) ${Math.round(share * 90)}%))`,
                        filter: `saturate(${work ? (work.score / best) ** 2 : 0})`,
                      }}
                    />
                    <span className="mx-1.5 mt-1 block h-1.5 rounded-full bg-line" aria-hidden>
                      <span
                        className="block h-full rounded-full bg-mark"
                        style={{ width: `${100 * (work?.score ?? 0)}%` }}
                      />
                    </span>
                    <span
                      className={`block px-1.5 text-sm leading-tight whitespace-nowrap ${here ? "font-semibold" : ""}`}
                    >
                      {work && <span className="text-soft">{work.order} </span>}
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
