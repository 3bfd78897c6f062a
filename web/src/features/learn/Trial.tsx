import type { LogAnswer, Question } from "../../api/client";
import { useAskable } from "../../queries/learn";
import { useTrial, useTry } from "../../queries/trial";
import { Button, Panel, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";

/** How the fair trial stands that is under way, and whose turn it is. */
export function TrialPanel() {
  const { say } = useUnits();
  const { data } = useTrial();
  const end = useTry();
  if (!data) return null;
  const { sides, turn, left, sentence } = data.standing;
  const now = sides.find((one) => one.key === turn);
  return (
    <Panel>
      <h2 className="text-lg font-semibold">
        {`Fair trial: ${sides.map((one) => say(one.label)).join(" against ")}`}
      </h2>
      <p>{say(sentence)}</p>
      <p>
        {"Now "}
        <b>{now && say(now.label)}</b>
        {`, for ${left} drifts. Then the other: in turns, neither has the better water.`}
      </p>
      <Button disabled={end.isPending} onClick={() => end.mutate(null)}>
        End the trial
      </Button>
      {end.isError && <Trouble error={end.error} />}
    </Panel>
  );
}

/** Fish the two that an answer is about in turns: what was fished as it came can always be the water. */
export function TryIt({ answer, question }: { answer: LogAnswer; question: Question }) {
  const { say } = useUnits();
  const begin = useTry();
  const under = useTrial().data;
  const [first, second] = [answer.best, answer.other].map((key) =>
    answer.parts.find((one) => one.key === key),
  );
  const by = useAskable().data?.for_a_trial.find((one) => one === question.by);
  if (under !== null || !by || !first || !second) return null;
  const trial = { by, first: first.key, second: second.key };
  return (
    <div>
      <Button disabled={begin.isPending} onClick={() => begin.mutate(trial)}>
        {`Try ${say(first.label)} against ${say(second.label)} fairly`}
      </Button>
      {begin.isError && <Trouble error={begin.error} />}
    </div>
  );
}
