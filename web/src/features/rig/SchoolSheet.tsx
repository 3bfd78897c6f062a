/** The schools: where practitioners disagree, which side this angler takes, everywhere or at this lie. */
import { useState } from "react";
import type { Lie, School, Situation } from "../../api/client";
import { useFollow, useSchools, useSession } from "../../queries/angler";
import { useAdvice } from "../../queries/water";
import { Choice } from "../../ui/choosing";
import { Button, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

interface Props {
  lie: Lie;
  situation: Situation;
  onClose: () => void;
}

export function SchoolSheet({ lie, situation, onClose }: Props) {
  const advice = useAdvice(lie.id, situation);
  const schools = useSchools();
  const session = useSession();
  const { everywhere, here } = useFollow();
  const own = session.data?.angler?.school;
  const [where, setWhere] = useState<"everywhere" | "here">(lie.school ? "here" : "everywhere");
  const standing = (where === "here" ? (lie.school ?? own) : own) ?? null;
  // at one lie only what can change the advice there is asked
  const asked = ({ question }: { question: string }) =>
    where === "everywhere" || !advice.data || advice.data.schools.some((one) => one === question);
  const follow = (school: School) =>
    where === "here" ? here.mutate({ lie: lie.id, school }) : everywhere.mutate(school);
  // what is advised begins anew with a school: nothing is to be chosen under it that would go again
  const settling = [everywhere, here].some((one) => one.isPending && !one.isPaused);
  return (
    <Sheet title="Your school" open onClose={onClose}>
      <p className="text-soft">
        Practitioners disagree here, and all of them catch fish. What you choose changes what is advised.
      </p>
      <Choice
        label="Holds"
        value={where}
        options={[
          ["everywhere", "everywhere"],
          ["here", `at ${lie.name} only`],
        ]}
        onChange={setWhere}
      />
      {where === "everywhere" && lie.school && (
        <p className="text-sm text-caution">{lie.name} keeps the school of its own.</p>
      )}
      {schools.isPending && <Working what="Asking around" />}
      {schools.isError && <Trouble error={schools.error} retry={() => schools.refetch()} />}
      {standing &&
        schools.data?.filter(asked).map((one) => {
          const taken = standing[one.question] as string;
          return (
            <div key={one.question}>
              <Choice
                label={one.asks}
                value={taken}
                options={one.sides.map((side) => [side.value, side.name] as const)}
                onChange={(value) => follow({ ...standing, [one.question]: value } as School)}
              />
              <p className="mt-1 text-sm text-soft">
                {one.sides.find((side) => side.value === taken)?.belief}
              </p>
            </div>
          );
        })}
      {(everywhere.isError || here.isError) && <Trouble error={everywhere.error ?? here.error} />}
      <div className="grid grid-cols-2 gap-2">
        <Button
          disabled={!lie.school}
          onClick={() => {
            here.mutate({ lie: lie.id, school: null });
            setWhere("everywhere");
          }}
        >
          As everywhere
        </Button>
        <Button look="main" disabled={settling} onClick={onClose}>
          Done
        </Button>
      </div>
    </Sheet>
  );
}
