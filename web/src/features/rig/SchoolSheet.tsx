/** The schools: where practitioners disagree, which side this angler takes, everywhere or at this lie. */
import { useState } from "react";
import type { Lie, School } from "../../api/client";
import { useFollow, useSchools, useSession } from "../../api/hooks";
import { Button, Choice, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

export function SchoolSheet({ lie, onClose }: { lie: Lie; onClose: () => void }) {
  const schools = useSchools();
  const session = useSession();
  const { everywhere, here } = useFollow();
  const own = session.data?.angler?.school;
  const [where, setWhere] = useState<"everywhere" | "here">(lie.school ? "here" : "everywhere");
  const standing = (where === "here" ? (lie.school ?? own) : own) ?? null;
  const follow = (school: School) =>
    where === "here" ? here.mutate({ lie: lie.id, school }) : everywhere.mutate(school);
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
        schools.data?.map((one) => {
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
        <Button look="main" onClick={onClose}>
          Done
        </Button>
      </div>
    </Sheet>
  );
}
