import createClient from "openapi-fetch";
import type { components, paths } from "./schema";
import { newKey } from "./newKey";

export type Schemas = components["schemas"];
export type Drink = Schemas["Drink"];
export type Step = Schemas["Step"];
export type Vessel = Schemas["Vessel"];
export type VesselKind = Schemas["VesselKind"];
export type DrinkView = Schemas["DrinkView"];
export type DrinkReport = Schemas["DrinkReport"];
export type Glance = Schemas["Glance"];
export type LineReport = Schemas["LineReport"];
export type VesselReport = Schemas["VesselReport"];
export type StateReport = Schemas["StateReport"];
export type Notice = Schemas["Notice"];
export type Profile = Schemas["Profile"];
export type BalanceMapData = Schemas["BalanceMap"];
export type Ingredient = Schemas["IngredientView"];
export type Problem = Schemas["Problem"];
export type Settings = Schemas["Settings"];
export type ShelfEntry = Schemas["ShelfEntry"];
export type Size = Schemas["Size"];
export type Way = Schemas["Way"];
export type Aim = Schemas["Aim"];
export type Target = Schemas["Target"];
export type Solution = Schemas["Solution"];
export type Spot = Schemas["Spot"];
export type Spread = Schemas["Spread"];
export type Asked = Schemas["Asked"];
export type Correction = Schemas["Correction"];
export type Remedy = Schemas["Remedy"];
export type Swapped = Schemas["Swapped"];
export type Steeping = Schemas["Steeping"];
export type Lesson = Schemas["Lesson"];
export type Syrup = Schemas["Syrup"];
export type SyrupAsked = Schemas["SyrupAsked"];
export type Kitchen = Schemas["Kitchen"];
export type KitchenView = Schemas["KitchenView"];
export type Produce = Schemas["ProduceView"];
export type Start = Schemas["StartView"];
export type Change = Schemas["Change"];
export type DamagedEntry = Schemas["DamagedEntry"];
export type Backup = Schemas["BackupView"];
export type Material = Schemas["Material"];
export type PlanFile = Schemas["PlanFile"];
export type PlanView = Schemas["PlanView"];
export type PlanEntry = Schemas["PlanEntry"];
export type PlanAnswer = Schemas["PlanAnswer"];
export type DrinkInPlan = Schemas["DrinkInPlan"];
export type Plan = Schemas["Plan"];
export type Help = Schemas["Help"];
export type PlannedTask = Schemas["PlannedTask"];
export type Block = Schemas["Block"];
export type BatchView = Schemas["BatchView"];
export type BatchEntry = Schemas["BatchEntry"];
export type Happening = Schemas["Happening"];
export type Ending = Schemas["Ending"];
export type GoingBatch = Schemas["GoingBatch"];
export type InstrumentView = Schemas["InstrumentView"];
export type InstrumentKind = Schemas["InstrumentKind"];
export type WayOn = Schemas["WayOn"];
export type Doubt = Schemas["Doubt"];
export type Truth = Schemas["TruthView"];
export type Door = Schemas["DoorView"];
export type KeptBottle = Schemas["BottleView"];
export type OpenBottle = Schemas["OpenBottle"];
export type BottleMove = Schemas["Move"];
export type Place = Schemas["Place"];
export type VersionView = Schemas["VersionView"];
export type HistoryView = Schemas["HistoryView"];
export type PastedView = Schemas["PastedView"];
export type Thing = Schemas["Thing"];
export type PasteChoice = Schemas["Choice"];

/** This window, as the server knows it: so that it isn't told of its own changes. */
export const windowId = newKey();

export const api = createClient<paths>({ headers: { "x-asker": windowId } });

// A phone that wasn't let in, or was put out, is asked for the code.
api.use({
  onResponse({ response }) {
    if (response.status === 401 && window.location.pathname !== "/join")
      window.location.replace("/join");
  },
});

/**
 * Headers of a question to the core. `screen` says which part of this window asks: when it asks anew,
 * its question before is given up.
 */
export function asking(screen: string) {
  return { "x-asker": `${windowId}/${screen}` };
}

/** The largest request that a browser sends on after its window has gone, less a little for headers. */
const MOST_KEPT_ALIVE = 60_000;

/** Whether a change can be sent on by the browser when its page is left at once. */
export const outlivesThePage = (body: object) => JSON.stringify(body).length < MOST_KEPT_ALIVE;

/** What a failed call says, in words to show. */
export class CallFailed extends Error {
  /** `problem` is what the server said; none where there was no answer at all. */
  constructor(
    readonly problem: Problem | undefined,
    said?: string,
  ) {
    super(problem?.detail ?? said ?? "Keen Pitcher isn't answering. Is it still running?");
  }

  /**
   * Whether asking the same again later may go well: no answer, or the data file can't do it now. A newer question may
   * arrive before the older one that it was to replace; who still waits for its answer asks once more.
   */
  get mayPass(): boolean {
    return (
      this.problem === undefined || this.problem.status >= 500 || this.problem.type === "superseded"
    );
  }
}

/** As much of a list as is shown at once. */
export const ALL = { limit: 500 };

/** The answer's data, or an error that a screen can show. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch((fault: unknown) => {
    // What was given up on purpose is no failure to tell.
    if (fault instanceof DOMException && fault.name === "AbortError") throw fault;
    throw new CallFailed(undefined);
  });
  if (response.ok) return data as T;
  const problem = error as Problem | undefined;
  if (typeof problem?.detail === "string") throw new CallFailed(problem);
  throw new CallFailed(undefined, `We couldn't read Keen Pitcher's answer (${response.status}).`);
}
