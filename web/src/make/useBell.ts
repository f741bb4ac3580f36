import { useEffect, useRef } from "react";
import type { BatchView } from "../api/client";
import { momentOf } from "./clock";

/** Two short tones, made by the browser itself. A browser lets them be heard once the page was touched. */
function ring() {
  try {
    const audio = new AudioContext();
    [880, 1174].forEach((pitch, i) => {
      const tone = audio.createOscillator();
      const loud = audio.createGain();
      tone.frequency.value = pitch;
      loud.gain.setValueAtTime(0.2, audio.currentTime + i * 0.25);
      loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + i * 0.25 + 0.22);
      tone.connect(loud).connect(audio.destination);
      tone.start(audio.currentTime + i * 0.25);
      tone.stop(audio.currentTime + i * 0.25 + 0.24);
    });
  } catch {
    // Where there is no sound, the title says it.
  }
}

/** How many waits are over; each is heard once. */
export function useBell(view: BatchView, now: number): number {
  const heard = useRef(new Set<string>());
  const over = view.stands.steps.filter(
    (step) => step.state === "running" && momentOf(view.begun_at, step.until ?? 0) <= now,
  );
  const names = over.map((step) => step.id).join(" ");
  useEffect(() => {
    const fresh = names.split(" ").filter((id) => id && !heard.current.has(id));
    fresh.forEach((id) => heard.current.add(id));
    if (fresh.length > 0) ring();
  }, [names]);
  return over.length;
}
