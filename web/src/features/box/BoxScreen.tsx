/** The fly box: what is in it, how many are left, and what it lacks on this river. */
import { useState } from "react";
import type { Box, BoxItem } from "../../api/client";
import { useSession } from "../../queries/angler";
import { useBox, useFillBox } from "../../queries/box";
import { Choice } from "../../ui/choosing";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { bodyOf } from "./bodies";
import { FlyPicture } from "./FlyPicture";
import { FlySheet } from "./FlySheet";
import { Lacking } from "./Lacking";
import { RodPanel } from "./RodPanel";

type Order = "bead" | "form" | "left";

const ORDERS: Record<Order, (a: BoxItem, b: BoxItem) => number> = {
  bead: (a, b) => (a.bead_mm ?? 0) - (b.bead_mm ?? 0) || a.form.localeCompare(b.form),
  form: (a, b) => a.form.localeCompare(b.form) || (a.bead_mm ?? 0) - (b.bead_mm ?? 0),
  left: (a, b) => a.left - b.left || a.form.localeCompare(b.form),
};

export function BoxScreen() {
  const box = useBox();
  if (box.isPending) return <Working what="Opening the box" />;
  if (box.isError && !box.data) return <Trouble error={box.error} retry={() => box.refetch()} />;
  return <Opened box={box.data} />;
}

function Opened({ box }: { box: Box }) {
  const { starter } = useFillBox();
  const rod = useSession().data?.angler?.rod;
  const [order, setOrder] = useState<Order>("bead");
  const [open, setOpen] = useState<BoxItem | "new" | null>(null);
  const nymphs = box.items.filter((one) => one.kind === "nymph").sort(ORDERS[order]);
  const rest = box.items.filter((one) => one.kind !== "nymph");
  const left = nymphs.reduce((sum, one) => sum + one.left, 0);
  if (box.items.length === 0)
    return (
      <div className="max-w-xl">
        <h1 className="text-2xl font-bold">Your box is empty</h1>
        <p className="mt-1 text-soft">
          Until something is in it, any fly may be advised. Fill it, and only what you carry is.
        </p>
        {starter.isError && <Trouble error={starter.error} />}
        <div className="mt-4 grid gap-2 sm:grid-cols-2">
          <Button look="main" disabled={starter.isPending} onClick={() => starter.mutate()}>
            A starter box in one tap
          </Button>
          <Button onClick={() => setOpen("new")}>Put in a fly of your own</Button>
        </div>
        {rod && (
          <div className="mt-4">
            <RodPanel rod={rod} />
          </div>
        )}
        {open && <FlySheet box={box} item={null} onClose={() => setOpen(null)} />}
      </div>
    );
  return (
    <div className="grid grid-cols-1 gap-4 lg:grid-cols-[1.7fr_1fr]">
      <div className="min-w-0">
        <h1 className="text-2xl font-bold">
          {left} nymphs of {nymphs.length} kinds
        </h1>
        <p className="text-soft">Rigs are chosen from these. A fly logged as lost comes off the count.</p>
        <div className="mt-2 max-w-md">
          <Choice
            label="Sorted by"
            value={order}
            options={[
              ["bead", "bead"],
              ["form", "form"],
              ["left", "fewest left"],
            ]}
            onChange={setOrder}
          />
        </div>
        <ul className="mt-3 grid grid-cols-1 gap-2 sm:grid-cols-2">
          {nymphs.map((one) => (
            <Kind key={one.id} item={one} onOpen={() => setOpen(one)} />
          ))}
        </ul>
      </div>
      <div className="min-w-0 space-y-4">
        <Button look="main" className="w-full" onClick={() => setOpen("new")}>
          Put in a fly
        </Button>
        <Panel title="Floats and dries">
          <ul className="space-y-2">
            {rest.map((one) => (
              <Kind key={one.id} item={one} onOpen={() => setOpen(one)} />
            ))}
          </ul>
          {rest.length === 0 && <p className="text-soft">None in it: any may be advised.</p>}
        </Panel>
        {rod && <RodPanel rod={rod} />}
        <Lacking box={box} />
        <Button className="w-full" disabled={starter.isPending} onClick={() => starter.mutate()}>
          Add what a starter box has
        </Button>
      </div>
      {open && <FlySheet box={box} item={open === "new" ? null : open} onClose={() => setOpen(null)} />}
    </div>
  );
}

/** One kind: picture, words, and the count by thumb. */
function Kind({ item, onOpen }: { item: BoxItem; onOpen: () => void }) {
  const { show, bead: beadOf } = useUnits();
  const { put } = useFillBox();
  const count = (by: number) =>
    put.mutate({ id: item.id, body: { ...bodyOf(item), count: Math.max(0, item.left + by) } });
  const said =
    item.kind === "nymph"
      ? `${beadOf(item.bead_mm)} · size ${item.hook}`
      : item.carries_g === null
        ? ""
        : `carries ${show(item.carries_g, "g")}`;
  return (
    <li className={`rounded-xl border border-line bg-paper ${item.left === 0 ? "opacity-70" : ""}`}>
      <div className="flex flex-wrap items-center justify-end gap-1 p-1">
        <button
          type="button"
          onClick={onOpen}
          className="flex min-h-14 min-w-[min(100%,12rem)] flex-1 overflow-hidden items-center gap-2 text-left"
        >
          <FlyPicture item={item} />
          <span className="min-w-0">
            <span className="block leading-tight font-semibold wrap-anywhere">{item.words}</span>
            <span className="block text-sm text-soft">{said}</span>
            {item.sinks_m_s !== null && (
              <span className="block text-sm text-soft">
                sinks {show(item.sinks_m_s, "m/s")}
                {item.tank ? ", tank-tested" : ""}
              </span>
            )}
          </span>
        </button>
        <span className="flex shrink-0 items-center gap-1">
          <Button
            aria-label={`one ${item.words} fewer`}
            className="w-[56px] shrink-0 px-0 text-2xl"
            onClick={() => count(-1)}
          >
            −
          </Button>
          <span className="min-w-7 shrink-0 text-center text-xl font-semibold">
            {item.left}
            <span className="sr-only"> left</span>
          </span>
          <Button
            aria-label={`one ${item.words} more`}
            className="w-[56px] shrink-0 px-0 text-2xl"
            onClick={() => count(1)}
          >
            +
          </Button>
        </span>
      </div>
    </li>
  );
}
