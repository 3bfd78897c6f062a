/** The service, typed by its own OpenAPI document. */
import createClient from "openapi-fetch";
import type { components, paths } from "./generated";
import { carried } from "./road";

type Schemas = components["schemas"];
export type Situation = Schemas["Situation"];
export type Ranked = Schemas["RankedOut"];
export type Advice = Schemas["AdviceOut"];
export type Tuning = Schemas["Tuning"];
export type Setup = Schemas["Setup"];
export type DrySetup = Schemas["DrySetup"];
export type Column = Schemas["DrawnColumn"];
/** How a rig lands, and what a rod tip does with it. */
export type How = Pick<Schemas["PathIn"], "entry" | "handling" | "swing">;
export type DriftPath = Schemas["PathOut"];
export type Beat = Schemas["BeatOut"];
export type Lie = Schemas["LieOut"];
export type Reading = Schemas["ReadingOut"];
export type ReadingIn = Schemas["ReadingIn"];
export type Ledger = Schemas["LedgerOut"];
export type OutingSummary = Schemas["OutingOut"];
export type Session = Schemas["SessionOut"];
export type Why = Schemas["Why"];
export type Fault = Schemas["Fault"];
export type Outcome = Schemas["DriftLogIn"]["outcome"];
export type Pace = NonNullable<Schemas["DriftLogIn"]["pace"]>;
export type CatchIn = Schemas["CatchIn"];
export type BeatIn = Schemas["BeatIn"];
export type LieIn = Schemas["LieIn"];
export type RiverIn = Schemas["RiverIn"];
export type GaugeIn = Schemas["GaugeIn"];
export type River = Schemas["RiverOut"];
export type Today = Schemas["TodayOut"];
export type DayAsked = Schemas["DayAsked"];
export type DayPlan = Schemas["DayPlan"];
export type Carried = NonNullable<Lie["today"]>;
export type RigKind = Ranked["rig"];
export type School = Schemas["School"];
export type Rod = Schemas["Rod"];
export type Disagreement = Schemas["Disagreement"];
export type Box = Schemas["BoxOut"];
export type BoxItem = Schemas["BoxItemOut"];
export type BoxItemIn = Schemas["NymphIn"] | Schemas["DryIn"] | Schemas["FloatIn"];
export type NymphIn = Schemas["NymphIn"];
export type Missing = Schemas["MissingOut"];
export type Changes = Schemas["ChangesOut"];
export type Comparison = Schemas["CompareOut"];
export type Build = Schemas["BuildOut"];
export type Bottom = Schemas["Bottom"];
export type CoachIn = Schemas["Asked"];
export type Step = Schemas["StepOut"];
export type Coaching = Schemas["CoachOut"];
export type BuildIn = Schemas["BuildIn"];
export type Caution = Schemas["Caution"];
export type Question = Schemas["Question"];
export type Trial = Schemas["Trial"];
export type TrialTold = Schemas["TrialOut"];
export type LogAnswer = Schemas["Answer"];
export type Part = LogAnswer["parts"][number];
export type Askable = Schemas["AskableOut"];
export type HereIn = Schemas["HereIn"];
export type DimensionName = Question["by"];
export type Drill = Schemas["Drill"];
export type Game = Schemas["Game"];
export type Cast = Schemas["Cast"];
export type Shown = Schemas["Shown"];
export type Lifted = Schemas["ToldOut"];
export type Revealed = Schemas["Revealed"];
export type Finished = Schemas["FinishedOut"];
export type PracticeWater = Schemas["WaterOut"];
export type KeptGame = Schemas["KeptGameOut"];
export type Limits = Ranked["limits"];

const baseUrl = typeof location === "undefined" ? "http://test" : location.origin;
export const api = createClient<paths>({
  baseUrl,
  fetch: (request) => carried(request, {}, request.method === "GET"),
});
/** The service, for questions that are put in a body: to ask one again changes nothing. */
export const questions = createClient<paths>({ baseUrl, fetch: (request) => carried(request, {}, true) });

/** A fault without the name of its field, for where the field is in sight or has no name that people use. */
export const plainly = (fault: Fault): string => {
  const said = fault.message
    .replace(/^[\w.]+ = [\w.+-]+: /, "")
    .replace(/^[\w.]+ = /, "")
    .replace(/^[\w.]+ has /, "it has ");
  return said.charAt(0).toUpperCase() + said.slice(1);
};

/** What the service refused, and why, in words for a person. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly faults: Fault[],
  ) {
    super(faults.map((fault) => fault.message).join(" · ") || `The service answered ${status}.`);
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Return the data of an answer, or throw {@link Refused} with its faults. */
export async function unwrap<T>(asked: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await asked;
  if (response.ok && data !== undefined) return data;
  if (response.status === 204) return undefined as T; // done, and nothing to say
  const faults = (error as { faults?: Fault[] } | undefined)?.faults ?? [];
  throw new Refused(response.status, faults);
}
