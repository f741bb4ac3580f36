import { answer, api, type BatchView, type InstrumentView } from "../api/client";

const path = (view: BatchView) => ({ params: { path: { id: view.id } } });

/** Puts what a vessel really holds before an instrument. */
export function putBefore(view: BatchView, vessel: string, instrument: InstrumentView) {
  const body = { vessel, instrument: instrument.id };
  return answer(api.POST("/api/batches/{id}/put", { ...path(view), body }));
}

type Look = { gave: string } | { marks: string } | { height: string } | { sip: string };

/** Looks at the marks of a jug, or tastes. */
export function look(view: BatchView, what: Look) {
  return answer(api.POST("/api/batches/{id}/look", { ...path(view), body: what }));
}

/** Hurries a clock: so many times as fast, or to the end of the next wait. */
export function hurried(id: string, to: { do: "rate"; times: number } | { do: "to_next" }) {
  return answer(api.POST("/api/batches/{id}/clock", { params: { path: { id } }, body: to }));
}
