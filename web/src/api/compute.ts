import { answer, api, type Drink, type DrinkReport, type Glance, type Schemas } from "./client";

type Measured = Schemas["Measured"];
type WhatItTeaches = Schemas["WhatItTeaches"];

/** Runs a drink. */
export async function trace(drink: Drink, signal?: AbortSignal): Promise<DrinkReport> {
  return (await answer(api.POST("/api/compute/trace", { body: drink, signal }))) as DrinkReport;
}

/** Runs a drink for what moves while an amount is dragged. */
export function glance(drink: Drink): Promise<Glance> {
  const only = { query: { fields: "moving" as const } };
  return answer(api.POST("/api/compute/trace", { body: drink, params: only }));
}

/** What a measurement teaches; nothing is kept by asking. */
export async function explain<Of extends Measured["of"]>(measured: Extract<Measured, { of: Of }>) {
  const taught = await answer(api.POST("/api/compute/measured", { body: measured }));
  return taught as Extract<WhatItTeaches, { of: Of }>;
}
