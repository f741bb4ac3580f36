import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Drink = Schemas["Drink"];
export type Step = Schemas["Step"];
export type Vessel = Schemas["Vessel"];
export type VesselKind = Schemas["VesselKind"];
export type DrinkView = Schemas["DrinkView"];
export type DrinkReport = Schemas["DrinkReport"];
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
export type Material = Schemas["Material"];

export const api = createClient<paths>();

/** What a failed call says, in words to show. */
export class CallFailed extends Error {
  constructor(readonly problem: Problem | undefined) {
    super(problem?.detail ?? "Keen Pitcher doesn't answer. Is it still running?");
  }
}

/** The answer's data, or an error that a screen can show. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch(() => {
    throw new CallFailed(undefined);
  });
  if (response.ok) return data as T;
  throw new CallFailed(error as Problem | undefined);
}
