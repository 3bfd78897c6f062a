import type { Advice } from "../../api/client";
import { asAdvised } from "../../local/inhand";
import type { Log } from "../../local/logbook";
import { brought } from "../../ui/brought";
import { changes, leaves, ties } from "./CoachLine";
import { spotOf, spotsOf } from "./spots";
import { correct } from "./useBank";
import type { AtTheBank, Fishing } from "./useFishing";

/** What lies over the bank comes in a file of its own: the bank itself does not wait for it. */
const sheets = brought(() => import("./sheets"));
const BottomSheet = sheets.part("BottomSheet");
const BubbleSheet = sheets.part("BubbleSheet");
const CardSheet = sheets.part("CardSheet");
const CatchSheet = sheets.part("CatchSheet");
const ChangeSheet = sheets.part("ChangeSheet");
const DaySheet = sheets.part("DaySheet");
const DrySheet = sheets.part("DrySheet");
const EndSheet = sheets.part("EndSheet");
const LatestSheet = sheets.part("LatestSheet");
const LostSheet = sheets.part("LostSheet");
const StopAndRead = sheets.part("StopAndRead");
const TieSheet = sheets.part("TieSheet");

export const OnTime = sheets.part("OnTime");

/** Have it at hand before it is asked for. */
export const bringOver = sheets.bring;

/** What may be opened over the bank. */
export type Opened = "change" | "coach" | "tie" | "time" | "latest" | "bottom" | "ahead" | "day" | "end";

interface Props {
  fished: Fishing;
  log: Log;
  the: AtTheBank;
}

interface OpenedProps extends Props {
  sheet: Opened;
  advice: Advice | undefined;
  onClose: () => void;
}

/** What was opened over the bank. */
export function OpenedSheet(props: OpenedProps) {
  const { sheet, fished, log, the, advice, onClose } = props;
  const { lie, beat, situation, inHand, angler } = fished;
  const { advised } = the;
  switch (sheet) {
    case "change":
    case "coach":
      return <SetAnew {...props} />;
    case "tie":
      return inHand.rig !== "dry" && advised && ties(advised) ? (
        <TieSheet
          coaching={advised}
          inHand={inHand}
          situation={situation}
          known={advice?.ranked.find((one) => one.rig === advised.advice.rig) ?? null}
          onClose={onClose}
        />
      ) : null;
    case "latest":
      return log.outing ? (
        <LatestSheet angler={angler} beat={beat} outing={log.outing.id} onClose={onClose} />
      ) : null;
    case "ahead": {
      const asked = the.asked(the.spot);
      return asked && <CardSheet lie={lie.id} asked={asked} onClose={onClose} />;
    }
    case "bottom":
      return (
        <BottomSheet
          lie={lie.id}
          spots={spotsOf(log, the.bottom, the.spot)}
          here={the.spot}
          lanes={the.work?.lanes}
          bottom={the.bottom}
          asked={the.asked}
          onForget={the.forget ?? null}
          drifts={log.drifts.map((one) => spotOf(one.body))}
          onGo={(to) => {
            the.setMoved(to);
            onClose();
          }}
          onClose={onClose}
        />
      );
    case "day":
      return <DaySheet beat={beat} movesOn={leaves(advised)} onClose={onClose} />;
    case "end":
      return (
        <EndSheet
          drifts={log.drifts.length}
          onClose={onClose}
          onEnd={() => {
            onClose();
            the.endIt();
          }}
        />
      );
    case "time":
      return (
        <BubbleSheet
          lie={lie.name}
          onClose={onClose}
          onSave={(distance_m, seconds) => {
            onClose();
            the.seen({ speed: { how: "bubbles", distance_m, seconds } });
          }}
        />
      );
  }
}

/** Another setting: of a rig, also as the coach says, or of a single dry. */
function SetAnew({ sheet, fished, the, advice, onClose }: OpenedProps) {
  const { lie, situation, inHand, angler } = fished;
  const { advised, weed } = the;
  const first = advice?.ranked[0];
  if (inHand.rig !== "dry")
    return (
      <ChangeSheet
        onCoach={sheet === "coach"}
        onClose={onClose}
        inHand={inHand}
        situation={situation}
        dry={advice?.single_dry?.setup ?? null}
        angler={angler}
        weed={weed}
        suggested={
          advised && changes(advised)
            ? {
                depth: advised.advice.depth_setting_m,
                bead: advised.advice.point_bead_mm,
                float: advised.advice.float ?? null,
              }
            : null
        }
      />
    );
  if (sheet === "coach") return null;
  return <DrySheet inHand={inHand} advised={first ? asAdvised(lie.id, first) : null} onClose={onClose} />;
}

/** What is asked of whoever fishes, unasked: to stop and read, which fly went, and what was landed. */
export function AskedSheets({ fished: { angler, beat, inHand }, the }: Omit<Props, "log">) {
  const { parted, landing, reading, grave, unheeded } = the;
  return (
    <>
      {(reading || unheeded) && (
        <StopAndRead
          cautions={grave}
          onGo={the.begin}
          onClose={() => (unheeded ? the.begin() : the.setReading(false))}
        />
      )}
      {parted && inHand.rig !== "dry" && (
        <LostSheet
          setup={inHand.setup}
          onClose={() => the.setParted(null)}
          onSay={(lost) => {
            the.act(() => correct(angler, parted, { lost }));
            the.setParted(null);
          }}
        />
      )}
      {landing && (
        <CatchSheet
          drift={landing}
          angler={angler}
          on={inHand}
          release={beat.rules.release}
          onClose={() => the.setLanding(null)}
        />
      )}
    </>
  );
}
