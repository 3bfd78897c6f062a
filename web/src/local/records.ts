/** What is kept on the device, and where: one table a kind, each with the reason it is there. */
import Dexie, { type EntityTable } from "dexie";
import type { Limits, RigKind, Setup } from "../api/client";
import type { components } from "../api/generated";

type Schemas = components["schemas"];

export interface Bodies {
  outings: Schemas["OutingIn"];
  stops: Schemas["StopIn"];
  settings: Schemas["SettingIn"];
  drifts: Schemas["DriftLogIn"];
  catches: Schemas["CatchIn"];
}
export type Kind = keyof Bodies;

/** One thing the angler wrote. It stays here for good; `sent` says whether the service has acknowledged this version. */
export type Entry = {
  [K in Kind]: {
    id: string;
    kind: K;
    angler: string;
    seq: number;
    sent: 0 | 1;
    refused: string | null;
    body: Bodies[K];
  };
}[Kind];

/** The rig in hand at a lie: what was chosen on the Rig screen, kept until another is. */
export interface InHand {
  lie: string;
  rig: RigKind;
  depth_setting_m: number;
  point_bead_mm: number;
  setup: Setup;
  limits: Limits;
}

/** What the service last answered, so that the app opens without it. May be thrown away at any time: it can be asked again. */
export interface Answers {
  key: "answers";
  state: unknown;
}

export class Device extends Dexie {
  entries!: EntityTable<Entry, "id">;
  inHand!: EntityTable<InHand, "lie">;
  answers!: EntityTable<Answers, "key">;

  constructor() {
    super("deriva");
    // A change of these stores is a new version with a migration, never an edit of this line.
    this.version(1).stores({ entries: "id, [angler+seq], sent", inHand: "lie" });
    this.version(2).stores({ answers: "key" });
  }
}

export const device = new Device();
