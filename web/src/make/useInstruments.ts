import { useQuery } from "@tanstack/react-query";
import { readAll } from "../api/changes";
import { orComplain } from "../api/complaints";
import { answer, api, type InstrumentKind, type InstrumentView } from "../api/client";
import { keys } from "../api/keys";

/** The instruments that are there; what they read is told as it changes. */
export function useInstruments(practice: boolean, wanted = true) {
  const { data } = useQuery({
    queryKey: keys.instruments(practice),
    queryFn: () =>
      readAll(practice, async () => {
        const query = { params: { query: { practice } } };
        return (await answer(api.GET("/api/instruments", query))).instruments;
      }),
    meta: { shared: true },
    enabled: wanted,
    staleTime: 0,
    // Stand-ins that are only just started tell of themselves a moment later.
    refetchInterval: (query) => ((query.state.data ?? []).length === 0 && practice ? 500 : false),
  });
  return (data ?? []).filter((one) => one.kind !== "clock");
}

export type Order =
  | { do: "tare" }
  | { do: "calibrate"; with: number }
  | { do: "pour"; grams: number }
  | { do: "lift" }
  | { do: "drop"; count: number };

/** Tells an instrument something; if it doesn't hear, that is said. */
export function tell(instrument: InstrumentView, order: Order) {
  const path = { params: { path: { id: instrument.id } } };
  orComplain(answer(api.POST("/api/instruments/{id}", { ...path, body: order })));
}

export const kinds: Record<InstrumentKind, string> = {
  scale: "Scale",
  thermometer: "Thermometer",
  refractometer: "Refractometer",
  ph_meter: "pH meter",
  acid_kit: "Acid kit",
  clock: "Clock",
};

/** What an instrument measures of what is in a vessel. */
export const measures = {
  scale: "weight",
  thermometer: "temperature",
  refractometer: "brix",
  ph_meter: "ph",
  acid_kit: "acidity",
} as const;

/** What is there, in words: the reading, or why there is none. */
export function shown(one: InstrumentView): string {
  if (one.condition === "gone") return "gone away";
  if (one.condition === "silent") return "silent";
  if (one.condition === "garbled") return "can't be read";
  if (one.value == null) return "–";
  const places = { scale: 0, thermometer: 1, refractometer: 1, ph_meter: 2, acid_kit: 2, clock: 0 };
  return `${one.value.toFixed(places[one.kind])} ${one.unit}`;
}
