import { Link } from "wouter";
import type { Beat } from "../../api/client";
import { address } from "../../app/addresses";
import { useDay } from "../../queries/day";
import { Button, Say, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { DayTimes } from "../today/DayTimes";
import { Turn } from "../today/Turn";

interface Props {
  beat: Beat;
  /** The lie at which one stands is left now. */
  movesOn: boolean;
  onClose: () => void;
}

/** What is left of the day at the beat, from where one stands; a lie of it is a tap away. */
export function DaySheet({ beat, movesOn, onClose }: Props) {
  const { day, error, again } = useDay(beat, movesOn);
  const order = day && [
    ...day.plan.legs.map((leg) => leg.lie),
    ...day.plan.left_out,
    ...beat.working.map((work) => work.lie_id),
  ];
  return (
    <Sheet title="The day" open onClose={onClose}>
      {day ? (
        <>
          <DayTimes day={day} />
          <p aria-live="polite" className={day.stale ? "invisible" : ""}>
            <Say text={day.plan.said} />
          </p>
          <ol className="divide-y divide-line">
            {[...new Set(order)].map((id) => {
              const lie = beat.lies.find((one) => one.id === id);
              const work = beat.working.find((one) => one.lie_id === id);
              return (
                lie &&
                work && (
                  <li key={id}>
                    <Link
                      to={address.lie(id, "log")}
                      onClick={onClose}
                      className="flex min-h-14 flex-wrap items-center justify-between gap-x-3 py-2"
                    >
                      <span className="font-semibold">{lie.name}</span>
                      <span>
                        <Turn lie={id} drifts={work.drifts} day={day} />
                      </span>
                    </Link>
                  </li>
                )
              );
            })}
          </ol>
        </>
      ) : error ? (
        <Trouble error={error} retry={again} />
      ) : (
        <Working what="Planning the day" here />
      )}
      <Button className="w-full" onClick={onClose}>
        Back to the keys
      </Button>
    </Sheet>
  );
}
