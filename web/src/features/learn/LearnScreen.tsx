import { useState } from "react";
import { Link, useLocation, useSearch } from "wouter";
import type { LogAnswer, Part, Question } from "../../api/client";
import { address, askedIn } from "../../app/addresses";
import {
  isQuestion,
  useAnswer,
  useAskable,
  useBehind,
  useCalibration,
  useEvidence,
  useForetelling,
  useUseInRig,
} from "../../queries/learn";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { OutingLine } from "../ledger/OutingLine";
import { Asking } from "./Asking";
import { LogTabs } from "./LogTabs";
import { RatePicture } from "./RatePicture";
import { shownOf, shownRate } from "./rates";
import { TrialPanel, TryIt } from "./Trial";

export function LearnScreen() {
  const askable = useAskable();
  const [, navigate] = useLocation();
  const ask = askedIn(useSearch());
  const setAsked = (ask: Question) => navigate(address.asked(ask));
  const question = isQuestion(ask) ? ask : (askable.data?.suggested[0]?.question ?? null);
  // a part that is still to be picked narrows nothing yet
  const whole = question && { ...question, only: question.only.filter((one) => one.part !== "") };
  const answer = useAnswer(whole);
  const left = useUnsaid(whole);
  return (
    <div className="mx-auto max-w-6xl">
      <LogTabs />
      {askable.fetchStatus === "paused" && !askable.data && (
        <p className="py-2">
          The log is asked at the service: that needs signal. The ledger has what this device knows of it.
        </p>
      )}
      {askable.isError && <Trouble error={askable.error} retry={() => askable.refetch()} />}
      {askable.isFetching && !askable.data && <Working what="Opening the log" />}
      {askable.data && !question && (
        <div className="space-y-3">
          <h1 className="text-2xl font-bold">Not enough is logged to ask yet</h1>
          <p>
            A question can be asked once two of something, such as two beads, have forty drifts each. Tap each
            drift on the Log screen, the empty ones too: they are what a rate is made of.
          </p>
          <TrialPanel />
        </div>
      )}
      {askable.data && question && (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
          <div className="min-w-0 space-y-3">
            <Answered answer={answer} question={question} />
            {left > 0 && (
              <p role="status" className="text-soft">
                {`What the rigs were to do is still being worked out, for ${left} settings.`}
              </p>
            )}
            <Asking question={question} askable={askable.data} onAsk={setAsked} />
            {answer.data && answer.data.parts.length > 0 && whole && (
              // what was said of another question keeps its room and goes out of sight
              <div className={`space-y-3 ${answer.isPlaceholderData ? "invisible" : ""}`}>
                <RatePicture answer={answer.data} question={question} />
                <p className="text-sm text-soft">
                  Dot: as it was fished, with the line in which it lies 9 times in 10. Ring: as if all had
                  been fished in the same mix of water.
                </p>
                <InTheRig answer={answer.data} question={whole} />
                <TryIt answer={answer.data} question={whole} />
                <TrialPanel />
                <Ground answer={answer.data} />
                <PartTable answer={answer.data} question={whole} />
              </div>
            )}
          </div>
          <nav aria-label="Questions this log can answer" className="min-w-0">
            <h2 className="pb-2 text-lg font-semibold">This log can answer</h2>
            <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-1">
              {askable.data.suggested.map((one) => (
                <li key={one.words}>
                  <Button
                    className="w-full text-left aria-pressed:border-2 aria-pressed:border-ink"
                    aria-pressed={JSON.stringify(one.question) === JSON.stringify(question)}
                    onClick={() => setAsked(one.question)}
                  >
                    {one.words}
                  </Button>
                </li>
              ))}
            </ul>
          </nav>
        </div>
      )}
    </div>
  );
}

/** Of how many settings it is still to be said what they do, where a question rests on that; it is worked out meanwhile. */
function useUnsaid(question: Question | null): number {
  const asked = question ? [question.by, ...question.only.map((one) => one.dimension)] : [];
  const ranks = asked.includes("ranked");
  const rests = ranks || question?.per === "zone_hour" || asked.includes("zone");
  const { data } = useCalibration(rests);
  const left = rests && data ? data.settings - (ranks ? data.ranked : data.said) : 0;
  useForetelling(left);
  return left;
}

/** The answer in one sentence, with how sure it is; room is kept for it, so that nothing below moves. */
function Answered({ answer, question }: { answer: ReturnType<typeof useAnswer>; question: Question }) {
  const { say } = useUnits();
  const found = answer.data;
  return (
    <div className="min-h-36" aria-live="polite" aria-busy={answer.isFetching}>
      {answer.isError && <Trouble error={answer.error} retry={() => answer.refetch()} />}
      {!found && answer.fetchStatus === "paused" && <p>That needs signal.</p>}
      {!found && answer.isFetching && <Working what="Asking the log" />}
      {found && (
        <div className={answer.isPlaceholderData ? "invisible" : ""}>
          <p className="text-soft">{say(found.question)}</p>
          <h1 className="text-2xl leading-8 font-bold" data-certainty={found.certainty}>
            {say(found.sentence)}
          </h1>
          {found.also && <p className="pt-1">{say(found.also)}</p>}
          {question.measure === "hung" && found.parts.length > 1 && (
            <p className="pt-1 text-soft">Of hang-ups, fewer is better.</p>
          )}
        </div>
      )}
    </div>
  );
}

/** An answer that is sure can stand beside the rig from now on; one that stands there can go. */
function InTheRig({ answer, question }: { answer: LogAnswer; question: Question }) {
  const used = useEvidence().data?.questions;
  const use = useUseInRig();
  const key = keyOf(question);
  const there = used?.some((one) => keyOf(one) === key) ?? false;
  const of = useAskable().data?.for_the_rig;
  const may =
    answer.certainty === "sure" && of?.by.includes(question.by) && of.measures.includes(question.measure);
  if (!used || (!there && !may)) return null;
  const others = used.filter((one) => keyOf(one) !== key);
  return (
    <div>
      <Button
        disabled={use.isPending}
        onClick={() => use.mutate(there ? others : [question, ...others].slice(0, MOST_IN_THE_RIG))}
      >
        {there ? "In the rig: take it out" : "Use this in the rig"}
      </Button>
      {use.isError && <Trouble error={use.error} />}
    </div>
  );
}

const MOST_IN_THE_RIG = 6;

/** What tells one question from another, however it was put together. */
const keyOf = ({ by, measure, per, only }: Question): string =>
  [by, measure, per, ...only.map((one) => `${one.dimension}=${one.part}`)].join(" ");

/** What it rests on, and what it is mixed up with. */
function Ground({ answer }: { answer: LogAnswer }) {
  const { say } = useUnits();
  return (
    <Panel>
      <h2 className="text-lg font-semibold">What it rests on</h2>
      <p>{answer.rests_on}</p>
      {answer.confounds.length > 0 && (
        <>
          <h3 className="pt-2 font-semibold">Mixed up with</h3>
          <ul className="list-disc space-y-1 pl-5">
            {answer.confounds.map((one) => (
              <li key={one}>{say(one)}</li>
            ))}
          </ul>
        </>
      )}
    </Panel>
  );
}

function PartTable({ answer, question }: { answer: LogAnswer; question: Question }) {
  const { say } = useUnits();
  const [behind, setBehind] = useState<Part | null>(null);
  const { times, unit } = shownOf(question);
  const number = (rate: number) => shownRate(rate, times);
  return (
    <Panel>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what can be scrolled must be reached by keys */}
      <section aria-label="Counts" className="overflow-x-auto" tabIndex={0}>
        <table className="w-full text-right tabular-nums [&_td]:px-1 sm:[&_td]:px-2 [&_th]:px-1 sm:[&_th]:px-2">
          <thead className="text-sm text-soft">
            <tr>
              <th className="text-left font-normal">
                <span className="sr-only">part</span>
              </th>
              <th className="font-normal">outings</th>
              <th className="font-normal">drifts</th>
              <th className="font-normal max-sm:hidden">hours</th>
              <th className="font-normal">{question.measure === "hung" ? "hang-ups" : question.measure}</th>
              <th className="font-normal">{unit}</th>
              <th className="font-normal max-sm:hidden">in similar water</th>
            </tr>
          </thead>
          <tbody>
            {answer.parts.map((one) => (
              <tr key={one.key} className="border-t border-line">
                <th className="py-2 text-left font-semibold">{say(one.label)}</th>
                <td>
                  <Button
                    look="quiet"
                    className="px-2"
                    aria-label={`${one.outings} outings with ${say(one.label)}`}
                    onClick={() => setBehind(one)}
                  >
                    {one.outings}
                  </Button>
                </td>
                <td>{one.drifts}</td>
                <td className="max-sm:hidden">{one.hours.toFixed(1)}</td>
                <td>{one.count}</td>
                <td>
                  {number(one.rate.median)}
                  <span className="whitespace-nowrap text-soft max-sm:block">{` (${number(one.rate.low)} to ${number(one.rate.high)})`}</span>
                </td>
                <td className="max-sm:hidden">{number(one.alike.median)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {answer.left_out > 0 && (
        <p className="pt-2 text-soft">{`${answer.left_out} more were fished too little to be compared.`}</p>
      )}
      {behind && (
        <Sheet title={`Fished with ${say(behind.label)}`} open onClose={() => setBehind(null)}>
          <Behind question={question} part={behind.key} />
        </Sheet>
      )}
    </Panel>
  );
}

function Behind({ question, part }: { question: Question; part: string }) {
  const outings = useBehind(question, part);
  if (outings.isError) return <Trouble error={outings.error} retry={() => outings.refetch()} />;
  if (!outings.data) return <Working what="Looking up the outings" />;
  return (
    <ul className="space-y-2">
      {outings.data.map((one) => (
        <li key={one.id}>
          <Link to={address.outing(one.id)} className="block min-h-14 rounded-xl border border-line p-3">
            <OutingLine outing={one} />
          </Link>
        </li>
      ))}
    </ul>
  );
}
