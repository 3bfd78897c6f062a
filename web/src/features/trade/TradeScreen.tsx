import { useState } from "react";
import { Link, useParams } from "wouter";
import { address } from "../../app/addresses";
import { fishFirstHour, useFirstHour } from "../../local/habits";
import { Choice } from "../../ui/choosing";
import { Button, Panel, Say } from "../../ui/parts";
import { percent } from "../../units/units";
import { CastPicture } from "./CastPicture";
import firstHour from "./firstHour.json";
import { KnotPicture } from "./KnotPicture";
import { LiePicture } from "./LiePicture";
import { ListPicture } from "./ListPicture";
import { PARTS } from "./parts";
import { Troubles } from "./Troubles";
import { trade } from "./trade";
import { WordPicture } from "./WordPicture";

/** The trade explained: everything here comes with the app. */
export function TradeScreen() {
  const { part = "words" } = useParams();
  const title = PARTS.find(([key]) => key === part)?.[1] ?? "Words";
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <div className="print:hidden">
        <nav aria-label="The trade" className="grid grid-cols-4 gap-1.5 py-2 lg:flex lg:gap-2">
          <Link
            to="/practice"
            className="grid min-h-12 place-items-center rounded-full border border-line bg-paper px-0.5 text-center text-[min(1rem,3.8vw)] leading-tight lg:px-4"
          >
            Practice
          </Link>
          {PARTS.map(([key, text]) => (
            <Link
              key={key}
              to={address.part(key)}
              aria-current={key === part ? "page" : undefined}
              className={`grid min-h-12 place-items-center rounded-full px-0.5 text-center text-[min(1rem,3.8vw)] leading-tight lg:px-4 ${key === part ? "bg-ink font-semibold text-ground" : "border border-line bg-paper"}`}
            >
              {text}
            </Link>
          ))}
        </nav>
      </div>
      <h1 className="text-2xl font-bold">{title}</h1>
      {part === "first-hour" && <FirstHour />}
      {part === "knots" && <Knots />}
      {part === "at-a-lie" && <AtALie />}
      {part === "casts" && <Casts />}
      {part === "lists" && <Lists />}
      {part === "troubles" && <Troubles />}
      {title === "Words" && <Words />}
    </div>
  );
}

function Words() {
  return (
    <ul className="grid gap-2 sm:grid-cols-2">
      {trade.words.map((one) => (
        <li key={one.word} className="flex min-w-0 gap-3 rounded-2xl bg-paper p-3">
          <div className="w-28 max-w-[35%] shrink-0">
            <WordPicture drawing={one.drawing} />
          </div>
          <div className="min-w-0 wrap-anywhere">
            <b>{one.word}</b>
            <p>{one.meaning}</p>
          </div>
        </li>
      ))}
    </ul>
  );
}

function Knots() {
  const [left, setLeft] = useState(false);
  return (
    <>
      <div className="print:hidden">
        <Button onClick={() => setLeft(!left)}>
          {left ? "Drawn for the left hand" : "Drawn for the right hand"}
        </Button>
      </div>
      {trade.knots.map((knot) => (
        <Panel key={knot.name} title={knot.title}>
          <p className="text-soft">{`For ${knot.used_for}. Keeps about ${percent(knot.keeps)} of the line's strength (common practice, no source).`}</p>
          <ol className="mt-2 grid gap-3 sm:grid-cols-3">
            {knot.steps.map((step, k) => (
              <li key={step}>
                <KnotPicture knot={knot.name} step={k} left={left} />
                <p>{`${k + 1}. ${step}`}</p>
              </li>
            ))}
          </ol>
          <p className="mt-2">
            <b>Fails:</b> {knot.fails}
          </p>
        </Panel>
      ))}
    </>
  );
}

function AtALie() {
  return trade.at_a_lie.map((one) => (
    <Panel key={one.name} title={one.title}>
      <div className="grid gap-3 sm:grid-cols-[14rem_1fr] sm:items-start">
        <LiePicture part={one.name} title={one.title} />
        <div className="space-y-2">
          <ol className="list-inside list-decimal space-y-1">
            {one.steps.map((step) => (
              <li key={step}>
                <Say text={step} />
              </li>
            ))}
          </ol>
          <p>
            <b>The fault:</b> {one.fault}
          </p>
        </div>
      </div>
    </Panel>
  ));
}

function Casts() {
  return trade.casts.map((cast) => (
    <Panel key={cast.name} title={cast.title}>
      <div className="grid gap-3 sm:grid-cols-[14rem_1fr]">
        <CastPicture cast={cast.name} title={cast.title} />
        <div className="space-y-1">
          <p>
            <b>When:</b> {cast.when}
          </p>
          <p>{cast.how}</p>
          <p>
            <b>The fault:</b> {cast.fault}
          </p>
        </div>
      </div>
    </Panel>
  ));
}

function Lists() {
  return (
    <>
      <p className="font-semibold">{trade.first_word}</p>
      {trade.lists.map((list) => (
        <section
          key={list.name}
          className={`break-inside-avoid rounded-2xl bg-paper p-4 ${list.grave ? "border-l-4 border-caution" : ""}`}
        >
          <h2 className="mb-2 text-lg font-semibold">{list.title}</h2>
          <div className="grid gap-3 sm:grid-cols-[11rem_1fr] print:grid-cols-[8rem_1fr]">
            <ListPicture list={list.name} />
            <ul className="list-inside list-disc space-y-1">
              {list.points.map((point) => (
                <li key={point}>
                  <Say text={point} />
                </li>
              ))}
            </ul>
          </div>
        </section>
      ))}
      <Button className="w-full print:hidden" onClick={() => print()}>
        Print them
      </Button>
    </>
  );
}

const BANKS = [
  ["all", "everything"],
  ["simple", "simple, for a first hour"],
] as const;

function FirstHour() {
  const simple = useFirstHour();
  return (
    <>
      <p>One who has never fished needs six things, and nothing else of this app until they are easy.</p>
      <ol className="space-y-2">
        {firstHour.steps.map((step, k) => (
          <li key={step.title} className="rounded-2xl bg-paper p-4">
            <b>{`${k + 1}. ${step.title}.`}</b> {step.words}
          </li>
        ))}
      </ol>
      <div className="rounded-2xl bg-paper p-4 print:hidden">
        <Choice
          label="The bank"
          value={simple === undefined ? null : simple ? "simple" : "all"}
          options={BANKS}
          onChange={(one) => void fishFirstHour(one === "simple")}
        />
        <p className="mt-2 text-soft">
          On Log, at any lie: one float and one fly, the lane to cast to, and four keys. Everything else is
          out of sight until you want it.
        </p>
      </div>
      <div className="grid gap-2 sm:grid-cols-2 print:hidden">
        <Link
          to={address.drill("first_hour", "1")}
          className="grid min-h-14 place-items-center rounded-xl bg-signal-fill font-semibold text-signal-ink"
        >
          Try it here first
        </Link>
        <Link
          to={address.part("lists")}
          className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper"
        >
          What to mind before you step in
        </Link>
      </div>
    </>
  );
}
