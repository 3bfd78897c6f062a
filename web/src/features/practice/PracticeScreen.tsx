import { Check } from "lucide-react";
import { useState } from "react";
import { Link } from "wouter";
import type { Drill, KeptGame } from "../../api/client";
import { address } from "../../app/addresses";
import { useWidth } from "../../draw/size";
import { usePractice } from "../../queries/practice";
import { Panel, Trouble, Working } from "../../ui/parts";
import { LogTabs } from "../learn/LogTabs";
import { PARTS } from "../trade/parts";
import { anySeed } from "./game";

/** Hidden waters to practise in, and the trade explained. */
export function PracticeScreen() {
  const found = usePractice();
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <LogTabs />
      <h1 className="text-2xl font-bold">Practice</h1>
      <p className="text-soft">
        A river that is made up, on the same engine: fish it from above, and see at the end what was under it.
        Any drill of the same number is the same water and the same luck for whoever is sent it.
      </p>
      <nav aria-label="The trade" className="grid grid-cols-3 gap-1.5 lg:flex lg:gap-2">
        {PARTS.map(([part, text]) => (
          <Link
            key={part}
            to={address.part(part)}
            className="grid min-h-12 place-items-center rounded-full border border-line bg-paper px-0.5 text-center text-[min(1rem,3.8vw)] leading-tight lg:px-4"
          >
            {text}
          </Link>
        ))}
      </nav>
      {found.isError && <Trouble error={found.error} retry={() => found.refetch()} />}
      {!found.data && found.fetchStatus === "paused" && (
        <p>The drifts are worked out at the service: practice needs signal.</p>
      )}
      {!found.data && found.isFetching && <Working what="Laying out the drills" />}
      {found.data && (
        <>
          <ul className="grid gap-2 sm:grid-cols-2">
            {found.data.drills.map((drill) => (
              <Tile
                key={drill.name}
                drill={drill}
                games={found.data.games.filter((one) => one.drill === drill.name)}
              />
            ))}
          </ul>
          <Progress games={found.data.games} />
        </>
      )}
    </div>
  );
}

function Tile({ drill, games }: { drill: Drill; games: KeptGame[] }) {
  const [seed] = useState(anySeed);
  const passed = games.filter((one) => one.passed).length;
  return (
    <li>
      <Link
        to={address.drill(drill.name, String(seed))}
        className="block h-full rounded-2xl bg-paper p-4 hover:outline-2"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="text-lg font-semibold">{drill.title}</span>
          {passed > 0 && (
            <span className="flex items-center gap-1 text-sm">
              <Check aria-hidden size={18} />
              {`passed ${passed} of ${games.length}`}
            </span>
          )}
          {passed === 0 && games.length > 0 && (
            <span className="text-sm text-soft">{`played ${games.length}`}</span>
          )}
        </span>
        <span className="mt-1 block text-soft">{drill.task}</span>
      </Link>
    </li>
  );
}

const HIGH = 150;
const LEFT = 34;
const FOOT = 20;
const MOST = 1.2;

/** Every game beside one who knew the water, with what its luck spans; never smoothed. */
function Progress({ games }: { games: KeptGame[] }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  if (games.length === 0) return null;
  const shown = games.slice(0, 40).reverse();
  const x = (k: number) => LEFT + ((k + 0.5) / shown.length) * (width - LEFT - 8);
  const y = (share: number) => HIGH - FOOT - (Math.min(MOST, share) / MOST) * (HIGH - FOOT - 10);
  return (
    <Panel title="Games so far">
      <div ref={ref}>
        {width > 0 && (
          <svg
            width={width}
            height={HIGH}
            role="img"
            aria-label={`Time in the zone, in hundredths of what one who knew the water had: ${shown.map((one) => Math.round(100 * one.share)).join(", ")}`}
          >
            {[0, 0.5, 1].map((share) => (
              <g key={share}>
                <line x1={LEFT} x2={width} y1={y(share)} y2={y(share)} stroke="var(--line)" strokeWidth={1} />
                <text x={LEFT - 5} y={y(share) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
                  {Math.round(100 * share)}
                </text>
              </g>
            ))}
            {shown.map((one, k) => (
              <g key={one.id}>
                <line
                  x1={x(k)}
                  x2={x(k)}
                  y1={y(one.low)}
                  y2={y(one.high)}
                  stroke="var(--mark)"
                  strokeWidth={2}
                />
                <circle
                  cx={x(k)}
                  cy={y(one.share)}
                  r={5}
                  fill={one.passed ? "var(--mark)" : "var(--paper)"}
                  stroke="var(--ink)"
                />
              </g>
            ))}
            <text x={LEFT} y={HIGH - 4} fontSize={12} fill="var(--soft)">
              oldest to newest; full: passed; line: the same play with other luck
            </text>
          </svg>
        )}
      </div>
      <p className="text-sm text-soft">
        Time in the zone near the fish, in hundredths of what one who knew the water had with the same luck.
      </p>
    </Panel>
  );
}
