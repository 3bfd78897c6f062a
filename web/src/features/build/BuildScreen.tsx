/** How to tie the rig: every piece from the line to the fly, to scale beside its table; to keep, to share, to print. */

import { useState } from "react";
import { Link } from "wouter";
import { api, type Build, type BuildIn } from "../../api/client";
import { address } from "../../app/addresses";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { rigOf, tuningOf, useOnRod } from "../../local/inhand";
import { useRoad } from "../../local/road";
import { useBuild } from "../../queries/rigs";
import { useAdvice } from "../../queries/water";
import { Choice } from "../../ui/choosing";
import { Button, Panel, Say, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { LEADERS } from "../box/RodPanel";
import { LeaderPicture } from "./LeaderPicture";

/** What the trade explains of what is done with a rig. */
const EXPLAINED = [
  ["knots", "The knots, step by step"],
  ["at-a-lie", "How a drift is fished"],
] as const;

export const BuildScreen = () => <WithLie here>{(at) => <Ready {...at} />}</WithLie>;

const save = (data: Blob, name: string) => {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(data);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
};

function Ready({ lie, beat, situation }: AtLie) {
  const { show } = useUnits();
  const road = useRoad();
  const advice = useAdvice(lie.id, situation);
  const inHand = useOnRod(lie.id);
  const [background, setBackground] = useState<BuildIn["background"]>(null);
  const [leader, setLeader] = useState<BuildIn["leader"]>(null);
  const held = situation.rod?.leader ?? "any";
  const best = advice.data?.ranked.find((one) => one.setup);
  const rig = rigOf(inHand ?? null);
  const advised = inHand !== undefined && best?.setup ? tuningOf(best.rig, best.setup) : null;
  const tuning = rig ? tuningOf(rig.rig, rig.setup) : advised;
  const on = new Date().toLocaleDateString("sv-SE"); // today, as ISO 8601 writes it
  const asked = tuning && { situation, tuning, background, leader, lie: lie.name, beat: beat.name, on };
  const build = useBuild(asked);
  const [failed, setFailed] = useState<unknown>(null);
  if (advice.data && !tuning && inHand !== undefined)
    return <Trouble error={new Error("No rig can be used here, so there is none to tie.")} />;
  if (build.isError) return <Trouble error={build.error} retry={() => build.refetch()} />;
  if (!build.data || !asked) return <Working what="Measuring the line" here />;
  const made = build.data;
  const fileName = `${made.rig} ${lie.name} ${on}`.toLowerCase().replace(/[^\p{L}\d]+/gu, "-");
  const pdf = async () => {
    const answer = await api.POST("/api/build.pdf", { body: asked, parseAs: "blob" });
    if (answer.data) save(answer.data as unknown as Blob, `${fileName}.pdf`);
    else setFailed(new Error("The card could not be made."));
  };
  const json = () => {
    const { said: _, ...shared } = made;
    save(new Blob([JSON.stringify(shared, null, 2)], { type: "application/json" }), `${fileName}.json`);
  };
  return (
    <div className="grid grid-cols-1 gap-4 lg:grid-cols-[1fr_1.5fr]">
      <div className="min-w-0">
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl leading-snug font-bold">How to tie it</h1>
        <p className="text-soft">
          <Say text={made.said} />
        </p>
        <p className="hidden font-semibold print:block">
          {lie.name}, {beat.name}, {show(situation.water.depth_m, "m")} deep, {on}
        </p>
        <LeaderPicture build={made} />
      </div>
      <div className="min-w-0 space-y-4">
        <Panel title="From the rod end down">
          <Pieces build={made} />
        </Panel>
        <Panel>
          <Choice
            label="It will be seen against"
            value={background ?? made.background}
            options={[
              ["dark", "a dark bank"],
              ["bright", "bright water"],
              ["shy", "shy fish"],
            ]}
            onChange={setBackground}
          />
          <p className="mt-1">{made.colour}</p>
          <div className="mt-3">
            <Choice
              label="Leader on the rod"
              value={leader ?? (held === "any" ? null : held)}
              options={LEADERS}
              onChange={setLeader}
            />
          </div>
          <ul className="mt-3 list-inside list-disc text-soft">
            {made.notes.map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        </Panel>
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2 print:hidden">
          {EXPLAINED.map(([part, text]) => (
            <Link
              key={part}
              to={address.part(part)}
              className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-2 text-center leading-tight"
            >
              {text}
            </Link>
          ))}
        </div>
        {failed !== null && <Trouble error={failed} />}
        <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2 print:hidden">
          {road && (
            <Button look="main" onClick={() => pdf().catch(setFailed)}>
              Card for the pocket (PDF)
            </Button>
          )}
          <Button onClick={json}>Share it (JSON)</Button>
        </div>
      </div>
    </div>
  );
}

/** Pieces of line with what to cut them at; what is tied at the lower end of each stands under it. */
function Pieces({ build }: { build: Build }) {
  const { show } = useUnits();
  const tied = [...build.tied];
  let left = build.sections.reduce((sum, one) => sum + (one.name === "tag" ? 0 : one.length_m), 0);
  const rows = build.sections.map((one) => {
    if (one.name === "tag") return { section: one, hung: [] };
    left -= one.length_m;
    const hung = tied.filter((part) => part.above_point_m >= left - 1e-6);
    tied.splice(0, hung.length);
    return { section: one, hung };
  });
  return (
    <table className="w-full table-fixed border-separate wrap-anywhere border-spacing-y-1 text-left">
      <thead className="text-sm text-soft">
        <tr>
          <th className="w-1/2 font-normal">piece</th>
          <th className="font-normal">fishes</th>
          <th className="font-normal">cut at</th>
        </tr>
      </thead>
      {rows.map(({ section, hung }) => (
        <tbody key={section.name} className="align-top">
          <tr>
            <td className="pr-2">
              <span className="font-semibold">{section.name}</span>
              <span className="block text-sm text-soft">
                {section.diameter_mm.toFixed(2)} mm {section.material}, about{" "}
                {show(section.breaks_at_kg, "kg")} knotted · {section.note}
              </span>
            </td>
            <td className="pr-3">{show(section.length_m, "m")}</td>
            <td className="font-semibold">{show(section.cut_m, "m")}</td>
          </tr>
          {hung.map((part) => (
            <tr key={part.part} className="text-mark">
              <td colSpan={2} className="pl-4">
                <span className="font-semibold">{part.part}</span>: {part.words}
              </td>
              <td className="text-sm">
                {part.above_point_m > 0 ? `${show(part.above_point_m, "m")} up` : ""}
              </td>
            </tr>
          ))}
        </tbody>
      ))}
    </table>
  );
}
