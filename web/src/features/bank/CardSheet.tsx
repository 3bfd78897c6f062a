import type { CoachIn, Step } from "../../api/client";
import { useCard } from "../../queries/card";
import { Button, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";

/** What the coach will say after each likely run of drifts, two changes ahead. */
export function CardSheet({ lie, asked, onClose }: { lie: string; asked: CoachIn; onClose: () => void }) {
  const card = useCard(lie, asked);
  return (
    <Sheet title="What comes next" open onClose={onClose}>
      <p className="text-soft">Fished as the coach says now: what comes if the next drifts all end so.</p>
      {card.steps.length > 0 && <Steps steps={card.steps} />}
      {card.error ? (
        <Trouble error={card.error} retry={card.again} />
      ) : (
        !card.whole && <Working what="Looking ahead" here />
      )}
      <Button className="w-full" onClick={onClose}>
        Back to the keys
      </Button>
    </Sheet>
  );
}

function Steps({ steps }: { steps: Step[] }) {
  const { say } = useUnits();
  return (
    <ul className="space-y-2">
      {steps.map((step) => (
        <li key={step.outcome}>
          <span className="font-semibold first-letter:uppercase">{say(step.said)}</span>
          {step.then.length > 0 && (
            <div className="mt-1 border-l-4 border-line pl-3 [&_span]:font-normal">
              <Steps steps={step.then} />
            </div>
          )}
        </li>
      ))}
    </ul>
  );
}
